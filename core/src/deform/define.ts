import type { z } from 'zod';
import type { KindChannel } from '../schema/channel.ts';

/** Numbers a prepared deformer keeps in a frame. */
export const PARAMETERS = 16;

/** What a deformer is prepared from, at one moment. */
export interface DeformInput {
  /** Its channels, in the order they are declared, from `at` on. */
  readonly values: Float64Array;
  readonly at: number;
  /** Matrices of the world, and where this member's stands. */
  readonly world: Float64Array;
  readonly worldAt: number;
  /** The box around the form at rest. */
  readonly bounds: readonly [number, number, number, number, number, number];
  /** The smallest of `d · p` over the points `p` of the form at rest: how deep it reaches against a direction. */
  lowest(x: number, y: number, z: number): number;
  /** The way the member goes at this moment, in the world, not normalised; all zero where it stands. */
  readonly velocity: Float64Array;
}

/** A way to bend a form out of shape. A new one is one file beside this one and one line in `index.ts`. */
export interface Deformer<Name extends string, Settings extends z.ZodType> {
  readonly kind: Name;
  readonly label: string;
  /** What it does, in a sentence. */
  readonly about: string;
  /** What is set once and not animated. */
  readonly settings: Settings;
  readonly channels: readonly KindChannel[];
  /** The channel that says how much, and an amount at which what it does is plain to see. */
  readonly shows: { readonly channel: string; readonly at: number };
  /** Whether it is a linear map with a shift, so that a matrix says all of it. */
  readonly affine: boolean;
  /** Works out the `PARAMETERS` numbers of a moment; for an affine one a 3×4 matrix, column by column. */
  prepare(settings: z.infer<Settings>, input: DeformInput, out: Float64Array, outAt: number): void;
  /** Moves a point of the member's own space: three numbers of `point` from `pointAt` on. */
  move(parameters: Float64Array, at: number, point: Float64Array | Float32Array, pointAt: number): void;
}

export const defineDeformer = <const Name extends string, Settings extends z.ZodType>(
  deformer: Deformer<Name, Settings>,
) => deformer;

/** The number of an axis by its letter. */
export const axisIndex = { x: 0, y: 1, z: 2 } as const;
