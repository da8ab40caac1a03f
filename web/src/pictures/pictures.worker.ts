import type { Shot } from '@varrup/core';
import * as Comlink from 'comlink';
import { picturesOfShot } from '../media/textures.ts';
import { Mirrored, type News } from '../mirror/mirror.ts';
import { Studio, type View } from './studio.ts';

/** Stills off the interface's thread. It keeps the shot of the desk, and is told only what changes. */
let studio: Studio | null = null;
const mirrored = new Mirrored();
/** Shots beside that of the desk: rigs by themselves, cards at home. */
const aside = new Mirrored();
let last: Promise<unknown> = Promise.resolve();
/** How often the shot has changed: what was asked for before its last change is out of date. */
let turn = 0;

export const stills = {
  /** Takes over how the shot has changed. */
  hear(news: News, now: number): void {
    mirrored.hear(news);
    turn = now;
  },

  /** A frame of the shot as a bitmap; null when it has changed since it was asked for. */
  async still(wanted: number, time: number, view: View): Promise<ImageBitmap | null> {
    if (mirrored.shot) await picturesOfShot(mirrored.shot);
    if (wanted !== turn || !mirrored.shot) return null;
    studio ??= new Studio();
    studio.take(mirrored.shot, time, view);
    const bitmap = studio.canvas.transferToImageBitmap();
    await studio.through();
    return Comlink.transfer(bitmap, [bitmap]);
  },

  /** A frame of the shot as a file. */
  file(time: number, view: View, type: string): Promise<Blob> {
    if (!mirrored.shot) throw new Error('There is no shot to take a picture of.');
    return asFile(mirrored.shot, time, view, type);
  },

  /** A frame of another shot as a file. One after another, each handed over before the next is begun. */
  picture(news: News, time: number, view: View, type: string): Promise<Blob> {
    const shot = aside.hear(news);
    const made = last.then(() => asFile(shot, time, view, type));
    last = made.catch(() => undefined);
    return made;
  },
};

async function asFile(shot: Shot, time: number, view: View, type: string): Promise<Blob> {
  await picturesOfShot(shot);
  studio ??= new Studio();
  studio.take(shot, time, view);
  return studio.canvas.convertToBlob({ type, quality: 0.9 });
}

Comlink.expose(stills);
