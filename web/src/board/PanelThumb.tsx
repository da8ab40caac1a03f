import { PANEL_ASPECT, type Panel, type Shot, strokesOn } from '@varrup/core';
import { useEffect, useRef } from 'react';
import { useImages } from '../media/images.ts';
import { useCanvas } from '../timeline/use-canvas.ts';
import { PanelPictures } from './panel-picture.ts';

/** Small panels are drawn once more as large as they are seen on good screens. */
const WIDTH = 320;
const pictures = new PanelPictures(WIDTH);

/** A panel as a small picture. It is drawn again when something on it changes, and not when others are drawn on. */
export function PanelThumb({ shot, panel, className = '' }: { shot: Shot; panel: Panel; className?: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const drawn = strokesOn(shot.strokes, panel.id);
  const image = useImages((s) => (panel.picture === null ? null : s.images.get(panel.picture)));
  const ask = useCanvas(canvas, (element) => pictures.onto(element.getContext('2d')!, shot, panel));
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever is seen has changed.
  useEffect(ask, [ask, drawn, panel, image]);
  return (
    <canvas
      ref={canvas}
      width={WIDTH}
      height={WIDTH / PANEL_ASPECT}
      aria-hidden
      className={`block aspect-video w-full bg-[#fbf8f1] ${className}`}
    />
  );
}
