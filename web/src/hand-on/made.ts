import {
  type Archive,
  type Choices,
  type FormatName,
  formats,
  type Handed,
  type HandOnWith,
  linksIn,
  mediaOfMembers,
  mediaOfRig,
  mediaOfShot,
  type Shot,
} from '@varrup/core';
import * as Comlink from 'comlink';
import { zipSync } from 'fflate';
import { toast } from 'sonner';
import { create } from 'zustand';
import { api } from '../api/client.ts';
import { mediaFor } from '../media/media.ts';
import { wholeOf } from '../mirror/mirror.ts';
import { Cancelled, fileName, type Job as PictureJob, type Recipe, recipeWords, wordOf } from '../movie/job.ts';
import { start } from '../movie/start.ts';
import { recordingsOf } from '../sound/recordings.ts';
import type { hander } from './hand-on.worker.ts';
import { forgetShot, rememberShot } from './shots-made.ts';

/** What is made of a shot, and how: files that others read, or pictures. */
export type What =
  | { readonly is: 'files'; readonly format: FormatName; readonly choices: Choices }
  | { readonly is: 'pictures'; readonly recipe: Recipe };

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
  readonly what: What;
  /** How it is made, in a line. */
  readonly how: string;
  readonly begun: number;
  readonly state: 'running' | 'done' | 'failed' | 'cancelled';
  /** How much is done, from 0 to 1. */
  readonly share: number;
  /** The first one is the one to save: where there are several, all of them in one. */
  readonly files: readonly MadeFile[];
  readonly handed: Omit<Handed, 'files'> | null;
  /** What else is to be known of it. */
  readonly note: string | null;
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

export const jobOf = (id: number | null): Job | undefined => useMade.getState().jobs.find((job) => job.id === id);

/** Begins to make something of a shot, in a worker of its own. It goes on whatever one does meanwhile. */
export function begin(shot: Shot, what: What): { readonly id: number; readonly ended: Promise<Job> } {
  const id = next++;
  const how = what.is === 'files' ? filesWords(shot, what.format, what.choices) : recipeWords(what.recipe);
  const nothing = { files: [], handed: null, note: null, problem: null };
  const job: Job = { id, shot: shot.id, what, how, begun: Date.now(), state: 'running', share: 0, ...nothing };
  rememberShot(id, shot);
  useMade.setState(({ jobs }) => ({ jobs: [job, ...jobs] }));
  letGoOfOld();
  return { id, ended: follow(job, shot) };
}

async function follow({ id, what }: Job, shot: Shot): Promise<Job> {
  const onProgress = (share: number) => change(id, { share });
  const making = what.is === 'files' ? makeFiles(shot, what, onProgress) : makePictures(shot, what.recipe, onProgress);
  enders.set(id, making.cancel);
  try {
    change(id, { state: 'done', share: 1, ...(await making.made) });
  } catch (error) {
    if (error instanceof Cancelled) change(id, { state: 'cancelled' });
    else change(id, { state: 'failed', problem: (error as Error).message });
  } finally {
    enders.delete(id);
  }
  return jobOf(id)!;
}

/** Ends a job that is being made. */
export const cancel = (id: number): void => enders.get(id)?.();

type Outcome = Partial<Pick<Job, 'files' | 'handed' | 'note'>>;
interface Making {
  readonly made: Promise<Outcome>;
  cancel(): void;
}

function makeFiles(
  shot: Shot,
  { format, choices }: Extract<What, { is: 'files' }>,
  onProgress: (share: number) => void,
): Making {
  const worker = new Worker(new URL('./hand-on.worker.ts', import.meta.url), { type: 'module' });
  let cancel = () => {};
  const ended = new Promise<never>((_, reject) => {
    cancel = () => reject(new Cancelled('Cancelled.'));
    worker.onerror = (event) => reject(new Error(event.message || 'It stopped, and did not say why.'));
  });
  const remote = Comlink.wrap<typeof hander>(worker);
  const handed = besides(shot, format).then((beside) =>
    remote.hand(wholeOf(shot), format, choices, beside, Comlink.proxy(onProgress)),
  );
  const made = Promise.race([handed, ended])
    .then(({ files, ...about }): Outcome => ({ handed: about, files: kept(files) }))
    .finally(() => worker.terminate());
  return { made, cancel };
}

