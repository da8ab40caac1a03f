import type { Recordings, Shot } from '@varrup/core';
import type { View } from '../pictures/studio.ts';

/** Frames one after another, both ends included. */
interface Run {
  readonly first: number;
  readonly last: number;
}

/** What is to be made of a shot. */
export type Job = {
  readonly shot: Shot;
  readonly view: View;
  readonly recordings: Recordings;
  /** With the review on it: what was drawn through the camera, and what the notes say. */
  readonly notes?: boolean;
} & (
  | ({ readonly make: 'movie'; readonly format: 'mp4' | 'webm'; readonly sound: boolean } & Run)
  /** The board, as long as its panels stand, and as their cameras see them. */
  | ({ readonly make: 'animatic'; readonly format: 'mp4' | 'webm'; readonly sound: boolean } & Run)
  | ({ readonly make: 'loop' } & Run)
  | ({ readonly make: 'frames' } & Run)
  | { readonly make: 'picture'; readonly frame: number }
  | { readonly make: 'contact'; readonly frames: readonly number[] }
);

/** The same without the shot and its sounds: how it is made, to be made again. */
export type Recipe = Job extends infer J ? (J extends Job ? Omit<J, 'shot' | 'recordings'> : never) : never;

/** What each is called in the name of its file. */
export const wordOf = (recipe: Recipe): string =>
  recipe.make === 'picture'
    ? `frame-${recipe.frame}`
    : { movie: '', animatic: 'animatic', loop: 'loop', frames: 'frames', contact: 'contact-sheet' }[recipe.make];

/** How it is made, in a line. */
export function recipeWords({ view, notes, ...recipe }: Recipe): string {
  const size = `${view.width} × ${view.height}${(view.samples ?? 1) > 1 ? ' · final' : ''}${notes ? ' · with notes' : ''}`;
  if (recipe.make === 'picture') return `picture of frame ${recipe.frame} · ${size}`;
  if (recipe.make === 'contact')
    return `contact sheet of ${recipe.frames.length} frames${notes ? ' · with notes' : ''}`;
  const what = { movie: 'movie', animatic: 'animatic', loop: 'looped picture', frames: 'numbered frames' }[recipe.make];
  const sound = 'sound' in recipe && !recipe.sound ? ' · without sound' : '';
  return `${what} · frames ${recipe.first} to ${recipe.last} · ${size}${sound}`;
}

/** A file that was made. */
export interface Made {
  readonly bytes: ArrayBuffer;
  readonly mime: string;
  readonly extension: string;
  /** The kind of sound that is in a movie; none where the shot has no sounds, or the browser cannot make any. */
  readonly sound?: 'AAC' | 'Opus';
}

/** Ended by the person who asked for it. */
export class Cancelled extends Error {}

/** Says how much is done, from 0 to 1; answers whether to go on. */
export type Progress = (share: number) => boolean | Promise<boolean>;

/** A file name after the shot: letters, digits and dashes, so that every system takes it. */
export function fileName(shot: Shot, extension: string, what = ''): string {
  const stem = shot.name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .toLowerCase();
  return `${stem || 'shot'}${what ? `-${what}` : ''}.${extension}`;
}

/** Frames for a contact sheet: evenly over a span, both ends included, whole and each once. */
export function spread(first: number, last: number, count: number): number[] {
  if (count < 2 || last <= first) return [first];
  const frames = Array.from({ length: count }, (_, i) => Math.round(first + ((last - first) * i) / (count - 1)));
  return [...new Set(frames)];
}

/** Reads `1, 13-17, 24` as frames in order, or says what it cannot read. */
export function readFrames(text: string, within: { first: number; last: number }): number[] | string {
  const frames = new Set<number>();
  for (const part of text.split(/[,;\s]+/).filter(Boolean)) {
    const span = /^(-?\d+)(?:[-–](-?\d+))?$/.exec(part);
    if (!span) return `“${part}” is not a frame or a run of frames like 13-17.`;
    const [from, to] = [Number(span[1]), Number(span[2] ?? span[1])];
    if (from > to) return `“${part}” ends before it begins.`;
    if (from < within.first || to > within.last)
      return `The shot has frames ${within.first} to ${within.last}; “${part}” reaches outside.`;
    for (let f = from; f <= to && frames.size <= 200; f++) frames.add(f);
  }
  if (frames.size === 0) return 'Name the frames: 1, 13-17, 24.';
  if (frames.size > 120) return 'A contact sheet holds up to 120 frames.';
  return [...frames].sort((a, b) => a - b);
}
