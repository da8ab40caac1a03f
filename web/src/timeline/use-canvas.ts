import { type RefObject, useCallback, useEffect, useRef } from 'react';
import { useThemeChange } from '../ui/theme.ts';

/** Draws a canvas at the next refresh whenever asked, when its size changes, and when the theme or the fonts do. */
export function useCanvas(
  canvas: RefObject<HTMLCanvasElement | null>,
  draw: (canvas: HTMLCanvasElement) => void,
): () => void {
  const request = useRef(0);
  const latest = useRef(draw);
  latest.current = draw;
  const ask = useCallback(() => {
    if (request.current !== 0) return;
    request.current = requestAnimationFrame(() => {
      request.current = 0;
      if (canvas.current) latest.current(canvas.current);
    });
  }, [canvas]);
  useThemeChange(ask);
  useEffect(() => {
    const size = new ResizeObserver(ask);
    if (canvas.current) size.observe(canvas.current);
    void document.fonts.ready.then(ask);
    return () => {
      size.disconnect();
      cancelAnimationFrame(request.current);
      request.current = 0;
    };
  }, [canvas, ask]);
  return ask;
}
