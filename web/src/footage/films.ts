import { type Footage, pictureAt, type Shot } from '@varrup/core';
import { create } from 'zustand';
import { useShot } from '../shot/shot-store.ts';
import { usePlayhead } from '../view/playhead.ts';
import { Film } from './film.ts';
import { PictureRun } from './picture-run.ts';

/** The footage of the shot that is open, ready to be looked at; whoever shows it is told when a picture has come. */

/** A film or a run of pictures, as who shows it needs it. */
export type Shown = Pick<Film, 'pictureNow' | 'close' | 'onPicture' | 'failure'>;

const films = new Map<string, { readonly film: Shown; users: number }>();

/** Has footage ready for as long as somebody looks at it. @returns what ends that */
export function borrowFilm(
  { media, rate, pictures }: Pick<Footage, 'media' | 'rate' | 'pictures'>,
  onPicture: () => void,
): { film: Shown; end(): void } {
  const run = pictures.length > 0;
  // Two runs may begin alike.
  const key = run ? pictures.join(' ') : `${media}@${rate}`;
  const entry = films.get(key) ?? { film: run ? new PictureRun(pictures) : new Film(media, rate), users: 0 };
  films.set(key, entry);
  entry.users++;
  listeners.add(onPicture);
  entry.film.onPicture = () => {
    for (const listen of listeners) listen();
  };
  return {
    film: entry.film,
    end: () => {
      listeners.delete(onPicture);
      entry.users--;
      if (entry.users > 0) return;
      entry.film.close();
      films.delete(key);
    },
  };
}
const listeners = new Set<() => void>();

/** What is picked of the footage, and what a press on it does. */
export interface FootageView {
  /** The footage that is looked at; its panel is about it. */
  readonly id: string | null;
  /** The point that is followed by pressing on the picture, or the end of a length that is marked. */
  readonly marking:
    | { readonly is: 'trace'; readonly id: string }
    | { readonly is: 'scale'; readonly end: 'a' | 'b' }
    | null;
  /** It is looked at instead of the stage, to see one after the other. */
  readonly flipped: boolean;
}

export const useFootageView = create<FootageView>(() => ({ id: null, marking: null, flipped: false }));

/** The footage that is meant: the one picked, else the first. */
export function footageMeant(shot: Pick<Shot, 'footage'>): Footage | null {
  const { id } = useFootageView.getState();
  return (id === null ? undefined : shot.footage.get(id)) ?? shot.footage.values()[0] ?? null;
}

/** The picture of footage that is on now; null where none is. */
export function pictureNow(footage: Footage): number | null {
  const { shot } = useShot.getState();
  return shot ? pictureAt(footage, usePlayhead.getState().frame, shot.rate) : null;
}
