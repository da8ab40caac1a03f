import type { Frame, Shot } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { type Habits, useHabits } from '../view/habits.ts';
import { live } from '../view/live.ts';
import { type LookingState, useLooking } from '../view/looking.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useSelection } from '../view/selection.ts';
import { type Shown, useShown } from '../view/shown.ts';
import { type ToolState, useTool } from '../view/tool.ts';

/** What one drawing of the stage is of: the shot, its numbers now, and how it is looked at. */
export interface Moment {
  readonly shot: Shot;
  readonly frame: Frame;
  /** Members picked; the last is the one that leads. */
  readonly picked: readonly string[];
  readonly tool: ToolState;
  readonly looking: LookingState;
  readonly shown: Shown;
  readonly habits: Habits;
  readonly playing: boolean;
}

/** The moment there is now; null before a shot is open. */
export function momentNow(): Moment | null {
  const { shot } = useShot.getState();
  const frame = live.now;
  if (!shot || !frame) return null;
  const { playing } = usePlayhead.getState();
  return {
    shot,
    frame,
    picked: useSelection.getState().picked,
    tool: useTool.getState(),
    looking: useLooking.getState(),
    shown: useShown.getState(),
    habits: useHabits.getState(),
    playing,
  };
}
