import { type RefObject, useEffect } from 'react';
import { usePlayhead } from '../view/playhead.ts';
import { useCanvas } from './use-canvas.ts';

/** Draws what shows the frame of now, on a canvas of its own: with every frame that is played, and whenever what is under it may differ. */
export function useNow(
  canvas: RefObject<HTMLCanvasElement | null>,
  draw: (canvas: HTMLCanvasElement, frame: number) => void,
): void {
  const ask = useCanvas(canvas, (element) => draw(element, usePlayhead.getState().frame));
  useEffect(ask);
  useEffect(
    () =>
      usePlayhead.subscribe((state, old) => {
        if (state.frame !== old.frame) ask();
      }),
    [ask],
  );
}
