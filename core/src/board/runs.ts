import type { Panel } from '../document/board.ts';
import type { Shot } from '../document/shot.ts';

/** A panel with the frames of the shot on which it stands, both included. */
export interface PanelRun {
  readonly panel: Panel;
  /** Which it is on the board, from 0. */
  readonly index: number;
  readonly first: number;
  readonly last: number;
}

/** The panels of a board in their order. */
export const panelsOf = ({ panels }: Pick<Shot, 'panels'>): Panel[] =>
  panels.values().sort((a, b) => a.place - b.place || (a.id < b.id ? -1 : 1));

/** The frames on which each panel stands: one after another from the shot's first frame, each as long as it says. */
export function panelRuns(shot: Pick<Shot, 'panels' | 'range'>): PanelRun[] {
  let first = shot.range.first;
  return panelsOf(shot).map((panel, index) => {
    const run = { panel, index, first, last: first + panel.frames - 1 };
    first += panel.frames;
    return run;
  });
}

/** How many frames a board has. */
export const boardFrames = ({ panels }: Pick<Shot, 'panels'>): number =>
  panels.values().reduce((sum, panel) => sum + panel.frames, 0);

/** The panel that stands on a frame; before the first one that, and after the last one the last. Null for an empty board. */
export function panelAt(runs: readonly PanelRun[], frame: number): PanelRun | null {
  let [low, high] = [0, runs.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (runs[middle].last + 1 <= frame) low = middle + 1;
    else high = middle;
  }
  return runs[Math.min(low, runs.length - 1)] ?? null;
}

/** A place on the board before a panel, or at its end: between its neighbours' places, so that nobody else is moved. */
export function placeBefore(panels: readonly Panel[], before: string | null): number {
  const at = before === null ? panels.length : panels.findIndex((p) => p.id === before);
  const next = panels[at < 0 ? panels.length : at]?.place;
  const last = panels[(at < 0 ? panels.length : at) - 1]?.place;
  if (last === undefined) return next === undefined ? 0 : next - 1;
  return next === undefined ? last + 1 : (last + next) / 2;
}
