import { type PointerEvent, useRef } from 'react';

/** Pixels a press may go without being a drag. */
const STILL = 3;

/**
 * Dragging something along time in a row over or under the sheet; a press that does not move is a press.
 * @param from where it is on the time line @param perFrame pixels a frame is wide
 */
export function useFrameDrag({
  from,
  perFrame,
  onDrag,
  onKeep,
  onDrop,
  onPress,
}: {
  from: number;
  perFrame: number;
  /** To which frame it has been dragged, also between them. */
  onDrag: (frame: number) => void;
  onKeep: () => void;
  onDrop: () => void;
  onPress?: () => void;
}) {
  const drag = useRef<{ x: number; from: number; moved: boolean } | null>(null);
  return {
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      if (event.button !== 0) return;
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = { x: event.clientX, from, moved: false };
    },
    onPointerMove: (event: PointerEvent) => {
      const held = drag.current;
      if (!held) return;
      held.moved ||= Math.abs(event.clientX - held.x) > STILL;
      if (held.moved) onDrag(held.from + (event.clientX - held.x) / perFrame);
    },
    onPointerUp: () => {
      if (drag.current?.moved) onKeep();
      else if (drag.current) onPress?.();
      drag.current = null;
    },
    onPointerCancel: () => {
      drag.current = null;
      onDrop();
    },
  };
}
