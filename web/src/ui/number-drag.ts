import type { PointerEvent } from 'react';
import type { NumberRange } from './number-range.ts';

/** A number under a hand that drags sideways: a pixel is a step, with Shift ten of them, with Alt a tenth. It stops at the ends of its range. */

const PRESS_REACH = 3;

type At = Pick<PointerEvent<HTMLElement>, 'clientX' | 'shiftKey' | 'altKey'>;

export function dragging() {
  let from: { x: number; value: number; moved: boolean } | null = null;

  const reached = ({ clientX, shiftKey, altKey }: At, { step, min, max, whole }: NumberRange & { step: number }) => {
    const { x, value } = from!;
    const to = value + (clientX - x) * step * (shiftKey ? 10 : altKey ? 0.1 : 1);
    return Math.min(max, Math.max(min, whole ? Math.round(to) : to));
  };

  return {
    begin(event: PointerEvent<HTMLElement>, value: number): void {
      if (event.button !== 0) return;
      from = { x: event.clientX, value, moved: false };
      event.currentTarget.setPointerCapture(event.pointerId);
      event.preventDefault();
    },
    /** Where the number is now; null where nothing is dragged. */
    to(event: At, field: NumberRange & { step: number }): number | null {
      if (!from) return null;
      from.moved ||= Math.abs(event.clientX - from.x) > PRESS_REACH;
      return from.moved ? reached(event, field) : null;
    },
    /** Where the number has got to, or that it was only pressed; null where nothing was dragged. */
    end(event: At, field: NumberRange & { step: number }): number | 'pressed' | null {
      const end = !from ? null : from.moved ? reached(event, field) : 'pressed';
      from = null;
      return end;
    },
    drop(): void {
      from = null;
    },
  };
}
