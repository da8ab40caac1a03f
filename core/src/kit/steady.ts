import { clipAtWork } from '../clip/at-work.ts';
import type { Key } from '../curve/key.ts';
import { channelPath, shownChannels } from '../document/channels.ts';
import type { Clip } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { Program } from '../evaluate/program.ts';
import { type Steadied, steadied } from '../gait/steadied.ts';
import { throughKey } from './keys.ts';
import type { Kit, Written } from './kit.ts';
import { numberOf } from './kit.ts';

/** Keeps a head where it is, or facing where it faces, while the body under it moves. */
export const steady: Kit = {
  id: 'steady',
  name: 'Steady',
  about:
    'Keeps a part of a rig still while what carries it moves: its place, its facing or both, by a share. For heads.',
  fields: [
    {
      kind: 'choice',
      name: 'what',
      label: 'keep',
      start: 'both',
      choices: [
        { value: 'both', label: 'place and facing' },
        { value: 'facing', label: 'facing' },
        { value: 'place', label: 'place' },
      ],
    },
    {
      kind: 'number',
      name: 'left',
      label: 'leave',
      hint: 'how much of its movement is left',
      unit: '%',
      min: 0,
      max: 100,
      step: 1,
      start: 20,
    },
  ],
  write({ shot, member, settings }): Written {
    if (member.kind !== 'control' || member.parent === null)
      return { problem: 'Steady is for a control of a rig: pick the head.' };
    if (member.rotation !== 'angles') return { problem: 'It turns by an orientation. Let it turn by angles first.' };
    const clip = clipAtWork(shot, member.parent);
    if (!clip?.cycles)
      return { problem: 'Its rig has no clip that repeats: make one, then its head can be kept steady.' };
    const open = new Set(shownChannels(member, shot.rigs).map((c) => c.id));
    const what = settings.what as Steadied;
    const channels = ['move.x', 'move.y', 'move.z', 'turn.x', 'turn.y', 'turn.z'];
    const meant = channels.filter((c) => open.has(c) && (what !== 'facing' || c.startsWith('turn.')));
    if (meant.length === 0) return { problem: `${member.name} has no channels to keep it steady with.` };
    const motion = motionOf(shot, clip, member.id);
    const held = steadied(motion, numberOf(settings, 'left') / 100, what, member.order);
    const keys: Record<string, Key[]> = {};
    for (const channel of meant) {
      const c = channels.indexOf(channel);
      const own: Key[] = Array.from({ length: clip.length }, (_, f) => ({
        ...throughKey(clip.first + f, held[f * 6 + c]),
        role: f % 4 === 0 ? 'key' : 'breakdown',
      }));
      keys[channelPath(member.id, channel)] = [...own, { ...own[0], frame: clip.first + clip.length }];
    }
    return { keys };
  },
};

/** How a control stands in each frame of a clip, as if its rig stayed in place. */
function motionOf(shot: Shot, clip: Clip, id: string) {
  const still: Shot = { ...shot, clips: shot.clips.with(clip.id, { ...clip, travelling: false }) };
  const program = new Program(still);
  const frame = program.createFrame();
  const { slotOf, space: spaces } = program.layout;
  const slot = slotOf.get(id)!;
  const [world, space] = [new Float64Array(clip.length * 16), new Float64Array(clip.length * 16)];
  for (let f = 0; f < clip.length; f++) {
    program.evaluate(clip.first + f, frame);
    world.set(frame.world.subarray(slot * 16, slot * 16 + 16), f * 16);
    space.set(frame.world.subarray(spaces[slot] * 16, spaces[slot] * 16 + 16), f * 16);
  }
  return { frames: clip.length, world, space };
}
