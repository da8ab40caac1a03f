import { phaseOf } from '../clip/circle.ts';
import { withSeam } from '../clip/shift.ts';
import { splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { channelWords } from '../document/words.ts';
import { type Check, type Draft, frameText } from './check.ts';
import type { WatchedCycle } from './cycles.ts';

/** The curves of a cycle's rig, by path. */
export const curvesOf = (shot: Shot, { rig }: WatchedCycle) =>
  shot.curves.entries().filter(([path]) => {
    const member = shot.members.get(splitPath(path).member);
    return member?.kind === 'control' && member.parent === rig;
  });

export const seamKey: Check = {
  id: 'seamKey',
  name: 'No key at the seam',
  why: 'Where one channel has no key at the seam, nothing holds the pose there. The next change beside it moves it, and it no longer fits the others.',
  unit: 'frames',
  tolerance: 0,
  most: 1_000,
  step: 1,
  weight: 'fault',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const cycle of watched.cycles) {
      const { first, length, clip } = cycle;
      for (const [path, { keys, after }] of curvesOf(watched.shot, cycle)) {
        if (keys.length < 2 || (clip === null && after !== 'cycle' && after !== 'travel')) continue;
        const lasts = keys[keys.length - 1].frame;
        // Without a clip a curve repeats over its own keys, and both ends have to be those of the others.
        const missing = clip
          ? Math.min(...keys.map((k) => Math.min(phaseOf(cycle, k.frame), length - phaseOf(cycle, k.frame))))
          : Math.max(Math.abs(keys[0].frame - first), Math.abs(lasts - first - length));
        if (missing <= Math.max(tolerance, 1e-6)) continue;
        const frame = first + length;
        yield {
          member: splitPath(path).member,
          path,
          frame,
          value: missing,
          unfixable: clip === null,
          text: clip
            ? `${channelWords(watched.shot, [path])} has no key at the seam: at ${frameText(frame)}, and so at ${frameText(first)}, nothing holds it.`
            : `${channelWords(watched.shot, [path])} cycles over ${frameText(keys[0].frame)} to ${frameText(lasts)}, the others over ${frameText(first)} to ${frameText(frame)}.`,
        };
      }
      yield null;
    }
  },
  fix: {
    words: 'key it there as it is',
    apply(shot, { path, member }): Shot {
      const curve = path === null ? undefined : shot.curves.get(path);
      const clip = shot.clips.values().find((c) => c.rig === shot.members.get(member)?.parent && c.kept === null);
      return path && curve && clip ? { ...shot, curves: shot.curves.with(path, withSeam(curve, clip)) } : shot;
    },
  },
};
