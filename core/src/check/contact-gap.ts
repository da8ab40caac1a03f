import { keyIndexAt } from '../curve/reshape.ts';
import { withSplit } from '../curve/split.ts';
import { splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { Program } from '../evaluate/program.ts';
import { Ground, type Touch } from '../ground/ground.ts';
import { type Check, type Draft, frameText, metresText } from './check.ts';
import type { Landings, Watched } from './watched.ts';

/** Something that stays this near to the ground is meant to be on it. Metres. */
const MEANT = 0.02;
/** Frames it must stay there. */
const STAYS = 3;

export const contactGap: Check = {
  id: 'contactGap',
  name: 'Gap or dip at contact',
  why: 'What lands must touch the ground, no more and no less. A few millimetres of air take the weight out of it, and a few of floor make it look soft.',
  unit: 'mm',
  tolerance: 1,
  most: 100,
  step: 0.5,
  weight: 'fault',
  *look(watched, tolerance) {
    for (const own of watched.landings) {
      const told = new Set<number>();
      for (const { contact, touch } of own.landings) {
        if (Math.abs(touch.gap) * 1000 <= tolerance) continue;
        told.add(Math.round(contact.frame));
        yield finding(watched, own, contact.frame, undefined, touch, 'where it lands');
      }
      yield* stretches(watched, own, tolerance, told);
      yield null;
    }
  },
  fix: {
    words: 'set it on the ground',
    apply: (shot, { path, frame, until }) =>
      path === null || frame === null ? shot : grounded(shot, path, frame, until),
  },
};

function finding(
  watched: Watched,
  own: Landings,
  frame: number,
  until: number | undefined,
  touch: Touch,
  when: string,
): Draft {
  const { gap } = touch;
  const who = watched.name(own.member);
  const what = touch.member === null ? 'the floor' : watched.name(touch.member);
  const text =
    gap > 0
      ? `${who} floats ${metresText(gap)} above ${what} ${when}, at ${frameText(frame)}.`
      : `${who} is ${metresText(gap)} deep in ${what} ${when}, at ${frameText(frame)}.`;
  return { member: own.member, path: own.path, frame, until, value: gap * 1000, text };
}

/** Where it floats or sinks for a while between its landings, or after the last. */
function* stretches(watched: Watched, own: Landings, tolerance: number, told: ReadonlySet<number>): Iterable<Draft> {
  const gaps = watched.gaps.get(own.member);
  if (!gaps) return;
  const limit = tolerance / 1000;
  const begin = Math.ceil(own.landings[0].contact.frame) - watched.first;
  const wrong = (i: number) => {
    if (i >= gaps.length) return 0;
    if (gaps[i] < -limit) return -1;
    const stays =
      Math.max(Math.abs(gaps[i] - (gaps[i - 1] ?? gaps[i])), Math.abs((gaps[i + 1] ?? gaps[i]) - gaps[i])) < 2e-4;
    return gaps[i] > limit && gaps[i] < MEANT && stays ? 1 : 0;
  };
  for (let i = Math.max(begin, 0); i < gaps.length; ) {
    const sign = wrong(i);
    let end = i;
    while (sign !== 0 && wrong(end + 1) === sign) end++;
    const [from, to] = [i + watched.first, end + watched.first];
    // What begins at a landing that floats has been told there.
    const known = [...told].some((f) => f >= from - 1 && f <= to + 1);
    if (sign !== 0 && !known && (sign < 0 || to - from >= STAYS)) {
      const worst = sign < 0 ? deepest(gaps, i, end) : i;
      const touch = watched.touch(own.member, worst + watched.first);
      if (touch)
        yield finding(
          watched,
          own,
          sign < 0 ? worst + watched.first : from,
          to,
          touch,
          sign < 0 ? 'on its way' : `until ${to}`,
        );
    }
    i = end + 1;
  }
}

const deepest = (gaps: Float64Array, from: number, to: number): number => {
  let best = from;
  for (let i = from; i <= to; i++) if (gaps[i] < gaps[best]) best = i;
  return best;
};

/** Moves the key at a contact, and those after it at the same height, so that they touch; where there is none, one is put there. */
export function grounded(shot: Shot, path: string, frame: number, until: number | null): Shot {
  const curve = shot.curves.get(path);
  const { member } = splitPath(path);
  if (curve?.type !== 'number') return shot;
  const program = new Program(shot);
  const numbers = program.createFrame();
  program.evaluate(frame, numbers);
  const touch = new Ground(shot).touch(numbers, member);
  if (!touch) return shot;
  const slot = numbers.layout.slotOf.get(member)!;
  const parent = numbers.layout.space[slot];
  const perUnit = parent < 0 ? 1 : numbers.world[parent * 16 + 5];
  const by = -touch.gap / touch.normal[1] / (Math.abs(perUnit) > 1e-6 ? perUnit : 1);
  const split = withSplit(curve, frame);
  const at = keyIndexAt(split.keys, frame);
  if (at < 0) return shot;
  let last = at;
  const same = (i: number) => Math.abs(split.keys[i].value - split.keys[at].value) < 1e-6;
  while (last + 1 < split.keys.length && (same(last + 1) || split.keys[last + 1].frame <= (until ?? frame))) last++;
  const keys = split.keys.map((k, i) => (i >= at && i <= last ? { ...k, value: k.value + by } : k));
  return { ...shot, curves: shot.curves.with(path, { ...split, keys }) };
}
