import type { Panel, PanelFrame } from '../document/board.ts';
import { PANEL_ASPECT } from '../document/board.ts';

/** What of a panel is seen without a camera: all of it. */
export const wholePanel: PanelFrame = { x: 0.5, y: 0.5 / PANEL_ASPECT, wide: 1 };

/**
 * What the camera of a panel sees, a share of its time in: it leaves gently and comes to rest gently. Widths go by their ratio, so that
 * a move in is as quick at its end as where it began.
 * @param share from 0, where the panel begins, to 1
 */
export function panelFrameAt({ camera }: Pick<Panel, 'camera'>, share: number): PanelFrame {
  if (!camera) return wholePanel;
  const { from, to } = camera;
  if (!to) return from;
  const s = share * share * (3 - 2 * share);
  const wide = from.wide * (to.wide / from.wide) ** s;
  // Where it moves in, its middle goes so that one point of the picture stays where it is seen.
  const q = Math.abs(to.wide - from.wide) < 1e-6 ? s : (wide - from.wide) / (to.wide - from.wide);
  return { x: from.x + (to.x - from.x) * q, y: from.y + (to.y - from.y) * q, wide };
}

/** How far into its panel a frame is, from 0 on its first to 1 on its last. */
export const panelShare = (frame: number, { first, last }: { first: number; last: number }): number =>
  last > first ? Math.min(1, Math.max(0, (frame - first) / (last - first))) : 0;
