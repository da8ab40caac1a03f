import {
  addSounds,
  clipsOfMotions,
  curvesFor,
  type FoundCurves,
  mediaKindOf,
  mediaKinds,
  mediaLimits,
  newId,
  newRigMembers,
  onFrames,
  type Pairing,
  type PlacedSound,
  SAMPLE_RATE,
  takeInClip,
  takeInCurves,
  takeInRig,
} from '@varrup/core';
import * as Comlink from 'comlink';
import { create } from 'zustand';
import { api } from '../api/client.ts';
import { bringFootage, bringRun } from '../footage/bring.ts';
import { keepMedia } from '../media/media.ts';
import { picturesOfRig } from '../media/textures.ts';
import { wholeOf } from '../mirror/mirror.ts';
import { useShot } from '../shot/shot-store.ts';
import { decode, keepRecording } from '../sound/recordings.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { select } from '../view/selection.ts';
import { FOOTAGE, nameOf, runOf, SCENE, SOUND, TABLE } from './readable.ts';
import type { TakenFile, taker } from './take-in.worker.ts';

/** A sound that was read. */
export interface TakenSound {
  readonly name: string;
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly samples: Float32Array;
}

/** Files that are being read, or have been, and wait to be taken in. */
export interface Taking {
  readonly state: 'none' | 'reading' | 'read' | 'refused' | 'keeping';
  readonly names: readonly string[];
  /** How much is read, from 0 to 1, where that is known. */
  readonly share: number | null;
  readonly taken: TakenFile | null;
  /** The curves of a table that found their channels. */
  readonly found: FoundCurves | null;
  /** Sounds that can be heard. */
  readonly sounds: readonly TakenSound[];
  readonly problem: string | null;
}

const NONE: Taking = { state: 'none', names: [], share: null, taken: null, found: null, sounds: [], problem: null };
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
    const remote = Comlink.wrap<typeof taker>(own);
    const filmed = files.filter((file) => FOOTAGE.test(file.name));
    if (filmed.length > 0) return await takeFootage(filmed, own);
    const run = runOf(files);
    if (run) return await takeRun(run, own);
    const heard = files.filter((file) => SOUND.test(file.name));
    if (heard.length > 0 && !files.some((file) => SCENE.test(file.name))) {
      const sounds = await Promise.all(heard.map(readSound));
      if (worker === own) useTaking.setState({ state: 'read', sounds });
      return;
    }
    const table = files.find((file) => TABLE.test(file.name));
    if (table) {
      const found = curvesFor(committed, await remote.table(table));
      if (worker === own) useTaking.setState({ state: 'read', found });
      return;
    }
    const taken = await remote.read(files, committed.rate);
    if (worker === own) useTaking.setState({ state: 'read', taken });
  } catch (error) {
    if (worker === own) useTaking.setState({ state: 'refused', problem: (error as Error).message });
  } finally {
    own.terminate();
  }
}

/** Keeps footage in the store and pins it to the shot at the current frame. */
async function takeFootage(files: readonly File[], own: Worker): Promise<void> {
  const frame = Math.round(usePlayhead.getState().frame);
  for (const file of files) await bringFootage(file, nameOf(file.name), frame);
  if (worker !== own) return;
  leaveFiles();
  useQuestion.getState().ask(null);
}

/** Keeps a run of pictures in the store and pins it to the shot at the current frame. Whoever closes the card meanwhile has none. */
async function takeRun({ name, files }: { name: string; files: readonly File[] }, own: Worker): Promise<void> {
  const frame = Math.round(usePlayhead.getState().frame);
  const made = await bringRun(files, name, frame, (share) => {
    if (worker === own) useTaking.setState({ share });
    return worker === own;
  });
  if (!made || worker !== own) return;
  leaveFiles();
  useQuestion.getState().ask(null);
}

async function readSound(file: File): Promise<TakenSound> {
  const most = mediaLimits.bytes.sound;
  if (file.size > most)
    throw new Error(`${file.name} has ${Math.ceil(file.size / 1e6)} MB; up to ${most / 1e6} can be kept.`);
  const bytes = new Uint8Array(await file.arrayBuffer());
  const kind = mediaKindOf(bytes);
  if (!kind || mediaKinds[kind].of !== 'sound')
    throw new Error(`${file.name} is no sound, whatever it is called: WAV, MP3, OGG and FLAC can be read.`);
  return { name: nameOf(file.name), bytes, samples: await decode(bytes) };
}

/** Keeps the sounds that were read in the store, and lays them under the sheet all of them from a frame on. */
export async function takeSounds(frame: number): Promise<void> {
  const { sounds } = useTaking.getState();
  useTaking.setState({ state: 'keeping' });
  try {
    const placed = await Promise.all(
      sounds.map(async ({ name, bytes, samples }): Promise<PlacedSound> => {
        const media = await keepMedia(bytes);
        keepRecording(media, samples);
        return { id: newId(), name, sound: { media, seconds: samples.length / SAMPLE_RATE }, frame, gain: 1 };
      }),
    );
    useShot.getState().run(addSounds, { sounds: placed });
    leaveFiles();
    useQuestion.getState().ask(null);
  } catch (error) {
    useTaking.setState({ state: 'refused', problem: (error as Error).message });
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
    for (const bytes of taken.media.values()) await keepMedia(new Uint8Array(bytes));
    await api.addRig(taken.rig);
    await picturesOfRig(taken.rig);
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

/** Puts a motion of the file that was read onto a rig of the shot, in a worker, as a clip of it. */
export async function putOnto(rig: string, motion: number, pairing: Pairing): Promise<void> {
  const { taken } = useTaking.getState();
  const { committed } = useShot.getState();
  if (!taken || !committed) return;
  useTaking.setState({ state: 'keeping', problem: null });
  const own = new Worker(new URL('./take-in.worker.ts', import.meta.url), { type: 'module' });
  worker = own;
  try {
    const { scene, name } = taken;
    const [only, ...others] = scene.motions;
    const putting = {
      rig,
      scene,
      motion: scene.motions[motion],
      name: others.length === 0 ? name : (scene.motions[motion] ?? only).name,
      pairing,
      tolerance: { millimetres: 0.5, degrees: 0.1 },
    };
    const { clip } = await Comlink.wrap<typeof taker>(own).put(wholeOf(committed), putting);
    if (worker !== own) return;
    useShot.getState().run(takeInClip, { clip });
    select([rig]);
    leaveFiles();
    useQuestion.getState().ask(null);
  } catch (error) {
    if (worker === own) useTaking.setState({ state: 'read', problem: (error as Error).message });
  } finally {
    own.terminate();
  }
}

/** Gives the channels that were found their curves, as one step. */
export function takeCurves(): void {
  const { found } = useTaking.getState();
  if (!found || found.curves.size === 0) return;
  useShot.getState().run(takeInCurves, { curves: Object.fromEntries(found.curves) });
  leaveFiles();
  useQuestion.getState().ask(null);
}