/** What goes along with a shot: pose books, sounds and pictures, as far as the format has a place for them. */
async function besides(shot: Shot, format: FormatName): Promise<HandOnWith> {
  if (format === 'sound') return { recordings: await recordingsOf(shot) };
  if (format === 'glb' || format === 'gltf')
    return { media: await mediaFor([...shot.rigs.list.flatMap(mediaOfRig), ...mediaOfMembers(shot)]) };
  if (format !== 'archive') return {};
  return { media: await mediaFor(mediaOfShot(shot)), poses: await posesFor(shot) };
}

/** The pose books of the rigs of a shot. */
async function posesFor(shot: Shot): Promise<Archive['poses']> {
  const rigs = [...new Set(linksIn(shot).map((link) => link.rig))];
  const books = await Promise.all(rigs.map((rig) => api.poses(rig)));
  return new Map(rigs.map((rig, r) => [rig, books[r].map(({ name, tags, values }) => ({ name, tags, values }))]));
}

function makePictures(shot: Shot, recipe: Recipe, onProgress: (share: number) => void): Making {
  let isCancelled = false;
  let cancel = () => {
    isCancelled = true;
  };
  const made = recordingsOf(shot).then((recordings) => {
    if (isCancelled) throw new Cancelled('Cancelled.');
    const running = start({ ...recipe, shot, recordings } as PictureJob, onProgress);
    cancel = running.cancel;
    return running.made;
  });
  return {
    cancel: () => cancel(),
    made: made.then(({ bytes, mime, extension, sound }): Outcome => {
      const name = fileName(shot, extension, wordOf(recipe));
      const wanted = recipe.make === 'movie' && recipe.sound && shot.sounds.size > 0;
      return { files: [madeFile(name, bytes, mime)], note: wanted ? soundWords(sound) : null };
    }),
  };
}

const soundWords = (sound: 'AAC' | 'Opus' | undefined): string =>
  sound ? `With its sounds, as ${sound}.` : 'Without its sounds: this browser cannot write any.';

/** Files that belong together go into one, so that one press saves them. */
function kept(files: Handed['files']): MadeFile[] {
  const made = files.map((file) => madeFile(file.name, file.bytes as Uint8Array<ArrayBuffer>, file.type));
  if (files.length === 1) return made;
  const all = zipSync(Object.fromEntries(files.map((file) => [file.name, file.bytes])), { level: 3 });
  return [madeFile(files[0].name.replace(/\.[^.]+$/, '.zip'), all, 'application/zip'), ...made];
}

function madeFile(name: string, bytes: BlobPart, type: string): MadeFile {
  const blob = new Blob([bytes], { type });
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

/** Tells that something is there that was begun elsewhere and left to go on. */
export function tellWhenMade({ state, how, files, problem }: Job): void {
  if (state === 'failed') toast.error(`It could not be made: ${how}. ${problem}`);
  else if (files.length > 0)
    toast(`${files[0].name} is made.`, { action: { label: 'save', onClick: () => save(files[0]) } });
}

/** How long it will take yet, in seconds; null while that cannot be told. */
export function secondsLeft({ state, share, begun }: Job, now: number): number | null {
  if (state !== 'running' || share < 0.03) return null;
  return (((now - begun) / 1000) * (1 - share)) / share;
}

/** How files are made, in a line. */
function filesWords(shot: Shot, format: FormatName, { frames, clips, keys, rate, travel }: Choices): string {
  const parts: string[] = [formats[format].label];
  if (format === 'archive') return parts.join('');
  if (frames) parts.push(`frames ${frames.first} to ${frames.last}`);
  if (clips.length > 0)
    parts.push(clips.length === 1 ? (shot.clips.get(clips[0])?.name ?? 'a clip') : `${clips.length} clips`);
  const asksKeys = !(formats[format].without as readonly string[]).includes('keys');
  if (!asksKeys) parts.push(`${rate} a second`);
  else parts.push(keys === 'every' ? `a key at every frame, ${rate} a second` : 'as few keys as needed');
  if (travel === 'none') parts.push('in place');
  return parts.join(' · ');
}
