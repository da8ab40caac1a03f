import type { Shot } from '@varrup/core';
import { usePlayhead } from '../view/playhead.ts';
import { useTiming } from '../view/timing.ts';
import { panned, timeScale, zoomed } from './time-axis.ts';

/** Goes to the whole frame under the pointer, within the range. */
export function scrubTo(frame: number, shot: Shot): void {
  const { playing, stop, go } = usePlayhead.getState();
  if (playing) stop();
  go(Math.min(shot.range.last, Math.max(shot.range.first, Math.round(frame))));
}

/** Ctrl and wheel zooms time about the pointer; a sideways wheel, or Alt and wheel, goes along it. */
export function zoomOrPan(event: WheelEvent, canvas: HTMLElement): void {
  const { span } = useTiming.getState();
  const scale = timeScale(span, canvas.clientWidth);
  if (event.ctrlKey) {
    const about = scale.invert(event.clientX - canvas.getBoundingClientRect().left);
    useTiming.setState({ span: zoomed(span, Math.exp(event.deltaY * 0.0022), about) });
  } else {
    const pixels = Math.abs(event.deltaX) > Math.abs(event.deltaY) ? event.deltaX : event.deltaY;
    useTiming.setState({ span: panned(span, scale.invert(pixels) - scale.invert(0)) });
  }
}

/** A box drawn from one place to another: left, top, right, bottom. */
export const boxOf = (box: { x: number; y: number; toX: number; toY: number }) =>
  [Math.min(box.x, box.toX), Math.min(box.y, box.toY), Math.max(box.x, box.toX), Math.max(box.y, box.toY)] as const;
