import { mirrorSign, poseChannels } from '../body/posing.ts';
import { channelPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { moveKeys } from '../edit/commands/keys.ts';
import { type Check, type Draft, frameText } from './check.ts';
import type { Watched } from './watched.ts';

/** Moves smaller than this, metres or radians, are not seen as doing the same. */
const SEEN = 0.03;
/** How many frames one is put behind the other by the fix. */
const APART = 2;

interface Pair {
  readonly here: string;
  readonly there: string;
  /** How far one is from being the mirror image of the other, per cent of how far it goes. */
  readonly apart: number;
  readonly from: number;
  readonly to: number;
}

/** The pairs of controls that both move, and by how much they differ from one another's mirror images. */
function* pairsOf(watched: Watched): Iterable<Pair | null> {
  for (const body of watched.bodies) {
    const { controls } = body.placed.compiled.rig;
    for (const control of controls) {
      if (control.side !== 'left' || control.partner === null) continue;
      const here = body.member(watched.frame, control.id);
      const there = body.member(watched.frame, control.partner);
      const pair = compared(watched, control, here, there);
      yield pair;
    }
  }
}

function compared(
  watched: Watched,
  control: Parameters<typeof mirrorSign>[0],
  here: string,
  there: string,
): Pair | null {
  let widest = 0;
  let apart = 0;
  let [from, to] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const { id } of poseChannels(watched.member(here), watched.shot.rigs)) {
    const [a, b] = [watched.valuesOf(channelPath(here, id)), watched.valuesOf(channelPath(there, id))];
    if (!a || !b) continue;
    const curve = watched.shot.curves.get(channelPath(here, id));
    if (curve) {
      from = Math.min(from, curve.keys[0].frame);
      to = Math.max(to, curve.keys[curve.keys.length - 1].frame);
    }
    const sign = mirrorSign(control, id);
    const range = spread(a, (v) => v);
    widest = Math.max(widest, range);
    // The same way, whatever place each does it at.
    apart = Math.max(
      apart,
      spread(a, (v, i) => v - sign * b[i]),
    );
  }
  return widest < SEEN ? null : { here, there, apart: (apart / widest) * 100, from, to };
}

function spread(values: Float64Array, read: (value: number, i: number) => number): number {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let i = 0; i < values.length; i++) {
    const v = read(values[i], i);
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  return high - low;
}

export const twinned: Check = {
  id: 'twinned',
  name: 'Twinned limbs',
  why: 'Two hands that do the same at the same frame look like a puppet’s, unless that is the joke. Shift one by two or three frames, or give it less.',
  unit: '%',
  tolerance: 12,
  most: 100,
  step: 1,
  weight: 'hint',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const pair of pairsOf(watched)) {
      if (pair && pair.apart < tolerance)
        yield {
          member: pair.here,
          frame: Math.max(watched.first, Math.ceil(pair.from)),
          until: pair.to,
          value: pair.apart,
          text: `${watched.name(pair.here)} and ${watched.name(pair.there)} do the same from ${frameText(pair.from)} to ${frameText(pair.to)}: they differ by ${pair.apart.toFixed(0)} % of their way.`,
        };
      yield null;
    }
  },
  fix: {
    words: 'put one two frames behind',
    apply(shot, { member }): Shot {
      const keys = Object.fromEntries(
        shot.curves
          .entries()
          .filter(([path]) => path.startsWith(`${member}.`))
          .map(([path, curve]) => [path, (curve.keys as readonly { frame: number }[]).map((k) => k.frame)]),
      );
      return moveKeys.apply(shot, { keys, by: APART, rise: 0, copy: false, collision: 'replace' });
    },
  },
};
