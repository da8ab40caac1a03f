import { C0, C1, C2, C3, type CompiledCurve, EVEN, SEGMENT, X1, X2 } from './compile.ts';
import type { NumberCurve } from './key.ts';
import { CurveReader } from './sample.ts';

/** A place where a curve turns round: a top or a bottom, with how steep it is on both sides. */
export interface Extreme {
  readonly kind: 'top' | 'bottom';
  /** Where it is reached, and where it is left; different where the curve lies level there. */
  readonly frame: number;
  readonly until: number;
  readonly value: number;
  /** Value per frame just before and just after. */
  readonly slopeIn: number;
  readonly slopeOut: number;
}

/** Slopes are read off over this part of a frame: short enough to be the slope at the key, long enough to be exact. */
const BESIDE = 1 / 256;

/**
 * The places where a curve turns between going up and going down, in order, found in closed form. Its first and its last stretch
 * count too: what begins by falling begins at a top, what ends after a fall ends at a bottom.
 * @param flat values nearer than this are level
 */
export function extremesOf(curve: NumberCurve, flat = 1e-9): Extreme[] {
  const reader = new CurveReader(curve);
  const runs = monotoneRuns(reader.compiled, flat);
  const out: Extreme[] = [];
  const add = (kind: Extreme['kind'], frame: number, until: number, value: number) => {
    const slopeIn = (value - reader.at(frame - BESIDE)) / BESIDE;
    const slopeOut = (reader.at(until + BESIDE) - value) / BESIDE;
    out.push({ kind, frame, until, value, slopeIn, slopeOut });
  };
  const [first, ...rest] = runs;
  if (!first) return [];
  let going = first;
  add(first.up ? 'bottom' : 'top', first.from, first.from, first.start);
  for (const run of rest) {
    if (run.up !== going.up) add(going.up ? 'top' : 'bottom', going.to, run.from, going.end);
    going = run;
  }
  add(going.up ? 'top' : 'bottom', going.to, going.to, going.end);
  return out;
}

/** A stretch on which a curve goes only up or only down. */
interface Run {
  readonly up: boolean;
  readonly from: number;
  to: number;
  readonly start: number;
  end: number;
}

function monotoneRuns(compiled: CompiledCurve, flat: number): Run[] {
  const { frames, values, segments } = compiled;
  const runs: Run[] = [];
  const go = (from: number, to: number, start: number, end: number) => {
    if (Math.abs(end - start) <= flat) return;
    const up = end > start;
    const last = runs.at(-1);
    if (last && last.up === up && last.to === from) {
      last.to = to;
      last.end = end;
    } else runs.push({ up, from, to, start, end });
  };
  for (let i = 0; i + 1 < frames.length; i++) {
    const s = i * SEGMENT;
    let [from, start] = [frames[i], values[i]];
    for (const u of turns(segments, s)) {
      const frame = frameAt(compiled, i, u);
      const value = ((segments[s + C3] * u + segments[s + C2]) * u + segments[s + C1]) * u + segments[s + C0];
      go(from, frame, start, value);
      [from, start] = [frame, value];
    }
    // A stepped stretch is level up to its end, and jumps there.
    const end = segments[s + C0] + segments[s + C1] + segments[s + C2] + segments[s + C3];
    go(from, frames[i + 1], start, end);
    go(frames[i + 1], frames[i + 1], end, values[i + 1]);
  }
  return runs;
}

/** Where a segment's value turns round inside it: roots of the derivative, as parameters from 0 to 1. */
function turns(segments: Float64Array, s: number): number[] {
  const a = 3 * segments[s + C3];
  const b = 2 * segments[s + C2];
  const c = segments[s + C1];
  const inside = (u: number) => u > 1e-9 && u < 1 - 1e-9;
  if (Math.abs(a) < 1e-12) return Math.abs(b) < 1e-12 ? [] : [-c / b].filter(inside);
  const root = b * b - 4 * a * c;
  if (root <= 0) return [];
  // The form without cancellation.
  const q = -0.5 * (b + (b < 0 ? -1 : 1) * Math.sqrt(root));
  return [q / a, q === 0 ? Number.NaN : c / q].filter(inside).sort((u, v) => u - v);
}

function frameAt({ frames, segments }: CompiledCurve, i: number, u: number): number {
  const s = i * SEGMENT;
  const duration = frames[i + 1] - frames[i];
  const v = 1 - u;
  const share = segments[s + X1] === EVEN ? u : (3 * v * (v * segments[s + X1] + u * segments[s + X2]) + u * u) * u;
  return frames[i] + duration * share;
}
