import type { DrawingTool, StrokeTint } from '@varrup/core';
import { create } from 'zustand';
import type { Pencil } from './pen.ts';

/** With what one draws, on panels and for notes, and what of a drawing is seen. */
export interface Drawing {
  readonly tool: DrawingTool;
  readonly tint: StrokeTint;
  readonly wide: Readonly<Record<DrawingTool, number>>;
  /** The sheet that is drawn on, and those that are not seen. */
  readonly sheet: number;
  readonly hidden: readonly number[];
  /** Whether the panel before shines through. */
  readonly onion: boolean;
}

export const useDrawing = create<Drawing>(() => ({
  tool: 'pencil',
  tint: 'graphite',
  wide: { pencil: 0.005, rubber: 0.05, tone: 0.06 },
  sheet: 1,
  hidden: [],
  onion: false,
}));

/** From the finest to the broadest. */
export const widths: Readonly<Record<DrawingTool, readonly number[]>> = {
  pencil: [0.0025, 0.005, 0.01, 0.02],
  rubber: [0.02, 0.05, 0.1, 0.2],
  tone: [0.03, 0.06, 0.12, 0.24],
};

export const pencilNow = (): Pencil => {
  const { tool, tint, wide } = useDrawing.getState();
  return { tool, tint, wide: wide[tool] };
};

/** A broader or a finer one of the tool in hand. */
export function changeWidth(by: 1 | -1): void {
  const { tool, wide } = useDrawing.getState();
  const all = widths[tool];
  const at = all.findIndex((w) => w >= wide[tool] - 1e-9);
  const next = all[Math.min(all.length - 1, Math.max(0, at + by))];
  useDrawing.setState({ wide: { ...wide, [tool]: next } });
}
