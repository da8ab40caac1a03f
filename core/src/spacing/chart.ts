import type { NumberCurve } from '../curve/key.ts';
import { keyIndexAt } from '../curve/reshape.ts';
import { CurveReader } from '../curve/sample.ts';
import type { Shot } from '../document/shot.ts';

/**
 * A timing chart: between two keys, how much of the way is gone at each frame. Of several channels together it is the
 * way straight from the one pose to the other that counts, so that each channel has its share in what it moves.
 */
export interface Chart {
  readonly from: number;
  readonly to: number;
  /** The channels it is of: those with keys on both frames. */
  readonly paths: readonly string[];
  /** Channels that go on between the two frames without keys on both. */
  readonly passing: readonly string[];
  readonly ticks: readonly Tick[];
  /** The most of the whole way that is gone from one frame to the next. */
  readonly fastest: number;
  /** Length of the whole way, in the channels' units; 0 when both keys say the same. */
  readonly length: number;
}

export interface Tick {
  readonly frame: number;
  /** Share of the way gone: 0 at the first key, 1 at the second; beyond them where it overshoots. */
  readonly share: number;
  readonly breakdown: boolean;
}

/** A longer way than this is not a chart any more. */
const MOST_FRAMES = 400;

/** The two keys a frame lies between, of channels that share them. On a key it is the way from it to the next. */
export function chartSpan(shot: Shot, paths: readonly string[], frame: number): { from: number; to: number } | null {
  const frames = paths.flatMap(
    (p) =>
      shot.curves
        .get(p)
        ?.keys.filter((k) => k.role === 'key')
        .map((k) => k.frame) ?? [],
  );
  const latest = (limit: number) => frames.reduce((f, k) => (k < limit && k > f ? k : f), Number.NEGATIVE_INFINITY);
  let from = latest(frame + 1e-6);
  let to = frames.reduce((f, k) => (k > frame + 1e-6 && k < f ? k : f), Number.POSITIVE_INFINITY);
  // On the last key and beyond it, it is the way that ends there.
  if (to === Number.POSITIVE_INFINITY) [from, to] = [latest(from - 1e-6), from];
  return Number.isFinite(from) && Number.isFinite(to) && to - from <= MOST_FRAMES ? { from, to } : null;
}

/** The chart of channels around a frame; null where they have no two keys to go between. */
export function chartOf(shot: Shot, wanted: readonly string[], frame: number): Chart | null {
  const numbers = wanted.filter((p) => shot.curves.get(p)?.type === 'number');
  const span = chartSpan(shot, numbers, frame);
  if (!span) return null;
  const { from, to } = span;
  const paths = numbers.filter(
    (p) => keyIndexAt(shot.curves.at(p).keys, from) >= 0 && keyIndexAt(shot.curves.at(p).keys, to) >= 0,
  );
  const ways = paths.map((p) => {
    const reader = new CurveReader(shot.curves.get(p) as NumberCurve);
    const start = reader.at(from);
    return { reader, start, rise: reader.at(to) - start };
  });
  const passing = numbers.filter((p) => {
    if (paths.includes(p)) return false;
    const reader = new CurveReader(shot.curves.get(p) as NumberCurve);
    return Math.abs(reader.at(to) - reader.at(from)) > 1e-9;
  });
  const square = ways.reduce((sum, w) => sum + w.rise * w.rise, 0);
  const shareAt = (f: number) =>
    square < 1e-18 ? 0 : ways.reduce((sum, w) => sum + (w.reader.at(f) - w.start) * w.rise, 0) / square;
  const ticks: Tick[] = [];
  for (let f = Math.floor(from) + 1; f < to - 1e-6; f++) {
    const breakdown = paths.some((p) => keyIndexAt(shot.curves.at(p).keys, f) >= 0);
    ticks.push({ frame: f, share: shareAt(f), breakdown });
  }
  const shares = [0, ...ticks.map((t) => t.share), 1];
  const fastest = shares.slice(1).reduce((most, s, i) => Math.max(most, Math.abs(s - shares[i])), 0);
  return { from, to, paths, passing, ticks, fastest, length: Math.sqrt(square) };
}
