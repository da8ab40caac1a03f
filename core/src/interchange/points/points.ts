/**
 * Where every vertex is at every frame: what is drawn, cast in one piece. Frames, vertices and triangles count from 0, the vertices of
 * one body after those of another.
 */
export interface PointCache {
  /** Frames a second. */
  readonly rate: number;
  readonly frames: number;
  readonly bodies: readonly { readonly name: string; readonly first: number; readonly count: number }[];
  /** Three numbers a vertex, all vertices of a frame after those of the one before. */
  readonly points: Float32Array;
  /** Three vertices each. */
  readonly triangles: Uint32Array;
}

export const pointLimits = {
  /** Bytes of a file, and of all that is packed in it. */
  packed: 500_000_000,
  unpacked: 1_000_000_000,
  /** Numbers of all frames together. */
  numbers: 200_000_000,
} as const;

/** The files that are packed together. */
export const partNames = { points: 'points.npy', triangles: 'triangles.npy', about: 'about.json' } as const;
