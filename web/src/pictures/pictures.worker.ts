import { learnRigs, type Shot } from '@varrup/core';
import * as Comlink from 'comlink';
import { Studio, type View } from './studio.ts';

/** Stills off the interface's thread. */
let studio: Studio | null = null;
let shots: { key: string; shot: Shot } | null = null;

export const stills = {
  learn: learnRigs,

  /** Takes over a shot, so that many pictures of it carry it here once. */
  setShot(key: string, shot: Shot): void {
    shots = { key, shot };
  },

  /** A frame of the shot as a bitmap; null when another shot has been set since. */
  still(key: string, time: number, view: View): ImageBitmap | null {
    if (shots?.key !== key) return null;
    studio ??= new Studio();
    studio.take(shots.shot, time, view);
    const bitmap = studio.canvas.transferToImageBitmap();
    return Comlink.transfer(bitmap, [bitmap]);
  },

  /** A frame of any shot as a file. */
  async picture(shot: Shot, time: number, view: View, type: string): Promise<Blob> {
    studio ??= new Studio();
    studio.take(shot, time, view);
    return studio.canvas.convertToBlob({ type, quality: 0.9 });
  },
};

Comlink.expose(stills);
