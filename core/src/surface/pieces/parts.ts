import type { Member } from '../../document/member.ts';
import { Refused } from '../../schema/refused.ts';
import { bevel, formOf } from '../mesh/forms.ts';
import type { Mesh } from '../mesh/mesh.ts';
import { bendsOf, bowAt, endOf } from '../mesh/plank.ts';
import { type Convex, cut, type Face, squareTo } from './convex.ts';

/** How finely round things are when they are broken. */
const ROUND = 20;

/** The form of a member as convex bodies that touch along seams and fill it. @throws Refused where it has no inside */
export function convexParts(member: Member): Convex[] {
  switch (member.kind) {
    case 'steps': {
      const { count, tread, rise, depth } = member.shape;
      const half = (count * tread) / 2;
      return Array.from({ length: count }, (_, i) => {
        const right = half - i * tread;
        const sides = [i > 0 ? 'seam' : 'outside', i < count - 1 ? 'seam' : 'outside'] as const;
        return slab([right - tread, 0, right, (i + 1) * rise], depth, sides);
      });
    }
    case 'tube': {
      const { radius, wall, height } = member.shape;
      const inner = Math.max(radius - wall, radius * 0.02);
      return around((a, b) => sector(inner, radius, a, b, 0, height));
    }
    case 'ring': {
      const { radius, thickness } = member.shape;
      const bar = Math.min(thickness, radius * 0.98);
      return around((a, b) => bend(radius, bar, a, b));
    }
    case 'arch': {
      const { width, height, depth, wall } = member.shape;
      const outer = width / 2;
      const inner = outer - Math.min(wall, outer * 0.98);
      const spring = Math.max(height, outer) - outer;
      const legs =
        spring > 0 ? [slab([inner, 0, outer, spring], depth, TOP), slab([-outer, 0, -inner, spring], depth, TOP)] : [];
      const half = ROUND / 2;
      const bends = Array.from({ length: half }, (_, i) => {
        const ends = [
          spring > 0 || i > 0 ? 'seam' : 'outside',
          spring > 0 || i < half - 1 ? 'seam' : 'outside',
        ] as const;
        return archSector(inner, outer, spring, [(i * Math.PI) / half, ((i + 1) * Math.PI) / half], depth, ends);
      });
      return [...legs, ...bends];
    }
    case 'plank': {
      const { shape } = member;
      const end = endOf(shape);
      const stations = bendsOf(shape);
      return stations.slice(1).map((to, i) => {
        const from = stations[i];
        const ends = [i === 0 ? 'outside' : 'seam', i === stations.length - 2 ? 'outside' : 'seam'] as const;
        return board(end, [from, to], [bowAt(shape, from), bowAt(shape, to)], ends);
      });
    }
    case 'lettering':
      throw new Refused('Letters are strokes that lie over each other: they have no pieces.');
    case 'rope':
      throw new Refused('A rope bends and does not break.');
    case 'plane':
      throw new Refused('A plane has no inside: it cannot be broken.');
    case 'block': {
      const half = member.shape.size / 2;
      return [softBox([half, half, half], member.shape.size * 0.04, [0, 0, 0], false)];
    }
    case 'box': {
      const { width, height, depth, rounding } = member.shape;
      const half = [width / 2, height / 2, depth / 2] as const;
      const radius = Math.min(Math.max(rounding, bevel(width, height, depth)), ...half);
      return [softBox(half, radius, [0, height / 2, 0], rounding > 0)];
    }
    case 'ball':
    case 'cylinder':
    case 'cone':
    case 'capsule':
    case 'wedge':
      return [ofMesh(formOf({ ...member, material: undefined }, 'crowd')[0].mesh)];
    default:
      throw new Refused(`${member.name} has no form that could be broken.`);
  }
}

/** A convex mesh, its triangles as faces. */
function ofMesh({ positions, normals, triangles }: Mesh): Convex {
  const faces: Face[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const at = (from: Float32Array) =>
      [...triangles.subarray(t, t + 3)].flatMap((v) => [...from.subarray(v * 3, v * 3 + 3)]);
    const face: Face = { corners: at(positions), normals: at(normals), is: 'outside' };
    if (Math.hypot(...squareTo(face)) > 1e-12) faces.push(face);
  }
  return { faces };
}

/**
 * A box about its middle whose edges and corners are taken off by planes that touch its rounding.
 * @param half half its size each way @param radius of the rounding @param fine whether more planes take more care of a large rounding
 */
function softBox(half: Corner, radius: number, middle: Corner, fine: boolean): Convex {
  const [x, y, z] = half;
  let body: Convex = slab([-x, -y, x, y], 2 * z, ['outside', 'outside']);
  const leans = fine ? [-1, -Math.SQRT2 + 1, 0, Math.SQRT2 - 1, 1] : [-1, 0, 1];
  for (const a of leans)
    for (const b of leans)
      for (const c of leans) {
        const length = Math.hypot(a, b, c);
        // Planes along the sides are there, and those that point nowhere are none.
        if ([a, b, c].filter((v) => v !== 0).length < 2 || Math.max(Math.abs(a), Math.abs(b), Math.abs(c)) < 1)
          continue;
        const n: Corner = [a / length, b / length, c / length];
        const d = n.reduce((s, v, k) => s + Math.abs(v) * (half[k] - radius), radius);
        body = cut(body, { n, d }, 'outside') ?? body;
      }
  return { faces: body.faces.map((f) => ({ ...f, corners: f.corners.map((v, k) => v + middle[k % 3]) })) };
}

type Corner = readonly [number, number, number];

