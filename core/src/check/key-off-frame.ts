import { splitPath } from '../document/channels.ts';
import { planRetiming, withRetiming } from '../edit/retiming.ts';
import { type Check, frameText } from './check.ts';

/** Keys nearer to a whole frame than this are on it. */
const ON = 1e-4;
const MOST_A_MEMBER = 20;

export const keyOffFrame: Check = {
  id: 'keyOffFrame',
  name: 'Key off the frame',
  why: 'A key between two frames is never shown: the pose you set is passed by. It often comes from scaling time, and is hard to find again.',
  unit: 'frames',
  tolerance: null,
  weight: 'hint',
  *look(watched) {
    const found = new Map<string, Map<number, string[]>>();
    for (const [path, curve] of watched.shot.curves.entries()) {
      for (const { frame } of curve.keys) {
        if (Math.abs(frame - Math.round(frame)) < ON) continue;
        const { member } = splitPath(path);
        const own = found.get(member) ?? new Map<number, string[]>();
        found.set(member, own.set(frame, [...(own.get(frame) ?? []), path]));
      }
    }
    yield null;
    for (const [member, frames] of found) {
      for (const [frame, paths] of [...frames].slice(0, MOST_A_MEMBER)) {
        const keys = paths.length === 1 ? 'A key' : `${paths.length} keys`;
        yield {
          member,
          path: paths.length === 1 ? paths[0] : undefined,
          frame,
          value: Math.abs(frame - Math.round(frame)),
          text: `${keys} of ${watched.name(member)} ${paths.length === 1 ? 'stands' : 'stand'} at ${frameText(frame)}, between two frames.`,
        };
      }
    }
  },
  fix: {
    words: 'to the whole frame',
    apply(shot, { member, frame }) {
      if (frame === null) return shot;
      const paths = shot.curves
        .keys()
        .filter(
          (p) => splitPath(p).member === member && shot.curves.at(p).keys.some((k) => Math.abs(k.frame - frame) < 1e-6),
        );
      const keys = Object.fromEntries(paths.map((p) => [p, [frame]]));
      return withRetiming(shot, planRetiming(shot, keys, { kind: 'whole' }, 'replace'));
    },
  },
};
