import { flightFrom, withOneGravity } from '../../bounce/flights.ts';
import { withArc, withTimeMap } from '../../bounce/remake.ts';
import { splitPath } from '../../document/channels.ts';
import { memberWords } from '../../document/words.ts';
import { defineCommand } from '../edit.ts';

/**
 * Gives one bounce of a channel another height, another number of frames, or both; it becomes a parabola between its contacts. With
 * other frames the rest of the member's motion moves along.
 * @param frame the contact it rises from
 */
export const reshapeBounce = defineCommand<{ path: string; frame: number; height?: number; frames?: number }>({
  name: 'bounce.reshape',
  label: ({ path, frame }, shot) => `reshape the bounce of ${memberWords(shot, [splitPath(path).member])} at ${frame}`,
  apply(shot, { path, frame, height, frames }) {
    const found = flightFrom(shot, path, frame);
    if (!found) return shot;
    const { contact, next } = found;
    const to = contact.until + Math.max(1, frames ?? next.frame - contact.until);
    const map = [
      [contact.until, contact.until],
      [next.frame, to],
    ] as const;
    const moved = to === next.frame ? shot : withTimeMap(shot, splitPath(path).member, map);
    const curve = moved.curves.get(path);
    if (curve?.type !== 'number') return shot;
    const least = Math.max(0, next.value - contact.value) + 1e-4;
    const arc = {
      from: contact.until,
      to,
      start: contact.value,
      end: next.value,
      height: Math.max(least, height ?? contact.rise.height),
    };
    return { ...moved, curves: moved.curves.with(path, withArc(curve, arc)) };
  },
});

/** Gives every bounce of a run one gravity, that of its first fall: heights follow from times. @param frame the first contact of the run */
export const oneGravity = defineCommand<{ path: string; frame: number }>({
  name: 'bounce.gravity',
  label: ({ path }, shot) => `one gravity for the bounces of ${memberWords(shot, [splitPath(path).member])}`,
  apply: (shot, { path, frame }) => withOneGravity(shot, path, frame),
});
