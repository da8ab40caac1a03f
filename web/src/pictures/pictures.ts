import type { Shot } from '@varrup/core';
import * as Comlink from 'comlink';
import { Mirror } from '../mirror/mirror.ts';
import type { stills } from './pictures.worker.ts';
import type { View } from './studio.ts';

/** Stills, taken in a worker that is started when the first is asked for. */
let worker: Comlink.Remote<typeof stills> | null = null;
const remote = () => {
  worker ??= Comlink.wrap<typeof stills>(
    new Worker(new URL('./pictures.worker.ts', import.meta.url), { type: 'module' }),
  );
  return worker;
};

const mirror = new Mirror();
/** Shots beside that of the desk. One follows on another: a rig in a second pose costs what its pose changes. */
const aside = new Mirror();
let mirrored: { shot: Shot; turn: number } | null = null;

/** Lets the worker have a shot as it is now; messages keep their order, so nobody need wait. */
function bring(shot: Shot): number {
  if (mirrored?.shot !== shot) {
    mirrored = { shot, turn: (mirrored?.turn ?? 0) + 1 };
    void remote().hear(mirror.news(shot), mirrored.turn);
  }
  return mirrored.turn;
}

/**
 * A frame of a shot as a bitmap. The worker has one shot at a time: where another has been brought to it meanwhile, it is asked
 * again for as long as the picture is wanted; null when it no longer is.
 */
export async function still(
  shot: Shot,
  time: number,
  view: View,
  isWanted: () => boolean,
): Promise<ImageBitmap | null> {
  while (isWanted()) {
    const bitmap = await remote().still(bring(shot), time, view);
    if (bitmap) return bitmap;
  }
  return null;
}

/** A frame of any shot as a file. */
export const picture = (shot: Shot, time: number, view: View, mime: 'image/webp' | 'image/png' = 'image/webp') =>
  remote().picture(aside.news(shot), time, view, mime) as Promise<Blob>;

/** The picture a card shows: the middle of the shot, where something is likely going on. */
export function cardPicture(shot: Shot): Promise<Blob> {
  const view = { width: 480, height: 270, theme: 'light' } as const;
  const time = telling(shot);
  if (mirrored?.shot.id !== shot.id) return picture(shot, time, view);
  bring(shot);
  return remote().file(time, view, 'image/webp');
}

/** A frame that has a key of something, a third of the way through those that play. */
function telling({ curves, play: { first, last } }: Shot): number {
  const frames = new Set<number>();
  for (const curve of curves.values())
    for (const { frame } of curve.keys) if (frame >= first && frame <= last) frames.add(frame);
  const inside = [...frames].sort((a, b) => a - b);
  return inside.length > 0 ? inside[Math.floor(inside.length * 0.3)] : first;
}
