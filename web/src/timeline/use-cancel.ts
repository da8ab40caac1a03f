import { type RefObject, useEffect, useRef } from 'react';
import type { Preview } from '../shot/previews.ts';
import { onEscape } from '../ui/on-escape.ts';

/** Lets go of a drag without doing what it previewed, when the browser takes the pointer away or Escape is pressed. */
export function useCancel(press: RefObject<unknown>, preview: Preview, cleared: () => void): () => void {
  const latest = useRef(cleared);
  latest.current = cleared;
  const cancel = useRef(() => {
    press.current = null;
    latest.current();
    preview.drop();
  });
  useEffect(
    () =>
      onEscape(() => {
        const dragging = press.current !== null;
        if (dragging) cancel.current();
        return dragging;
      }),
    [press],
  );
  return cancel.current;
}

/** Where a pointer is on an element, in pixels from its top left. */
export function placeOn(element: Element, event: { clientX: number; clientY: number }): [x: number, y: number] {
  const edge = element.getBoundingClientRect();
  return [event.clientX - edge.left, event.clientY - edge.top];
}
