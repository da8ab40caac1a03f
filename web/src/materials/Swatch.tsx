import { type Cover, colourNumbers, paintedTile, patternTile } from '@varrup/core';
import { useEffect, useRef } from 'react';

/** Points along one side of a swatch. */
const POINTS = 72;

/** A material as a small square of itself. */
export function Swatch({ colour, cover }: { colour: string; cover: Cover | null }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const pencil = canvas.current?.getContext('2d');
    if (!pencil) return;
    pencil.fillStyle = colour;
    pencil.fillRect(0, 0, POINTS, POINTS);
    if (cover?.is !== 'pattern') return;
    const tile = patternTile(cover.pattern, cover.grain, POINTS);
    const points = paintedTile(tile, colourNumbers(colour), colourNumbers(cover.second));
    pencil.putImageData(new ImageData(new Uint8ClampedArray(points), POINTS, POINTS), 0, 0);
  }, [colour, cover]);
  return (
    <canvas ref={canvas} width={POINTS} height={POINTS} className="size-12 rounded-md border border-rule" aria-hidden />
  );
}
