import type { z } from 'zod';
import type { Rigs } from '../../rig/rigs.ts';
import type { KindChannel } from '../../schema/channel.ts';

/** An axis-aligned box around a shape, in its own space: `[minX, minY, minZ, maxX, maxY, maxZ]`, metres. */
export type Bounds = readonly [number, number, number, number, number, number];

export type { KindChannel };

/** What a cast member can be. A new kind is one file beside this one and one line in `index.ts`. */
export interface Kind<Name extends string, Shape extends z.ZodType> {
  readonly kind: Name;
  /** The word in the "bring in" menu, and the first name of a new one. */
  readonly label: string;
  /** The numbers that make its form; they are set, not animated. */
  readonly shape: Shape;
  readonly channels: readonly KindChannel[];
  /** The colour a new one has. */
  readonly colour: string;
  bounds(shape: z.infer<Shape>, rigs: Rigs): Bounds;
}

export const defineKind = <const Name extends string, Shape extends z.ZodType>(kind: Kind<Name, Shape>) => kind;

/** The bounds of something round or square that stands on its base: half width, height, half depth. */
export const standing = (halfWidth: number, height: number, halfDepth: number): Bounds => [
  -halfWidth,
  0,
  -halfDepth,
  halfWidth,
  height,
  halfDepth,
];
