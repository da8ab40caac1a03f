import type { InHandle, NumberCurve, OutHandle } from '../curve/key.ts';
import { CurveReader } from '../curve/sample.ts';
import { joinedPieces, throughCubics } from './pieces.ts';

/** What was found last for a curve of one's own over another one. */
const known = new WeakMap<NumberCurve, { readonly given: NumberCurve; readonly made: NumberCurve }>();

/**
 * What one's own keys make of what tracks give. On the frame of a key the channel is what the key says; between keys it goes on as the tracks have it, with the
 * difference going over from that at one key to that at the next as the keys are shaped, and before the first and after the last key it keeps that difference.
 * @param own keys of the shot @param given what the tracks of its rig give
 */
export function corrected(own: NumberCurve, given: NumberCurve): NumberCurve {
  const there = known.get(own);
  if (there?.given === given) return there.made;
  const [below, by] = [new CurveReader(given), new CurveReader(differenceOf(own, given))];
  const frames = [...new Set([...own.keys, ...given.keys].map((k) => k.frame))].sort((a, b) => a - b);
  const read = (frame: number) => below.at(frame) + by.at(frame);
  const pieces = frames.slice(1).map((to, i) => {
    const from = frames[i];
    // A piece ends just before what begins at its end.
    return throughCubics((f) => read(Math.min(f, to - 1e-9)), from, to);
  });
  // What begins on the last frame has no piece of its own.
  const end = frames[frames.length - 1];
  const keys = joinedPieces([...pieces, throughCubics(read, end, end + 1).slice(0, 1)]);
  const made: NumberCurve = { type: 'number', keys, before: 'hold', after: 'hold' };
  known.set(own, { given, made });
  return made;
}

/** One's own keys as what they differ by from a curve below them. */
function differenceOf(own: NumberCurve, given: NumberCurve): NumberCurve {
  const below = new CurveReader(given);
  const keys = own.keys.map((k) => {
    const here = below.at(k.frame);
    const less = <H extends InHandle | OutHandle>(handle: H, side: 1 | -1): H =>
      handle.kind === 'free'
        ? { ...handle, rise: handle.rise - (below.at(k.frame + side * handle.frames) - here) }
        : handle;
    return { ...k, value: k.value - here, in: less(k.in, -1), out: less(k.out, 1) };
  });
  return { ...own, keys };
}
