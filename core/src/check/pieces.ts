import { boundsOf, type Member } from '../document/member.ts';
import { depthInMesh } from '../surface/inside.ts';
import { formOf } from '../surface/mesh/index.ts';
import type { Watched } from './watched.ts';

/** Forms whose depth is known in closed form; that of all others is found by their triangles. */
const FULL = ['box', 'cylinder', 'ball'] as const;
type Full = (typeof FULL)[number];
const isFull = (kind: string): kind is Full => (FULL as readonly string[]).includes(kind);

/** A thing that is full: its place, column by column, and what it fills in its own space. */
export interface Piece {
  readonly form: Full | readonly ReturnType<typeof formOf>[number]['mesh'][];
  readonly world: Float64Array;
  readonly min: readonly number[];
  readonly max: readonly number[];
}

/** A piece of a shot that is watched. */
export interface WatchedPiece extends Piece {
  readonly id: string;
  /** Where it is at every frame, 16 numbers each; null where it stands still. */
  readonly ways: Float64Array | null;
}

/** What is full in a shot: all that has a body but is no sheet. Where it moves it is looked at frame by frame, unless there is too much of it. */
export function watchedPieces(watched: Watched): WatchedPiece[] {
  const frame = watched.at(watched.first);
  return watched.solids.flatMap((member): WatchedPiece[] => {
    const ways = watched.wayOf(member.id);
    if (ways === undefined) return [];
    const slot = frame.layout.slotOf.get(member.id)!;
    const [x0, y0, z0, x1, y1, z1] = boundsOf(member, watched.shot.rigs);
    return [
      {
        id: member.id,
        form: isFull(member.kind) ? member.kind : formMeshes(member),
        world: frame.world.slice(slot * 16, slot * 16 + 16),
        ways,
        min: [x0, y0, z0],
        max: [x1, y1, z1],
      },
    ];
  });
}

const formMeshes = (member: Member) => formOf(member, 'crowd').map(({ mesh }) => mesh);

/** Brings a piece to where it is at a frame, counted from the first. */
export function bringTo({ ways, world }: WatchedPiece, i: number): void {
  if (ways) for (let k = 0; k < 16; k++) world[k] = ways[i * 16 + k];
}

const [own, sizes] = [new Float64Array(3), new Float64Array(3)];

/** How deep a place is in a piece, metres; below nothing where it is outside. */
export function depthIn({ world, min, max, form }: Piece, x: number, y: number, z: number): number {
  const [dx, dy, dz] = [x - world[12], y - world[13], z - world[14]];
  let least = Number.POSITIVE_INFINITY;
  for (let a = 0; a < 3; a++) {
    const [cx, cy, cz] = [world[a * 4], world[a * 4 + 1], world[a * 4 + 2]];
    sizes[a] = Math.hypot(cx, cy, cz) || 1;
    own[a] = (cx * dx + cy * dy + cz * dz) / (sizes[a] * sizes[a]);
    least = Math.min(least, Math.min(own[a] - min[a], max[a] - own[a]) * sizes[a]);
  }
  if (form === 'box') return least;
  if (typeof form !== 'string') {
    // Outside its box it is outside of all of it.
    if (least < 0) return least;
    const size = Math.min(sizes[0], sizes[1], sizes[2]);
    return form.reduce((deep, mesh) => Math.max(deep, depthInMesh(mesh, own[0], own[1], own[2]) * size), -Infinity);
  }
  // Sizes across a round thing are taken to be alike: from its middle, or its middle line, to its hull.
  const radius = ((max[0] - min[0]) / 2) * sizes[0];
  const off = (a: number) => (own[a] - (min[a] + max[a]) / 2) * sizes[a];
  const upright = Math.min(own[1] - min[1], max[1] - own[1]) * sizes[1];
  return form === 'ball'
    ? radius - Math.hypot(off(0), off(1), off(2))
    : Math.min(upright, radius - Math.hypot(off(0), off(2)));
}
