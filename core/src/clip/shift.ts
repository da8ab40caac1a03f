import { closedCurve } from '../curve/closed.ts';
import type { Curve, NumberCurve } from '../curve/key.ts';
import { keyIndexAt, tidyFrame } from '../curve/reshape.ts';
import { withPinned, withSplit } from '../curve/split.ts';
import { type AnyKey, stretchedKey } from '../curve/turn-back.ts';
import type { Clip, Stance } from '../document/clip.ts';
import { type Circle, circleOf, laidOut, phaseOf } from './circle.ts';

/** Curves of a cycle moved round it, and made longer or shorter with it. */

/** The clip as a circle that begins at 0. */
const round = (length: number) => ({ first: 0, length });

/** A curve's keys moved so many frames round the cycle, with a key at the seam that changes nothing. */
export function shifted(curve: Curve, clip: Clip, by: number): Curve {
  const circle: Circle = new Map();
  for (const [phase, key] of circleOf(curve, clip, curve)) {
    const at = phaseOf(round(clip.length), phase + by);
    circle.set(at, { ...key, frame: clip.first + at });
  }
  return withSeam(laidOut(circle, curve.type, clip)!, clip);
}

/**
 * A curve of a cycle with a key at the seam, and where halves are mirrored one half a cycle away, which is the image of its
 * counterpart's. Where there was none, the way goes through it as it was.
 */
export function withSeam(curve: Curve, clip: Clip): Curve {
  if (curve.type !== 'number' || curve.keys.length < 2) return curve;
  const sealed = curve.keys[0].frame === clip.first ? curve : cutAtSeam(curve, clip);
  const half = clip.first + clip.length / 2;
  if (clip.halves !== 'mirrored' || keyIndexAt(sealed.keys, half) >= 0) return sealed;
  return oneSeam(asBreakdown(withSplit(besideSeam(sealed, half), half), half), clip);
}

/** A curve to be cut beside its seam: what the key there does on its other side must not follow its new neighbour. */
function besideSeam(curve: NumberCurve, frame: number): NumberCurve {
  const last = curve.keys.length - 1;
  const before = curve.keys.findLastIndex((k) => k.frame < frame);
  const pinned = before === 0 ? withPinned(curve, last, 'in') : curve;
  return before + 1 === last ? withPinned(pinned, 0, 'out') : pinned;
}

function cutAtSeam(curve: NumberCurve, clip: Clip): NumberCurve {
  const end = clip.first + clip.length;
  // The first key's way out must not follow its new neighbour either.
  return oneSeam(asBreakdown(withSplit(withPinned(closedCurve(curve), 0, 'out'), end), end), clip);
}

/** A curve that was cut as one from its first key to that key again: what the cut made of its way in belongs to the first. */
function oneSeam({ keys }: NumberCurve, clip: Clip): NumberCurve {
  const open = [{ ...keys[0], in: keys[keys.length - 1].in }, ...keys.slice(1, -1)];
  const circle: Circle = new Map(open.map((k) => [phaseOf(clip, k.frame), k]));
  return laidOut(circle, 'number', clip) as NumberCurve;
}

const asBreakdown = (curve: NumberCurve, frame: number): NumberCurve => ({
  ...curve,
  keys: curve.keys.map((k) => (k.frame === frame ? { ...k, role: 'breakdown' } : k)),
});

/** Stances moved round the cycle, each beginning within it. */
export function shiftedStances(stances: readonly Stance[], length: number, by: number): Stance[] {
  return stances
    .map(({ from, to }) => {
      const start = Math.round(phaseOf(round(length), from + by)) % length;
      return { from: start, to: start + (to - from) };
    })
    .sort((a, b) => a.from - b.from);
}

/**
 * A curve of a clip for the same clip with another length: its keys where they were in proportion, on whole frames. Where two would come
 * together on one they all stay between the frames: no key is lost.
 */
export function stretched(curve: Curve, clip: Clip, length: number): Curve | null {
  const factor = length / clip.length;
  if (!clip.cycles) {
    const frames = placesOf(curve.keys.map((k) => (k.frame - clip.first) * factor));
    const keys = (curve.keys as readonly AnyKey[]).map((k, i) => ({
      ...stretchedKey(k, factor),
      frame: clip.first + frames[i],
    }));
    return { ...curve, keys } as Curve;
  }
  const own = [...circleOf(curve, clip, curve)];
  const phases = placesOf(
    own.map(([phase]) => phase * factor),
    length,
  );
  const circle: Circle = new Map(
    own.map(([, key], i) => [phases[i], { ...stretchedKey(key, factor), frame: clip.first + phases[i] }]),
  );
  return laidOut(circle, curve.type, { ...clip, length });
}

/** Places rounded to whole frames, on a circle of a length where one is given; as they are where two would come together. */
function placesOf(exact: readonly number[], length = Number.POSITIVE_INFINITY): readonly number[] {
  const whole = exact.map((p) => (Math.round(p) >= length ? 0 : Math.round(p)));
  return new Set(whole).size === whole.length ? whole : exact.map(tidyFrame);
}
