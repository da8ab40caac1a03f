import type { Shot } from '@varrup/core';
import * as Comlink from 'comlink';
import { teach } from '../shot/learn.ts';
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

let current: { shot: Shot; key: string } | null = null;
let keys = 0;

/** A frame of a shot as a bitmap; null when a newer version of the shot has been asked for meanwhile. */
export async function still(shot: Shot, time: number, view: View): Promise<ImageBitmap | null> {
  if (current?.shot !== shot) {
    current = { shot, key: String(++keys) };
    teach(remote(), shot);
    await remote().setShot(current.key, shot);
  }
  return remote().still(current.key, time, view);
}

/** A frame of any shot as a file. */
export function picture(shot: Shot, time: number, view: View): Promise<Blob> {
  teach(remote(), shot);
  return remote().picture(shot, time, view, 'image/webp');
}

/** The picture a card shows: the middle of the shot, where something is likely going on. */
export function cardPicture(shot: Shot): Promise<Blob> {
  const { first, last } = shot.play;
  const keys = Object.values(shot.curves).flatMap((c) => c.keys.map((k) => k.frame));
  const inside = keys.filter((f) => f >= first && f <= last).sort((a, b) => a - b);
  const time = inside.length > 0 ? inside[Math.floor(inside.length * 0.3)] : first;
  return picture(shot, time, { width: 480, height: 270, theme: 'light' });
}
