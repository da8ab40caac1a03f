import {
  beatFrames,
  countKeys,
  type KeySelection,
  moveKeys,
  nearestOf,
  planRetiming,
  type Retiming,
  type RetimingPlan,
  retimeKeys,
} from '@varrup/core';
import { type RefObject, useEffect, useRef } from 'react';
import { planWords } from '../commands/retiming.ts';
import type { Preview } from '../shot/previews.ts';
import { useShot } from '../shot/shot-store.ts';
import { useHabits } from '../view/habits.ts';
import { pickKeys } from '../view/selection.ts';
import { useTiming } from '../view/timing.ts';

/** Keys under a hand: the same in the sheet, in the curves and on the pose strip. */
export interface KeyDrag {
  readonly how: Retiming;
  /** Added to the values, in the channel's own unit. */
  readonly rise?: number;
  readonly copy?: boolean;
}

/** What is held down beside the mouse. */
export interface Held {
  readonly alt: boolean;
  readonly ctrl: boolean;
  readonly shift: boolean;
}

export const heldIn = (event: { altKey: boolean; ctrlKey: boolean; metaKey: boolean; shiftKey: boolean }): Held => ({
  alt: event.altKey,
  ctrl: event.ctrlKey || event.metaKey,
  shift: event.shiftKey,
});

/** How near a beat a key is drawn onto it, in frames. */
const BEAT_PULLS = 1.6;

/**
 * By how many frames keys are dragged: onto whole frames, onto a beat that is near where that is wanted, or freely with Ctrl.
 * @param from where the hand took hold @param raw how far it has gone
 */
export function draggedBy(from: number, raw: number, free: boolean): number {
  if (free) return Math.round(raw * 100) / 100;
  const { shot } = useShot.getState();
  const beat = shot && useHabits.getState().ontoBeats ? nearestOf(beatFrames(shot), from + raw) : null;
  const pulled = beat !== null && Math.abs(beat - from - raw) < BEAT_PULLS && Math.abs(raw) > 0.5;
  return pulled ? beat - Math.round(from) : Math.round(raw);
}

/** Shows what a drag would do, and says what it will do to other keys. */
export function previewDrag(
  preview: Preview,
  keys: KeySelection,
  { how, rise = 0, copy = false }: KeyDrag,
): RetimingPlan | null {
  const { committed } = useShot.getState();
  if (!committed) return null;
  const { collision } = useTiming.getState();
  const plan = planRetiming(committed, keys, how, collision, copy);
  if (how.kind === 'move') preview.show(moveKeys, { keys, by: how.by, rise, copy, collision, plan });
  else preview.show(retimeKeys, { keys, how, collision, plan });
  return plan;
}

/** Makes what the drag showed one edit, and keeps its keys picked. */
export function finishDrag(preview: Preview, plan: RetimingPlan | null): void {
  preview.keep();
  if (plan) pickKeys(plan.keys);
}

/** What is happening, for the note beside the hand. */
export function dragWords(plan: RetimingPlan, rate: number, copy: boolean): string {
  const count = countKeys(plan.keys);
  const what = count === 1 ? 'a key' : `${count} keys`;
  const does = doing(plan.how, what, rate, copy);
  const others = planWords(plan);
  return others ? `${does}: ${others}. R replaces, P pushes, S stops` : does;
}

function doing(how: Retiming, what: string, rate: number, copy: boolean): string {
  if (how.kind === 'move') {
    const by = Math.round(how.by * 100) / 100;
    return `${copy ? 'copy' : 'move'} ${what} by ${by} (${(how.by / rate).toFixed(2)} s)`;
  }
  if (how.kind === 'scale') return `scale ${what} to ${Math.round(how.factor * 100)} %`;
  return what;
}

/** While keys are under a hand, R, P and S choose what happens to keys in the way. */
export function useCollisionKeys(press: RefObject<unknown>, again: () => void): void {
  const latest = useRef(again);
  latest.current = again;
  useEffect(() => {
    const answers: Record<string, 'replace' | 'push' | 'stop'> = { r: 'replace', p: 'push', s: 'stop' };
    const onKey = (event: KeyboardEvent) => {
      const collision = answers[event.key.toLowerCase()];
      if (press.current === null || !collision) return;
      event.preventDefault();
      event.stopPropagation();
      useTiming.setState({ collision });
      latest.current();
    };
    addEventListener('keydown', onKey, { capture: true });
    return () => removeEventListener('keydown', onKey, { capture: true });
  }, [press]);
}
