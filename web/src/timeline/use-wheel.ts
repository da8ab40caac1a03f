import { type RefObject, useEffect, useRef } from 'react';

/** Listens for the wheel in a way that may keep the page from zooming or scrolling, which React's own handler may not. */
export function useWheel(element: RefObject<HTMLElement | null>, handler: (event: WheelEvent) => void): void {
  const latest = useRef(handler);
  latest.current = handler;
  useEffect(() => {
    const target = element.current;
    const listen = (event: WheelEvent) => {
      event.preventDefault();
      latest.current(event);
    };
    target?.addEventListener('wheel', listen, { passive: false });
    return () => target?.removeEventListener('wheel', listen);
  }, [element]);
}
