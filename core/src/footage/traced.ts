import type { Footage, PicturePoint, Trace } from '../document/footage.ts';

/** Where a followed point was: seconds into the file, and metres from the first marked point, y up. */
export interface TracedPoint {
  readonly picture: number;
  readonly seconds: number;
  readonly x: number;
  readonly y: number;
}

/** Metres that the width of the picture stands for; null while no two points are marked, or both on one place. */
export function metresWide({ scale }: Pick<Footage, 'scale'>): number | null {
  if (!scale) return null;
  const apart = Math.hypot(scale.b[0] - scale.a[0], scale.b[1] - scale.a[1]);
  return apart > 1e-6 ? scale.metres / apart : null;
}

/** A trace in metres; null where nobody has said how large anything is. */
export function tracedPoints(trace: Trace, footage: Pick<Footage, 'scale' | 'rate'>): TracedPoint[] | null {
  const wide = metresWide(footage);
  if (wide === null) return null;
  const [ox, oy]: PicturePoint = footage.scale!.a;
  return trace.dots.map(({ picture, at }) => ({
    picture,
    seconds: picture / footage.rate,
    x: (at[0] - ox) * wide,
    y: (oy - at[1]) * wide,
  }));
}

/** A trace with a dot on a picture; one that was there goes. */
export function withDot(trace: Trace, picture: number, at: PicturePoint | null): Trace {
  const others = trace.dots.filter((d) => d.picture !== picture);
  const dots = at === null ? others : [...others, { picture, at }].sort((a, b) => a.picture - b.picture);
  return { ...trace, dots };
}
