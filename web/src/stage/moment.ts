import type { Frame, Shot } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { live } from '../view/live.ts';
import { usePlayhead } from '../view/playhead.ts';
import { type Habits, useHabits, useView, type ViewState } from '../view/view-store.ts';

/** What one drawing of the stage is of: the shot, its numbers now, and how it is looked at. */
export interface Moment {
  readonly shot: Shot;
  readonly frame: Frame;
  readonly view: ViewState;
  readonly habits: Habits;
  readonly playing: boolean;
}

/** The moment there is now; null before a shot is open. */
export function momentNow(): Moment | null {
  const { shot } = useShot.getState();
  const frame = live.now;
  if (!shot || !frame) return null;
  const { playing } = usePlayhead.getState();
  return { shot, frame, view: useView.getState(), habits: useHabits.getState(), playing };
}
