import { z } from 'zod';
import { listOf } from '../../schema/bounded.ts';
import { type Bounds, defineKind } from './kind.ts';

const MOST = 6_000;
/** Metres; far from the middle of anything that is broken. */
const PlaceSchema = z.number().min(-10_000).max(10_000);

interface Numbers {
  readonly positions: readonly number[];
  readonly normals: readonly number[];
  readonly triangles: readonly number[];
}

const isWhole = ({ positions, normals, triangles }: Numbers): boolean =>
  positions.length % 3 === 0 &&
  normals.length === positions.length &&
  triangles.length % 3 === 0 &&
  triangles.every((v) => v < positions.length / 3);

/** A piece of something that was broken, about its own middle. */
export const piece = defineKind({
  kind: 'piece',
  label: 'Piece',
  shape: z
    .strictObject({
      /** Three numbers a vertex, metres. */
      positions: listOf(PlaceSchema, 3 * MOST, 9).default([0, 0, 0, 0.1, 0, 0, 0, 0.1, 0]),
      /** Of each vertex which way it is shaded, three numbers in hundredths. */
      normals: listOf(z.number().int().min(-100).max(100), 3 * MOST, 9).default([0, 0, 100, 0, 0, 100, 0, 0, 100]),
      triangles: listOf(z.number().int().min(0).max(MOST), 12 * MOST, 3).default([0, 1, 2]),
      /** Where its middle was in the whole: what lies on it goes on over its edges. */
      from: z.tuple([PlaceSchema, PlaceSchema, PlaceSchema]).default([0, 0, 0]),
    })
    .refine(isWhole, 'has other numbers of places, normals and triangles than belong together'),
  channels: [],
  colour: '#b3a48c',
  bounds({ positions }): Bounds {
    const out = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, -1e9, -1e9, -1e9];
    positions.forEach((v, i) => {
      out[i % 3] = Math.min(out[i % 3], v);
      out[(i % 3) + 3] = Math.max(out[(i % 3) + 3], v);
    });
    return out as unknown as Bounds;
  },
});
