import { frameOf, ORIENTATION } from '@varrup/core';
import { type Command, InvalidArgumentError } from 'commander';
import { readShot } from './read-shot.ts';

interface MemberOut {
  readonly id: string;
  readonly name: string;
  readonly kind: string;
  readonly parent: string | null;
  readonly visible: boolean;
  readonly channels: Record<string, number | number[]>;
  readonly world: number[];
}

const aFrame = (text: string): number => {
  const frame = Number(text);
  if (text.trim() === '' || !Number.isFinite(frame))
    throw new InvalidArgumentError('Give a frame as a number, like 12 or 12.5.');
  return frame;
};

/** `varrup eval SHOT.json --frame N`: what every member's channels hold at a frame, and where it stands in the world. */
export function registerEval(program: Command): void {
  program
    .command('eval')
    .description('print the channel values and world matrix of every member at a frame, as JSON')
    .argument('<file>', "a shot's document")
    .requiredOption('--frame <number>', 'the frame, whole or not', aFrame)
    .action(async (file: string, { frame: at }: { frame: number }) => {
      const shot = await readShot(file);
      const frame = frameOf(shot, at);
      const members = frame.layout.ids.map((id, slot): MemberOut => {
        const member = shot.members.at(id);
        const channels: MemberOut['channels'] = Object.fromEntries(
          [...frame.layout.channelAt[slot]].map(([channel, place]) => [
            channel,
            frame.values[frame.layout.base[slot] + place],
          ]),
        );
        if (member.rotation === 'orientation')
          channels[ORIENTATION] = [...frame.orientations.slice(slot * 4, slot * 4 + 4)];
        return {
          id,
          name: member.name,
          kind: member.kind,
          parent: member.parent,
          visible: frame.isVisible(slot),
          channels,
          world: [...frame.world.slice(slot * 16, slot * 16 + 16)],
        };
      });
      process.stdout.write(`${JSON.stringify({ shot: shot.name, frame: at, rate: shot.rate, members }, null, 2)}\n`);
    });
}
