import { childrenOf, withDescendants } from '../../document/hierarchy.ts';
import type { Member } from '../../document/member.ts';
import type { Shot } from '../../document/shot.ts';
import type { Frame } from '../../evaluate/frame.ts';
import { wayThrough } from '../../ground/way-through.ts';
import { invert, transformPoint } from '../../pose/affine.ts';
import { apart, cross, direction, minus, plus, times, type Vector } from '../../pose/vectors.ts';
import { chance } from '../../schema/chance.ts';
import { newId } from '../../schema/ids.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import { Refused } from '../../schema/refused.ts';
import { formOf, hasForm } from '../../surface/mesh/index.ts';
import { type PlacedCopy, withoutControls } from './members.ts';

/** Where copies stand: in a row or a grid, round a middle, or strewn. */

/** Where a copy stands. */
type Place = Omit<PlacedCopy, 'ids'>;

/** Copies at places. Who is copied is looked up once, so that the hundredth copy costs what it has in it. */
function copiesAt(shot: Shot, ids: readonly string[], places: readonly Place[]): PlacedCopy[] {
  const copied = [...withDescendants(shot, withoutControls(shot, ids))];
  return places.map((place) => ({ ...place, ids: Object.fromEntries(copied.map((id) => [id, newId()])) }));
}

/** Copies for a grid of so many members along each axis, so far apart; the original stands in its first corner. */
export function gridOf(
  shot: Shot,
  ids: readonly string[],
  counts: readonly [number, number, number],
  steps: readonly [number, number, number],
): PlacedCopy[] {
  const places: Place[] = [];
  for (let z = 0; z < counts[2]; z++) {
    for (let y = 0; y < counts[1]; y++) {
      for (let x = 0; x < counts[0]; x++) {
        if (x + y + z === 0) continue;
        places.push({ offset: [x * steps[0], y * steps[1], z * steps[2]], turn: 0 });
      }
    }
  }
  return copiesAt(shot, ids, places);
}

/**
 * Copies for a ring of so many, the original among them: its middle lies behind the original, away from whoever looks along -Z.
 * @param count with the original, at least 2 @param radius metres @param turned whether each is turned with the ring
 */
export function ringOf(
  shot: Shot,
  ids: readonly string[],
  { count, radius, turned }: { readonly count: number; readonly radius: number; readonly turned: boolean },
): PlacedCopy[] {
  const places = Array.from({ length: count - 1 }, (_, i): Place => {
    const angle = ((i + 1) * 2 * Math.PI) / count;
    const offset = [radius * Math.sin(angle), 0, radius * (Math.cos(angle) - 1)] as const;
    return { offset, turn: turned ? angle : 0 };
  });
  return copiesAt(shot, ids, places);
}

/** One copy that is the mirror image, across the middle of its parent's space. */
export const mirrorCopy = (shot: Shot, ids: readonly string[], mirror: 'x' | 'z'): PlacedCopy[] =>
  copiesAt(shot, ids, [{ offset: [0, 0, 0], turn: 0, mirror }]);

export interface Strewing {
  readonly count: number;
  /** How far from the original at most, metres. */
  readonly radius: number;
  /** How far from one another at least, metres. */
  readonly apart: number;
  /** Whether each is turned by chance. */
  readonly turned: boolean;
  /** Another number, another place for each; the same one, the same. */
  readonly seed: number;
}

/** So often a place is looked for before it is given up. */
const TRIES = 200;

/** Copies strewn about the original, at {@link strewnPlaces}. */
export const strewn = (shot: Shot, ids: readonly string[], how: Strewing): PlacedCopy[] =>
  copiesAt(shot, ids, strewnPlaces(how));

/**
 * Places about a middle, none nearer to another than wanted (dart throwing: Cook, "Stochastic Sampling in Computer Graphics",
 * ACM TOG 5, 1986). Fewer than wanted where there is no room for more.
 */
export function strewnPlaces({ count, radius, apart, turned, seed }: Strewing): Place[] {
  const lots = chance(seed);
  const taken: (readonly [number, number])[] = [[0, 0]];
  const places: Place[] = [];
  for (let missed = 0; places.length < count && missed < TRIES; ) {
    const [angle, out, turn] = [2 * Math.PI * lots(), radius * Math.sqrt(lots()), 2 * Math.PI * lots()];
    const [x, z] = [out * Math.cos(angle), out * Math.sin(angle)];
    if (taken.some(([a, b]) => Math.hypot(x - a, z - b) < apart)) {
      missed++;
      continue;
    }
    missed = 0;
    taken.push([x, z]);
    places.push({ offset: [x, 0, z], turn: turned ? turn : 0 });
  }
  return places;
}

/** Where somebody is in the space their parent makes, at a frame; and the map from the world into it. */
function homeOf(id: string, frame: Frame): { readonly at: Vector; readonly into: Float64Array } {
  const { layout } = frame;
  const slot = layout.slotOf.get(id)!;
  const parent = layout.space[slot];
  const into = new Float64Array(16);
  if (parent < 0 || !invert(into, 0, frame.world, parent * 16)) for (const i of [0, 5, 10, 15]) into[i] = 1;
  const w = frame.world.subarray(slot * 16 + 12, slot * 16 + 15);
  return { at: pointIn(into, [w[0], w[1], w[2]]), into };
}

function pointIn(into: Float64Array, [x, y, z]: Vector): Vector {
  const out = new Float64Array(3);
  transformPoint(out, 0, into, 0, x, y, z);
  return [out[0], out[1], out[2]];
}

