import type { Footage } from '../document/footage.ts';

/** How the time of footage goes with that of the shot it is pinned to. Frames are the shot's; pictures are the footage's, counted from 0. */

type Pinned = Pick<Footage, 'frame' | 'from' | 'until' | 'speed' | 'rate'>;

/** Seconds into the file at a frame of a shot, whether it is shown there or not. @param rate of the shot, frames a second */
export const footageSeconds = ({ frame: pinned, from, speed }: Pinned, frame: number, rate: number): number =>
  from + ((frame - pinned) / rate) * speed;

/** Pictures begin a hair before what their number says, so that no rounding makes a picture of the one before it. */
const HAIR = 1e-4;

/** The picture that is on at a time of the file; null before the part that is used and after it. */
export function pictureAtSeconds({ from, until, rate }: Pinned, seconds: number): number | null {
  if (seconds < from - HAIR / rate || seconds >= until - HAIR / rate) return null;
  return Math.floor(seconds * rate + HAIR);
}

/** The picture that is on at a frame of a shot; null where none is. @param rate of the shot */
export const pictureAt = (footage: Pinned, frame: number, rate: number): number | null =>
  pictureAtSeconds(footage, footageSeconds(footage, frame, rate));

/** The frame of the shot, between frames too, on which a picture comes on. @param rate of the shot */
export const frameOfPicture = (footage: Pinned, picture: number, rate: number): number =>
  footage.frame + ((picture / footage.rate - footage.from) / footage.speed) * rate;

/** The first and the last frame of the shot on which it is seen. @param rate of the shot */
export function footageSpan(footage: Pinned, rate: number): { first: number; last: number } {
  const frames = ((footage.until - footage.from) / footage.speed) * rate;
  return { first: footage.frame, last: footage.frame + Math.max(0, frames - 1) };
}
