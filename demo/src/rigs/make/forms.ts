/**
 * The forms lay figures are made of: everything is lofted over rings, closed at both ends, smooth all over. Places in metres.
 */

export type Vector = readonly [number, number, number];

export interface Form {
  /** Three numbers a vertex. */
  readonly positions: number[];
  /** Three vertices a triangle, counter-clockwise seen from outside. */
  readonly triangles: number[];
}

export const add = (a: Vector, b: Vector): Vector => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const times = (a: Vector, by: number): Vector => [a[0] * by, a[1] * by, a[2] * by];
export const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
export const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const unit = (a: Vector): Vector => times(a, 1 / Math.hypot(...a));
export const mix = (a: Vector, b: Vector, share: number): Vector => add(a, times(minus(b, a), share));

/** A closed outline: where its middle is, how far it reaches along two ways, and how square it is (2 is round). */
export interface Ring {
  readonly at: Vector;
  readonly u: Vector;
  readonly v: Vector;
  readonly square?: number;
}

/** A skin over rings, first to last; both ends are closed in a point. */
export function loft(rings: readonly Ring[], around = 20): Form {
  const positions: number[] = [];
  const triangles: number[] = [];
  for (const { at, u, v, square = 2 } of rings) {
    for (let i = 0; i < around; i++) {
      const angle = (i * 2 * Math.PI) / around;
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      // A superellipse: |c|^n + |s|^n = 1 on the outline.
      const reach = 1 / (Math.abs(c) ** square + Math.abs(s) ** square) ** (1 / square);
      positions.push(...add(at, add(times(u, c * reach), times(v, s * reach))));
    }
  }
  const [first, last] = [rings[0], rings[rings.length - 1]];
  positions.push(...first.at, ...last.at);
  const [bottom, top] = [rings.length * around, rings.length * around + 1];
  // Whether the rings go round so that their outside is on the right of the way along them.
  const turned = dot(cross(first.u, first.v), minus(last.at, first.at)) < 0;
  const face = (a: number, b: number, c: number) => triangles.push(a, turned ? c : b, turned ? b : c);
  for (let i = 0; i < around; i++) {
    const j = (i + 1) % around;
    face(bottom, j, i);
    const end = (rings.length - 1) * around;
    face(top, end + i, end + j);
    for (let r = 0; r + 1 < rings.length; r++) {
      const [a, b, c, d] = [r * around + i, r * around + j, (r + 1) * around + j, (r + 1) * around + i];
      face(a, b, c);
      face(a, c, d);
    }
  }
  return { positions, triangles };
}

/** Two ways square to a direction and to one another; the first as near to `hint` as can be. */
export function across(direction: Vector, hint: Vector = [1, 0, 0]): [Vector, Vector] {
  const d = unit(direction);
  let u = minus(hint, times(d, dot(hint, d)));
  if (Math.hypot(...u) < 1e-6) u = minus([0, 0, 1], times(d, d[2]));
  u = unit(u);
  return [u, cross(d, u)];
}

/** A stretched ball, or a softened box where `square` is above 2. */
export function egg(at: Vector, reach: Vector, square = 2, around = 20): Form {
  const rings: Ring[] = [];
  const count = Math.max(7, Math.round(around * 0.6));
  for (let i = 0; i < count; i++) {
    const angle = Math.PI * ((i + 0.35) / (count - 0.3));
    const [c, s] = [-Math.cos(angle), Math.sin(angle)];
    const k = 1 / (Math.abs(c) ** square + Math.abs(s) ** square) ** (1 / square);
    const width = s * k;
    rings.push({
      at: add(at, [0, c * k * reach[1], 0]),
      u: [0, 0, reach[2] * width],
      v: [reach[0] * width, 0, 0],
      square,
    });
  }
  return loft(rings, around);
}

/**
 * A turned piece between two points: radii along the way, with rounded ends.
 * @param profile from 0 at the first point to 1 at the second, and the radius there; the ends go beyond by their own radius
 */