/** A flat face, shaded as it lies or by normals of its own. */
function face(is: Face['is'], corners: readonly Corner[], normals?: readonly Corner[]): Face {
  const [a, b, c] = corners;
  const [u, v] = [b, c].map((p) => p.map((x, k) => x - a[k]));
  const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  const length = Math.hypot(...n) || 1;
  const flat = n.map((x) => x / length);
  return { corners: corners.flat(), normals: normals ? normals.flat() : corners.flatMap(() => flat), is };
}

/** A straight piece of a board between two places along X. @param end its outline, against the clock seen from +X */
function board(
  end: readonly (readonly [z: number, y: number])[],
  [from, to]: readonly [number, number],
  [low, high]: readonly [number, number],
  [first, last]: readonly [End, End],
): Convex {
  const near = end.map(([z, y]): Corner => [from, y + low, z]);
  const far = end.map(([z, y]): Corner => [to, y + high, z]);
  return {
    faces: [
      face(first, [...near].reverse()),
      face(last, far),
      ...end.map((_, i) => {
        const j = (i + 1) % end.length;
        return face('outside', [near[i], near[j], far[j], far[i]]);
      }),
    ],
  };
}

type End = 'outside' | 'seam';
/** Of a leg its right and its left are outside; its top is a seam. */
const TOP = ['outside', 'outside', 'seam'] as const;

/** A box from left and low to right and high in x and y, about z = 0. @param ends what its right, its left and its top are */
function slab(
  [left, low, right, high]: readonly [number, number, number, number],
  depth: number,
  [r, l, top = 'outside']: readonly [End, End, End?],
): Convex {
  const z = depth / 2;
  return prismOf(
    [
      [left, low],
      [right, low],
      [right, high],
      [left, high],
    ],
    z,
    ['outside', r, top, l],
  );
}

/** A convex outline, seen from +Z against the clock, from -z to z. @param sides what each of its sides is, from its first corner on */
function prismOf(outline: readonly (readonly [number, number])[], z: number, sides: readonly End[]): Convex {
  const front = outline.map(([x, y]): Corner => [x, y, z]);
  const back = outline.map(([x, y]): Corner => [x, y, -z]);
  return {
    faces: [
      face('outside', front),
      face('outside', [...back].reverse()),
      ...outline.map((_, i) => {
        const j = (i + 1) % outline.length;
        return face(sides[i], [front[i], back[i], back[j], front[j]]);
      }),
    ],
  };
}

function archSector(
  inner: number,
  outer: number,
  spring: number,
  [a, b]: readonly [number, number],
  depth: number,
  [first, last]: readonly [End, End],
): Convex {
  const at = (r: number, angle: number): [number, number] => [r * Math.cos(angle), spring + r * Math.sin(angle)];
  return prismOf([at(inner, a), at(outer, a), at(outer, b), at(inner, b)], depth / 2, [
    first,
    'outside',
    last,
    'outside',
  ]);
}

/** Bodies all the way round +Y, each between two angles. */
const around = (make: (a: number, b: number) => Convex): Convex[] =>
  Array.from({ length: ROUND }, (_, i) => make((i * 2 * Math.PI) / ROUND, ((i + 1) * 2 * Math.PI) / ROUND));

/** A piece of a wall round +Y. */
function sector(inner: number, outer: number, a: number, b: number, low: number, high: number): Convex {
  const at = (r: number, angle: number, y: number): Corner => [r * Math.sin(angle), y, r * Math.cos(angle)];
  const out = (angle: number): Corner => [Math.sin(angle), 0, Math.cos(angle)];
  const into = (angle: number): Corner => [-Math.sin(angle), 0, -Math.cos(angle)];
  return {
    faces: [
      face(
        'outside',
        [at(outer, a, low), at(outer, b, low), at(outer, b, high), at(outer, a, high)],
        [out(a), out(b), out(b), out(a)],
      ),
      face(
        'outside',
        [at(inner, b, low), at(inner, a, low), at(inner, a, high), at(inner, b, high)],
        [into(b), into(a), into(a), into(b)],
      ),
      face('outside', [at(inner, a, high), at(outer, a, high), at(outer, b, high), at(inner, b, high)]),
      face('outside', [at(inner, b, low), at(outer, b, low), at(outer, a, low), at(inner, a, low)]),
      face('seam', [at(inner, a, low), at(outer, a, low), at(outer, a, high), at(inner, a, high)]),
      face('seam', [at(outer, b, low), at(inner, b, low), at(inner, b, high), at(outer, b, high)]),
    ],
  };
}

/** A piece of a round bar bent round +Y. */
function bend(radius: number, bar: number, a: number, b: number): Convex {
  const rows = ROUND / 2;
  const ring = (angle: number) =>
    Array.from({ length: rows }, (_, i) => {
      const t = (i * 2 * Math.PI) / rows;
      const [out, up] = [Math.cos(t), Math.sin(t)];
      const r = radius + bar * out;
      return {
        at: [r * Math.sin(angle), bar * up, r * Math.cos(angle)] as Corner,
        normal: [out * Math.sin(angle), up, out * Math.cos(angle)] as Corner,
      };
    });
  const [first, last] = [ring(a), ring(b)];
  return {
    faces: [
      ...first.map((p, i) => {
        const corners = [p, last[i], last[(i + 1) % rows], first[(i + 1) % rows]];
        return face(
          'outside',
          corners.map((c) => c.at),
          corners.map((c) => c.normal),
        );
      }),
      face(
        'seam',
        first.map((p) => p.at),
      ),
      face('seam', last.map((p) => p.at).reverse()),
    ],
  };
}
