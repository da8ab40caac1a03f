import { scaleLinear } from 'd3';

/** Frames across, pixels along: the axis the sheet and the curves share. */
export interface Span {
  readonly first: number;
  readonly last: number;
}

export const timeScale = (span: Span, width: number) => scaleLinear([span.first, span.last], [0, width]);

const LEAST = 3;
const MOST = 100_000;

/** The span after zooming by a factor about a frame (below 1 is nearer). */
export function zoomed(span: Span, factor: number, about: number): Span {
  const length = Math.min(MOST, Math.max(LEAST, (span.last - span.first) * factor));
  const share = (about - span.first) / (span.last - span.first);
  const first = about - share * length;
  return { first, last: first + length };
}

export const panned = (span: Span, by: number): Span => ({ first: span.first + by, last: span.last + by });

/** Frames to rule at: at every so many, so that labels stand a hand's breadth apart. Steps that animators count in. */
export function ruling(span: Span, width: number, rate: number): { step: number; frames: number[] } {
  const perPixel = (span.last - span.first) / width;
  const steps = [1, 2, 4, 6, 12, rate, rate * 2, rate * 5, rate * 10, rate * 30, rate * 60];
  const step = Math.round(steps.sort((a, b) => a - b).find((s) => s / perPixel >= 46) ?? rate * 120);
  const frames: number[] = [];
  // Counted from frame 1, as the interface does: 1, 13, 25…
  for (let f = 1 + Math.ceil((span.first - 1) / step) * step; f <= span.last; f += step) frames.push(f);
  return { step, frames };
}
