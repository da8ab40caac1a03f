import { type Choices, type FormatName, formats, type Handed, type Shot } from '@varrup/core';
import * as Comlink from 'comlink';
import { zipSync } from 'fflate';
import { create } from 'zustand';
import { wholeOf } from '../mirror/mirror.ts';
import type { hander } from './hand-on.worker.ts';
import { forgetShot, rememberShot } from './shots-made.ts';

/** A file that was made, where it can be had until the page is left. */
export interface MadeFile {
  readonly name: string;
  readonly blob: Blob;
  readonly address: string;
}

/** Something that is being made, or was. */
export interface Job {
  readonly id: number;
  readonly shot: string;
  /** The name of what it is of, and how it was made, in a line. */
  readonly title: string;
  readonly how: string;
  readonly format: FormatName;
  readonly choices: Choices;
  readonly begun: number;
  readonly state: 'running' | 'done' | 'failed' | 'cancelled';
  /** How much is done, from 0 to 1. */
  readonly share: number;
  readonly seconds: number;
  readonly files: readonly MadeFile[];
  readonly handed: Omit<Handed, 'files'> | null;
  readonly problem: string | null;
}

/** What was made since the page was opened, the newest first. */
export const useMade = create<{ readonly jobs: readonly Job[] }>(() => ({ jobs: [] }));

/** Jobs whose files are kept: those of older ones are let go. */
const MOST_KEPT = 12;

const enders = new Map<number, () => void>();
let next = 1;

const change = (id: number, to: Partial<Job>) =>
  useMade.setState(({ jobs }) => ({ jobs: jobs.map((job) => (job.id === id ? { ...job, ...to } : job)) }));

/** Begins to hand a shot on, in a worker of its own. @returns when it has ended, the job */
export async function begin(shot: Shot, format: FormatName, choices: Choices): Promise<Job> {
  const id = next++;
  const job: Job = {
    id,
    shot: shot.id,
    title: shot.name,
    how: howOf(shot, format, choices),
    format,
    choices,
    begun: Date.now(),
    state: 'running',
    share: 0,
    seconds: 0,
    files: [],
    handed: null,
    problem: null,
  };
  rememberShot(id, shot);
  useMade.setState(({ jobs }) => ({ jobs: [job, ...jobs] }));
  letGoOfOld();
  const worker = new Worker(new URL('./hand-on.worker.ts', import.meta.url), { type: 'module' });
  const remote = Comlink.wrap<typeof hander>(worker);
  const ended = new Promise<null>((resolve) => {
    enders.set(id, () => resolve(null));
  });
  const failed = new Promise<never>((_, reject) => {
    worker.onerror = (event) => reject(new Error(event.message || 'It stopped, and did not say why.'));
  });
  const onProgress = Comlink.proxy((share: number) => change(id, { share }));
  try {
    const handed = await Promise.race([remote.hand(wholeOf(shot), format, choices, onProgress), failed, ended]);
    if (handed) {
      const { files, ...about } = handed;
      change(id, { state: 'done', share: 1, handed: about, files: kept(files, shot.name) });
    } else change(id, { state: 'cancelled' });
  } catch (error) {
    change(id, { state: 'failed', problem: (error as Error).message });
  } finally {
    worker.terminate();
    enders.delete(id);
    change(id, { seconds: (Date.now() - job.begun) / 1000 });
  }
  return useMade.getState().jobs.find((j) => j.id === id) ?? job;
}

/** Ends a job that is being made. */
export const cancel = (id: number): void => enders.get(id)?.();

/** Files that belong together go into one, so that one press saves them. */
function kept(files: Handed['files'], name: string): MadeFile[] {
  const made = files.map((file) => madeFile(file.name, file.bytes, file.type));
  if (files.length === 1) return made;
  const all = zipSync(Object.fromEntries(files.map((file) => [file.name, file.bytes])), { level: 3 });
  return [madeFile(`${files[0].name.replace(/\.[^.]+$/, '') || name}.zip`, all, 'application/zip'), ...made];
}

function madeFile(name: string, bytes: Uint8Array, type: string): MadeFile {
  const blob = new Blob([bytes as Uint8Array<ArrayBuffer>], { type });
  return { name, blob, address: URL.createObjectURL(blob) };
}

function letGoOfOld(): void {
  const old = useMade
    .getState()
    .jobs.slice(MOST_KEPT)
    .filter((job) => job.state !== 'running');
  for (const { id, files } of old) {
    forgetShot(id);
    for (const { address } of files) URL.revokeObjectURL(address);
  }
  const gone = new Set(old.map((job) => job.id));
  useMade.setState(({ jobs }) => ({ jobs: jobs.filter((job) => !gone.has(job.id)) }));
}

/** Has the browser save a file. */
export function save({ address, name }: MadeFile): void {
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
}

/** How something is made, in a line. */
export function howOf(shot: Shot, format: FormatName, { frames, clips, keys, rate, travel }: Choices): string {
  const parts: string[] = [formats[format].label];
  if (frames) parts.push(`frames ${frames.first} to ${frames.last}`);
  if (clips.length > 0)
    parts.push(clips.length === 1 ? (shot.clips.get(clips[0])?.name ?? 'a clip') : `${clips.length} clips`);
  if (formats[format].without.every((word) => word !== 'keys')) {
    parts.push(keys === 'every' ? `a key at every frame, ${rate} a second` : 'as few keys as needed');
  } else parts.push(`${rate} a second`);
  if (travel === 'none') parts.push('in place');
  return parts.join(' · ');
}
