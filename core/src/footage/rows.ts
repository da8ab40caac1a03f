import type { Footage, Trace } from '../document/footage.ts';
import type { Shot } from '../document/shot.ts';
import { tracedBounces } from './bounces.ts';
import { tracedPoints } from './traced.ts';

/** A bounce of a followed point as the bounce table has those of a shot: frames are the shot's, at the speed the footage is pinned with. */
export interface FilmRow {
  /** When it touches the ground, in frames of the shot. */
  readonly contact: number;
  /** Metres it rises again; null at the last. */
  readonly height: number | null;
  readonly ratio: number | null;
  readonly framesUp: number | null;
  readonly framesDown: number | null;
  /** Metres a second and second of the shot. */
  readonly gravity: number | null;
}

/**
 * The bounces of a point followed through footage, contact by contact. None while the footage is in no measure, or where it does not bounce.
 * @param rate of the shot
 */
export function filmRows(footage: Footage, trace: Trace, rate: number): FilmRow[] {
  const points = tracedPoints(trace, footage);
  const flights = points ? tracedBounces(points) : [];
  if (flights.length === 0) return [];
  const { frame, from, speed } = footage;
  const frames = (seconds: number) => (seconds / speed) * rate;
  const rows = flights.flatMap(({ leaves, top, lands, height, ratio, gravity }): FilmRow[] =>
    leaves === null
      ? []
      : [
          {
            contact: frame + frames(leaves - from),
            height,
            ratio,
            framesUp: frames(top - leaves),
            framesDown: frames(lands - top),
            gravity: gravity === null ? null : gravity * speed * speed,
          },
        ],
  );
  const { lands } = flights[flights.length - 1];
  const nothing = { height: null, ratio: null, framesUp: null, framesDown: null, gravity: null };
  return [...rows, { contact: frame + frames(lands - from), ...nothing }];
}

/** The followed points of a shot that bounce, each with its bounces. */
export const filmedBounces = (
  shot: Pick<Shot, 'traces' | 'footage' | 'rate'>,
): { readonly id: string; readonly name: string; readonly rows: readonly FilmRow[] }[] =>
  shot.traces.values().flatMap((trace) => {
    const footage = shot.footage.get(trace.footage);
    const rows = footage ? filmRows(footage, trace, shot.rate) : [];
    return rows.length > 0 ? [{ id: trace.id, name: `${footage!.name}: ${trace.name}`, rows }] : [];
  });