export function turned(
  from: Vector,
  to: Vector,
  profile: readonly (readonly [at: number, radius: number])[],
  around = 18,
): Form {
  const direction = minus(to, from);
  const length = Math.hypot(...direction);
  const [u, v] = across(direction);
  const rings: Ring[] = [];
  const ring = (along: number, radius: number) =>
    rings.push({ at: add(from, times(direction, along)), u: times(u, radius), v: times(v, radius) });
  const cap = (along: number, radius: number, sign: -1 | 1) => {
    const steps = [0.12, 0.35, 0.62, 0.85].map((s) => (s * Math.PI) / 2);
    for (const a of sign < 0 ? steps : [...steps].reverse()) {
      ring(along + (sign * Math.cos(a) * radius * 0.8) / length, Math.sin(a) * radius);
    }
  };
  cap(profile[0][0], profile[0][1], -1);
  for (const [at, radius] of profile) ring(at, radius);
  cap(profile[profile.length - 1][0], profile[profile.length - 1][1], 1);
  return loft(rings, around);
}

/** A body along a way of points, each with how far it reaches sideways and across; rounded ends. */
export function along(
  points: readonly { readonly at: Vector; readonly wide: number; readonly deep: number }[],
  sideways: Vector = [1, 0, 0],
  around = 24,
  square = 2,
): Form {
  const rings: Ring[] = [];
  const directionAt = (i: number) =>
    minus(points[Math.min(points.length - 1, i + 1)].at, points[Math.max(0, i - 1)].at);
  const ring = (at: Vector, i: number, by: number) => {
    const [u, v] = across(directionAt(i), sideways);
    rings.push({ at, u: times(u, points[i].wide * by), v: times(v, points[i].deep * by), square });
  };
  const steps = [0.12, 0.35, 0.62, 0.85].map((s) => (s * Math.PI) / 2);
  const cap = (i: number, sign: -1 | 1) => {
    const direction = unit(directionAt(i));
    const reach = Math.min(points[i].wide, points[i].deep) * 0.7;
    for (const a of sign < 0 ? steps : [...steps].reverse()) {
      ring(add(points[i].at, times(direction, sign * Math.cos(a) * reach)), i, Math.sin(a));
    }
  };
  cap(0, -1);
  points.forEach((p, i) => {
    ring(p.at, i, 1);
  });
  cap(points.length - 1, 1);
  return loft(rings, around);
}

/** A ring-shaped piece: the bow of a key, a link of a chain. */
export function hoop(at: Vector, axis: Vector, radius: number, thick: number, around = 20, square = 2): Form {
  const [u, v] = across(axis);
  const d = unit(axis);
  const positions: number[] = [];
  const triangles: number[] = [];
  const rim = 10;
  for (let i = 0; i < around; i++) {
    const angle = (i * 2 * Math.PI) / around;
    const out = add(times(u, Math.cos(angle)), times(v, Math.sin(angle)));
    const k = 1 / (Math.abs(Math.cos(angle)) ** square + Math.abs(Math.sin(angle)) ** square) ** (1 / square);
    for (let j = 0; j < rim; j++) {
      const round = (j * 2 * Math.PI) / rim;
      const r = radius * k + Math.cos(round) * thick;
      positions.push(...add(at, add(times(out, r), times(d, Math.sin(round) * thick))));
    }
  }
  for (let i = 0; i < around; i++) {
    for (let j = 0; j < rim; j++) {
      const [a, b] = [i * rim + j, i * rim + ((j + 1) % rim)];
      const [c, e] = [((i + 1) % around) * rim + ((j + 1) % rim), ((i + 1) % around) * rim + j];
      triangles.push(a, e, c, a, c, b);
    }
  }
  return { positions, triangles };
}

/** Several forms as one mesh. */
export function together(...forms: readonly Form[]): Form {
  const positions: number[] = [];
  const triangles: number[] = [];
  for (const form of forms) {
    const first = positions.length / 3;
    positions.push(...form.positions);
    for (const v of form.triangles) triangles.push(v + first);
  }
  return { positions, triangles };
}
