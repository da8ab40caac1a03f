import { z } from 'zod';

/** The number schemas every part of the document shares. Lengths in metres, angles in radians. */

/** Any number a channel may hold. The bound keeps sums and products far from overflow. */
export const ValueSchema = z.number().min(-1e9).max(1e9);

/** The nearest value a channel may hold: a curve that goes on at a steep slope leaves the bounds somewhere. */
export const withinBounds = (value: number): number => Math.min(Math.max(value, -1e9), 1e9);

/** A length of a shape, in metres: above zero, below ten kilometres. */
export const LengthSchema = z.number().gt(0).max(10_000);

/** The frames a document can hold. */
export const FRAMES = { first: -100_000, last: 1_000_000 } as const;

/** A frame. Interface frames count from 1; keys may stand between frames. */
export const FrameSchema = z.number().min(FRAMES.first).max(FRAMES.last);

/** A unit quaternion `[x, y, z, w]`; it is normalised where it is used, so only its length away from zero is checked. */
export const QuaternionSchema = z
  .tuple([ValueSchema, ValueSchema, ValueSchema, ValueSchema])
  .refine(
    (q) => q[0] ** 2 + q[1] ** 2 + q[2] ** 2 + q[3] ** 2 > 1e-6,
    'is not an orientation: all four numbers are zero',
  )
  .readonly();

export type Quaternion = readonly [x: number, y: number, z: number, w: number];

/** A colour written as `#rrggbb`. */
export const ColourSchema = z.string().regex(/^#[0-9a-fA-F]{6}$/, 'is not a colour like #b97b12');

/** A colour `#rrggbb` as three numbers from 0 to 1. */
export const colourNumbers = (colour: string): [red: number, green: number, blue: number] => {
  const part = (at: number) => Number.parseInt(colour.slice(at, at + 2), 16) / 255;
  return [part(1), part(3), part(5)];
};
