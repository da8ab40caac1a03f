import { boardFrames, type Panel, type PanelRun, panelAt, panelRuns, type Shot } from '@varrup/core';
import { create } from 'zustand';
import { useShot } from '../shot/shot-store.ts';
import { usePlayhead } from '../view/playhead.ts';

/** How the board is looked at. */
export const useBoardView = create<{
  /** As the camera of the panels sees it, or the whole of each. */
  readonly asCamera: boolean;
  /** How the panel lies over the stage on the other desks. */
  readonly over: 'off' | 'beside' | 'over';
  readonly strength: number;
}>(() => ({ asCamera: false, over: 'off', strength: 0.5 }));

const known = new WeakMap<Shot['panels'], Map<number, readonly PanelRun[]>>();

/** When the panels of a shot stand: the same list as long as the board is the same. */
export function runsOf(shot: Pick<Shot, 'panels' | 'range'>): readonly PanelRun[] {
  const there = known.get(shot.panels) ?? new Map<number, readonly PanelRun[]>();
  known.set(shot.panels, there);
  const runs = there.get(shot.range.first) ?? panelRuns(shot);
  there.set(shot.range.first, runs);
  return runs;
}

/** The panel one is at: that which stands on the current frame. */
export function runNow(): PanelRun | null {
  const { shot } = useShot.getState();
  return shot ? panelAt(runsOf(shot), usePlayhead.getState().frame) : null;
}

/** A panel with nothing on it yet, as long as those before it are. */
export const freshPanel = (id: string, frames: number): Omit<Panel, 'place'> => ({
  id,
  frames,
  name: '',
  happens: '',
  says: '',
  picture: null,
  camera: null,
  shot: null,
});

/** How long a board is, in frames and in seconds. */
export const lengthWords = (shot: Shot): string => {
  const frames = boardFrames(shot);
  return `${frames} frames · ${(frames / shot.rate).toFixed(2)} s`;
};
