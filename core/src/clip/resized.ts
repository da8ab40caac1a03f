import { controlsOf } from '../document/casting.ts';
import { type Clip, clipFrames } from '../document/clip.ts';
import { curvesOf } from '../document/paths.ts';
import type { Shot } from '../document/shot.ts';
import { mirroredStances, withMirroredHalves } from './halves.ts';
import { labelsFor } from './labels.ts';
import { stretched } from './shift.ts';

const withClip = (shot: Shot, clip: Clip): Shot => ({ ...shot, clips: shot.clips.with(clip.id, clip) });

/** The length nearest to a wanted one that a clip can have: whole, and even where its halves are mirrored. */
export function lengthFor(clip: Pick<Clip, 'halves'>, wanted: number): number {
  const step = clip.halves === 'mirrored' ? 2 : 1;
  const whole = Math.round(wanted / step) * step;
  return Math.min(Math.max(whole, clipFrames.least), clipFrames.most);
}

/** A shot in which a clip at work has another length, with all that is in it in proportion, on whole frames. */
export function resized(shot: Shot, clip: Clip, length: number): Shot {
  const factor = length / clip.length;
  const curves = shot.curves.edit();
  for (const [path, curve] of curvesOf(shot, controlsOf(shot, clip.rig))) {
    const made = stretched(curve, clip, length);
    if (made) curves.set(path, made);
    else curves.delete(path);
  }
  const stances = Object.fromEntries(
    Object.entries(clip.stances).map(([control, list]) => [
      control,
      list.map(({ from, to }) => {
        const begin = Math.round(from * factor) % length;
        const frames = Math.round(to * factor) - Math.round(from * factor);
        return { from: begin, to: begin + Math.min(length - 1, Math.max(1, frames)) };
      }),
    ]),
  );
  const labels = labelsFor(clip, length);
  const longer = { ...clip, length, stances, labels };
  const next = withClip({ ...shot, curves: curves.done() }, longer);
  return clip.halves === 'mirrored' && length % 2 === 0 ? inMirror(next, longer, 'first') : next;
}

/** A clip with its halves tied together, one half leading. */
export function inMirror(shot: Shot, clip: Clip, leads: 'first' | 'second'): Shot {
  const next: Clip = { ...clip, halves: 'mirrored', stances: mirroredStances(shot, clip, leads) };
  return withClip(withMirroredHalves(shot, next, leads), next);
}
