import { type Channel, channelPath, shownChannels } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { channelWords } from '../document/words.ts';
import { shownUnit } from '../evaluate/elsewhere.ts';
import { type Check, type Draft, frameText } from './check.ts';

/** How far a value is beyond the limits of its channel. */
const beyond = ({ min, max }: Channel, value: number): number =>
  Math.max(0, (min ?? Number.NEGATIVE_INFINITY) - value, value - (max ?? Number.POSITIVE_INFINITY));

/** What of a channel's range is too little to matter, in per cent. */
const SLACK = 1;

export const limitExceeded: Check = {
  id: 'limitExceeded',
  name: 'Limit exceeded',
  why: 'The rig says how far this goes. Beyond it the form breaks, often because a smooth curve swings past its keys.',
  unit: '%',
  tolerance: SLACK,
  most: 100,
  step: 1,
  weight: 'fault',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const body of watched.bodies) {
      for (const control of body.placed.controls) {
        const id = watched.frame.layout.ids[control];
        for (const channel of shownChannels(watched.member(id), watched.shot.rigs)) {
          if (channel.min === undefined && channel.max === undefined) continue;
          const path = channelPath(id, channel.id);
          const values = watched.valuesOf(path);
          if (!values) continue;
          const range = (channel.max ?? 0) - (channel.min ?? 0) || 1;
          const over = (i: number) => (beyond(channel, values[i]) / range) * 100;
          for (const [from, to] of body.runs(watched.frames, (i) => over(i) > tolerance)) {
            let worst = from;
            for (let i = from; i <= to; i++) if (over(i) > over(worst)) worst = i;
            const scale = shownUnit(watched.shot, path);
            const limit = values[worst] > (channel.max ?? Number.POSITIVE_INFINITY) ? channel.max! : channel.min!;
            const said = (v: number) => `${(v * scale).toFixed(2)}${channel.unit}`;
            yield {
              member: id,
              path,
              frame: watched.first + worst,
              until: watched.first + to,
              value: over(worst),
              text: `${channelWords(watched.shot, [path])} is ${said(values[worst])} at ${frameText(watched.first + worst)}; it goes to ${said(limit)}.`,
            };
          }
        }
        yield null;
      }
    }
  },
  fix: {
    words: 'keep it within',
    all: true,
    apply(shot, { path }): Shot {
      const curve = path === null ? undefined : shot.curves.get(path);
      if (path === null || curve?.type !== 'number') return shot;
      const { min = Number.NEGATIVE_INFINITY, max = Number.POSITIVE_INFINITY } = channelAt(shot, path);
      const within = (v: number) => Math.min(max, Math.max(min, v));
      // Between keys that are within, flat handles keep the curve from swinging past them.
      const keys = curve.keys.map((k) => {
        const flat = { kind: 'flat' } as const;
        const out = k.out.kind === 'stepped' || k.out.kind === 'linear' ? k.out : flat;
        return { ...k, value: within(k.value), in: k.in.kind === 'linear' ? k.in : flat, out };
      });
      return { ...shot, curves: shot.curves.with(path, { ...curve, keys }) };
    },
  },
};

function channelAt(shot: Shot, path: string): Pick<Channel, 'min' | 'max'> {
  const dot = path.indexOf('.');
  const member = shot.members.at(path.slice(0, dot));
  return shownChannels(member, shot.rigs).find((c) => c.id === path.slice(dot + 1)) ?? {};
}
