import { boundsOf, type Member } from '../document/member.ts';
import { isSolid } from '../surface/support.ts';
import { runsOf, type WatchedBody } from './bodies.ts';
import { type Check, type Draft, frameText, metresText } from './check.ts';
import type { Watched } from './watched.ts';

/** Forms that are full and whose depth is known in closed form; what is hollow or carved is looked at by nobody yet. */
const FULL = ['box', 'cylinder', 'ball'] as const;
type Full = (typeof FULL)[number];
const isFull = (kind: string): kind is Full => (FULL as readonly string[]).includes(kind);

/** A thing of the set that stands still: its place, column by column, and what it fills in its own space. */
interface Piece {
  readonly id: string;
  readonly form: Full;
  readonly world: Float64Array;
  readonly min: readonly number[];
  readonly max: readonly number[];
}

function pieces(watched: Watched): Piece[] {
  const frame = watched.at(watched.first);
  const isStill = (member: Member) => !watched.places.has(member.id) && isFull(member.kind) && isSolid(member);
  return watched.shot.members
    .values()
    .filter(isStill)
    .map((member) => {
      const slot = frame.layout.slotOf.get(member.id)!;
      const [x0, y0, z0, x1, y1, z1] = boundsOf(member, watched.shot.rigs);
      return {
        id: member.id,
        form: member.kind as Full,
        world: frame.world.slice(slot * 16, slot * 16 + 16),
        min: [x0, y0, z0],
        max: [x1, y1, z1],
      };
    });
}

/** How far a place is inside a piece along one of the piece's own axes: metres. */
function along(a: number, { world, min, max }: Omit<Piece, 'id'>, dx: number, dy: number, dz: number): number {
  const [x, y, z] = [world[a * 4], world[a * 4 + 1], world[a * 4 + 2]];
  const size = Math.hypot(x, y, z) || 1;
  const own = (dx * x + dy * y + dz * z) / (size * size);
  return Math.min(own - min[a], max[a] - own) * size;
}

/** How deep a place is in a piece, metres; below nothing where it is outside. */
export function depthIn(piece: Omit<Piece, 'id'>, x: number, y: number, z: number): number {
  const { world, min, max, form } = piece;
  const [dx, dy, dz] = [x - world[12], y - world[13], z - world[14]];
  const inside = [0, 1, 2].map((a) => along(a, piece, dx, dy, dz));
  if (form === 'box') return Math.min(...inside);
  // Sizes across a round thing are taken to be alike: from its middle, or its middle line, to its hull.
  const radius = ((max[0] - min[0]) / 2) * Math.hypot(world[0], world[1], world[2]);
  const [right, up, ahead] = inside.map((d) => radius - d);
  return form === 'ball'
    ? radius - Math.hypot(right, up, ahead)
    : Math.min(inside[1], radius - Math.hypot(right, ahead));
}

/** The parts of a body that are seen to go into something: hands, feet, head, hips. Where a knee points is no part. */
const partsOf = (body: WatchedBody): { id: string; at: number }[] => {
  const { controls, limbs } = body.placed.compiled.rig;
  const ends = new Set(limbs.flatMap((l) => (l.target.is === 'control' ? [l.target.id] : [])));
  return controls.flatMap((control, at) =>
    ends.has(control.id) || control.id === 'head' || control.id === 'hips' || control.id === 'chest'
      ? [{ id: control.id, at }]
      : [],
  );
};

export const goesInto: Check = {
  id: 'goesInto',
  name: 'Goes into another',
  why: 'A hand in a wall, a foot in a crate: what is solid stops what is solid. Even a finger’s breadth makes both of them smoke.',
  unit: 'mm',
  tolerance: 30,
  most: 500,
  step: 5,
  weight: 'fault',
  *look(watched: Watched, tolerance): Iterable<Draft | null> {
    const set = watched.bodies.length > 0 ? pieces(watched) : [];
    for (const body of watched.bodies) {
      const count = body.placed.compiled.rig.controls.length;
      for (const { id, at } of partsOf(body))
        for (const piece of set) {
          const depth = Float64Array.from({ length: watched.frames }, (_, i) => {
            const place = (i * count + at) * 3;
            return depthIn(piece, body.places[place], body.places[place + 1], body.places[place + 2]) * 1000;
          });
          for (const [from, to] of runsOf(watched.frames, (i) => depth[i] > tolerance)) {
            let worst = from;
            for (let i = from; i <= to; i++) if (depth[i] > depth[worst]) worst = i;
            const member = body.member(watched.frame, id);
            yield {
              member,
              frame: watched.first + worst,
              until: watched.first + to,
              value: depth[worst],
              text: `${watched.name(body.rig)}: ${watched.name(member)} is ${metresText(depth[worst] / 1000)} in ${watched.name(piece.id)} at ${frameText(watched.first + worst)}.`,
            };
          }
        }
      yield null;
    }
  },
};
