import { splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { channelWords } from '../document/words.ts';
import { isStill, removeStill } from '../edit/commands/shapes.ts';
import type { Check } from './check.ts';

/** The curves of a member that have keys, and say the same at all of them. */
const stillOf = (shot: Shot, member: string): string[] =>
  shot.curves
    .entries()
    .filter(([path, curve]) => splitPath(path).member === member && curve.keys.length > 1 && isStill(curve))
    .map(([path]) => path);

export const neverChanges: Check = {
  id: 'neverChanges',
  name: 'Curve that never changes',
  why: 'Keys that all say the same hide the curves that matter, and hold the channel when you pose it later. They come from keying everything where one channel was meant.',
  unit: 'keys',
  tolerance: null,
  weight: 'hint',
  *look(watched) {
    const still = new Map<string, string[]>();
    for (const [path, curve] of watched.shot.curves.entries()) {
      if (curve.keys.length < 2 || !isStill(curve)) continue;
      const { member } = splitPath(path);
      // A body is keyed whole, pose by pose: that some of it keeps still is no accident.
      if (watched.member(member)?.kind === 'control') continue;
      still.set(member, [...(still.get(member) ?? []), path]);
    }
    yield null;
    for (const [id, paths] of still) {
      const keys = paths.reduce((n, p) => n + watched.shot.curves.at(p).keys.length, 0);
      const what =
        paths.length === 1 ? channelWords(watched.shot, paths) : `${paths.length} channels of ${watched.name(id)}`;
      yield {
        member: id,
        path: paths.length === 1 ? paths[0] : undefined,
        frame: null,
        value: keys,
        text: `${what}: ${keys} keys that all say the same.`,
      };
    }
  },
  fix: {
    words: 'delete them',
    all: true,
    apply: (shot, { member }) => removeStill.apply(shot, { paths: stillOf(shot, member) }),
  },
};