/**
 * Copies along the way through the members of a group, evenly, from its first place to its last; the original stays where it stands.
 * @param turned whether each is turned about the upright to go along @param frame where the places are
 * @throws Refused where it is no group of two or more
 */
export function alongWay(
  shot: Shot,
  ids: readonly string[],
  {
    way,
    count,
    turned,
    frame,
  }: { readonly way: string; readonly count: number; readonly turned: boolean; readonly frame: Frame },
): PlacedCopy[] {
  const places = childrenOf(shot, way).flatMap((member): Vector[] => {
    const slot = frame.layout.slotOf.get(member.id);
    return slot === undefined ? [] : [[0, 1, 2].map((c) => frame.world[slot * 16 + 12 + c]) as unknown as Vector];
  });
  if (places.length < 2) throw new Refused('A way needs a group with two members or more: they are its places.');
  const on = wayThrough(places);
  const { at, into } = homeOf(ids[0], frame);
  const stands = Array.from({ length: count }, (_, i): Place => {
    const share = count === 1 ? 0.5 : i / (count - 1);
    const there = pointIn(into, on(share));
    const ahead = pointIn(into, on(Math.min(1, share + 0.004)));
    const behind = pointIn(into, on(Math.max(0, share - 0.004)));
    const turn = turned ? Math.atan2(ahead[0] - behind[0], ahead[2] - behind[2]) : 0;
    return { offset: minus(there, at), turn };
  });
  return copiesAt(shot, ids, stands);
}

export interface Scattering {
  /** The member over whose surface. */
  readonly over: string;
  readonly count: number;
  /** How far from one another at least, metres. */
  readonly apart: number;
  /** Only where it is no steeper than this, degrees from level; 180 is all round. */
  readonly steep: number;
  /** Stands square on the surface, or upright. */
  readonly square: boolean;
  readonly turned: boolean;
  readonly seed: number;
  readonly frame: Frame;
}

/**
 * Copies scattered over the surface of a form, as many on a part as it has area, none nearer to another than wanted; fewer where there is no
 * room for more.
 * @throws Refused where the member has no form of its own
 */
export function scattered(shot: Shot, ids: readonly string[], how: Scattering): PlacedCopy[] {
  const member = shot.members.get(how.over);
  if (!member || !hasForm(member.kind))
    throw new Refused('Say over whose surface: somebody who has a form of their own.');
  const faces = facesOf(member, how.frame, Math.cos((how.steep * Math.PI) / 180));
  const { at, into } = homeOf(ids[0], how.frame);
  const origin = pointIn(into, [0, 0, 0]);
  const whole = faces.length > 0 ? faces[faces.length - 1].until : 0;
  if (whole === 0) throw new Refused('None of it is as level as that: let it be steeper.');
  const lots = chance(how.seed);
  const taken: Vector[] = [];
  const places: Place[] = [];
  for (let missed = 0; places.length < how.count && missed < TRIES; ) {
    const wanted = lots() * whole;
    const face = faces.find((f) => f.until >= wanted) ?? faces[faces.length - 1];
    // Evenly over a triangle (Osada et al., ACM TOG 21, 2002).
    const [r, s, turn] = [Math.sqrt(lots()), lots(), 2 * Math.PI * lots()];
    const [a, b, c] = face.corners;
    const there = plus(plus(times(a, 1 - r), times(b, r * (1 - s))), times(c, r * s));
    if (taken.some((p) => apart(p, there) < how.apart)) {
      missed++;
      continue;
    }
    missed = 0;
    taken.push(there);
    const up = direction(minus(pointIn(into, face.normal), origin), [0, 1, 0]);
    places.push({
      offset: minus(pointIn(into, there), at),
      turn: how.turned ? turn : 0,
      ...(how.square ? { lean: fromUpright(up) } : {}),
    });
  }
  return copiesAt(shot, ids, places);
}

/** The shortest turn from upright to a direction. */
function fromUpright([x, y, z]: Vector): Quaternion {
  const half = Math.sqrt(Math.max(0, (1 + y) / 2));
  if (half < 1e-6) return [1, 0, 0, 0];
  return [z / (2 * half), 0, -x / (2 * half), half];
}

interface Face {
  readonly corners: readonly [Vector, Vector, Vector];
  readonly normal: Vector;
  /** The area of this one and all before it. */
  readonly until: number;
}

/** The triangles of a form in the world that are no steeper than wanted. @param level the least height of their normal */
function facesOf(member: Member, frame: Frame, level: number): Face[] {
  const at = frame.layout.slotOf.get(member.id)! * 16;
  const world = frame.world.slice(at, at + 16);
  const out: Face[] = [];
  let area = 0;
  for (const { mesh } of formOf(member)) {
    const point = (v: number) =>
      pointIn(world, [mesh.positions[v * 3], mesh.positions[v * 3 + 1], mesh.positions[v * 3 + 2]]);
    for (let t = 0; t < mesh.triangles.length; t += 3) {
      const corners = [point(mesh.triangles[t]), point(mesh.triangles[t + 1]), point(mesh.triangles[t + 2])] as const;
      const n = cross(minus(corners[1], corners[0]), minus(corners[2], corners[0]));
      const twice = Math.hypot(...n);
      if (twice < 1e-12 || n[1] / twice < level) continue;
      area += twice / 2;
      out.push({ corners, normal: times(n, 1 / twice), until: area });
    }
  }
  return out;
}
