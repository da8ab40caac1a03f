import { handleReach, type Key } from '@varrup/core';
import { scaleLinear } from 'd3';
import { RULER } from './ruler.ts';
import type { ShownCurve } from './shown-curves.ts';
import { type Span, timeScale } from './time-axis.ts';

/** Values up, frames across: where things are in the curves view. */
export interface ValueSpan {
  readonly low: number;
  readonly high: number;
}

/** The handles of more keys than this would only hide the curve. */
export const MOST_HANDLES = 24;

/** Values up, pixels down. */
export const valueScale = (values: ValueSpan, height: number) =>
  scaleLinear([values.low, values.high], [height - 8, RULER + 8]);

/** Where a handle ends on the canvas. */
export function handleEnd(
  { span, values }: { readonly span: Span; readonly values: ValueSpan },
  shown: ShownCurve,
  index: number,
  side: 'in' | 'out',
  width: number,
  height: number,
): [number, number] | null {
  const reach = handleReach(shown.curve, index, side);
  if (!reach) return null;
  const key: Key = shown.curve.keys[index];
  const frame = key.frame + (side === 'out' ? reach.frames : -reach.frames);
  const value = (key.value + reach.rise) * shown.scale + shown.shift;
  return [timeScale(span, width)(frame), valueScale(values, height)(value)];
}
