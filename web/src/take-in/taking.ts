import { clipsOfMotions, newRigMembers, onFrames, takeInRig } from '@varrup/core';
import * as Comlink from 'comlink';
import { create } from 'zustand';
import { api } from '../api/client.ts';
import { useShot } from '../shot/shot-store.ts';
import { useQuestion } from '../view/questions.ts';
import { select } from '../view/selection.ts';
import type { TakenFile, taker } from './take-in.worker.ts';

/** Files that are being read, or have been, and wait to be taken in. */
export interface Taking {
  readonly state: 'none' | 'reading' | 'read' | 'refused' | 'keeping';
  readonly names: readonly string[];
  readonly taken: TakenFile | null;
  readonly problem: string | null;
}

const NONE: Taking = { state: 'none', names: [], taken: null, problem: null };
export const useTaking = create<Taking>(() => NONE);

let worker: Worker | null = null;

/** Reads files in a worker, and asks what is to become of them. */
export async function takeFiles(files: readonly File[]): Promise<void> {
  const { committed } = useShot.getState();
  if (files.length === 0 || !committed) return;
  leaveFiles();
  useTaking.setState({ ...NONE, state: 'reading', names: files.map((f) => f.name) });
  useQuestion.getState().ask('take-in');
  const own = new Worker(new URL('./take-in.worker.ts', import.meta.url), { type: 'module' });
  worker = own;
  try {
    const taken = await Comlink.wrap<typeof taker>(own).read(files, committed.rate);
    if (worker === own) useTaking.setState({ state: 'read', taken });
  } catch (error) {
    if (worker === own) useTaking.setState({ state: 'refused', problem: (error as Error).message });
  } finally {
    own.terminate();
  }
}

/** Lets go of what was being read, or has been. */
export function leaveFiles(): void {
  worker?.terminate();
  worker = null;
  useTaking.setState(NONE);
}

/**
 * Keeps the rig that was read in the library, and brings it into the shot with some of its motions.
 * @param wanted the places of its motions that come along @param frames whether keys between frames go onto them
 */
export async function takeIn(wanted: readonly number[], frames: boolean): Promise<void> {
  const { taken } = useTaking.getState();
  if (!taken) return;
  useTaking.setState({ state: 'keeping' });
  try {
    await api.addRig(taken.rig);
    const { haveAtHand, run } = useShot.getState();
    haveAtHand([taken.rig]);
    const { committed: shot } = useShot.getState();
    if (!shot) return;
    const brought = newRigMembers(shot, { rig: taken.rig.id, version: taken.rig.version });
    const [rig] = brought.members;
    const chosen = wanted.map((m) => taken.motions[m]);
    const motions = frames ? onFrames(chosen) : chosen;
    // Clips are reckoned for a shot that has the rig: its controls tell whose channels they are.
    const there = takeInRig.apply(shot, { ...brought, clips: [] });
    const { clips } = clipsOfMotions(there, rig.id, motions);
    run(takeInRig, { ...brought, clips });
    select([rig.id]);
    leaveFiles();
    useQuestion.getState().ask(null);
  } catch (error) {
    useTaking.setState({ state: 'refused', problem: (error as Error).message });
  }
}
