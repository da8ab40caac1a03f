import type { Curve, Shot } from '@varrup/core';
import { useHabits } from '../view/habits.ts';

/** How far somebody has got with a first shot, told by what the shot holds and what has been done in it. */
export interface Doings {
  readonly shot: Shot;
  readonly frame: number;
  readonly hasPlayed: boolean;
  readonly sawChecks: boolean;
}

const variesOver = (curve: Curve): boolean =>
  curve.type === 'number' && curve.keys.some((key) => key.value !== curve.keys[0].value);

/** For each of the seven steps whether it has been done. */
const done: readonly ((doings: Doings) => boolean)[] = [
  ({ shot }) => shot.members.values().some((m) => !m.locked && m.kind !== 'plane'),
  ({ shot }) => shot.loose.size > 0 || shot.curves.size > 0 || shot.members.values().some(isMoved),
  ({ shot }) => shot.curves.size > 0,
  ({ shot, frame }) => shot.curves.values().some((c) => c.keys.every((k) => Math.abs(k.frame - frame) > 0.5)),
  ({ shot }) => shot.curves.values().some(variesOver),
  ({ hasPlayed }) => hasPlayed,
  ({ sawChecks }) => sawChecks,
];

/** Higher than whoever is brought in stands, or put elsewhere. */
const isMoved = ({ values }: { readonly values: Readonly<Record<string, number>> }): boolean =>
  (values['move.y'] ?? 0) > 1 || ['move.x', 'move.z'].some((channel) => (values[channel] ?? 0) !== 0);

/** The step to be taken next, from 0; as many as there are when all are done. A step that was taken stays taken. */
export function nextStep(taken: number, doings: Doings): number {
  let step = taken;
  while (step < done.length && done[step](doings)) step++;
  return step;
}

export const STEPS = done.length;

/** Takes the first shot up, from its beginning or where it was left. */
export function openFirstShot(): void {
  const { firstShot, set } = useHabits.getState();
  set({ firstShot: { ...firstShot, is: 'open', step: firstShot.step >= STEPS ? 0 : firstShot.step } });
}
