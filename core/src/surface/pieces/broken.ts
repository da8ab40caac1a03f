import type { Member } from '../../document/member.ts';
import { chance } from '../../schema/chance.ts';
import { Refused } from '../../schema/refused.ts';
import { type Convex, cut, holds, massOf, type Plane, type Point } from './convex.ts';
import { convexParts } from './parts.ts';

/** How a form is broken. */
export interface Breaking {
  /** How many pieces, from 2 to {@link MOST_PIECES}. */
  readonly count: number;
  /** Another number, other pieces; the same one, the same. */
  readonly seed: number;
  /** Where it was struck, in its own space: pieces are the smaller the nearer they are; null for pieces of about one size. */
  readonly struck: Point | null;
}

export const MOST_PIECES = 200;

/** A piece of a form, in the form's own space. */
export interface Piece {
  readonly bodies: readonly Convex[];
  readonly volume: number;
  readonly middle: Point;
}

/**
 * Breaks a form: each piece is what is nearer to its seed than to any other (Voronoi), so that pieces fit each other and nothing is lost.
 * Pieces of a convex form are convex; those of others are as many convex bodies as the form has there, without anything between them.
 * @throws Refused where the form has no inside
 */
export function broken(member: Member, { count, seed, struck }: Breaking): Piece[] {
  const parts = convexParts(member);
  if (!(count >= 2 && count <= MOST_PIECES)) throw new Refused(`It can be broken into 2 to ${MOST_PIECES} pieces.`);
  const seeds = seedsIn(parts, count, seed, struck);
  return seeds.flatMap((at, i) => {
    const planes = planesRound(at, i, seeds);
    const bodies = parts.flatMap((part) => {
      let left: Convex | null = part;
      for (const plane of planes) {
        left = left && cut(left, plane);
        if (!left) break;
      }
      return left ? [left] : [];
    });
    if (bodies.length === 0) return [];
    const { volume, middle } = massOf(bodies);
    return volume > 1e-15 ? [{ bodies, volume, middle }] : [];
  });
}

/** The planes half way to all other seeds, those of the nearest ones first: they cut most away. */
function planesRound(at: Point, own: number, seeds: readonly Point[]): Plane[] {
  return seeds
    .flatMap((other, j) => (j === own ? [] : [{ other, j, far: distance(at, other) }]))
    .sort((a, b) => a.far - b.far || a.j - b.j)
    .map(({ other, j, far }) => {
      // Reckoned the same way from both sides, so that both are cut by the very same plane.
      const [a, b] = own < j ? [at, other] : [other, at];
      const n = b.map((v, c) => (v - a[c]) / far) as unknown as Point;
      const d = n.reduce((s, v, c) => s + (v * (a[c] + b[c])) / 2, 0);
      return own < j ? { n, d } : { n: [-n[0], -n[1], -n[2]], d: -d };
    });
}

const distance = (a: Point, b: Point): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** So often a place inside is looked for. */
const TRIES = 20_000;

function seedsIn(parts: readonly Convex[], count: number, seed: number, struck: Point | null): Point[] {
  const lots = chance(seed);
  const low = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  const high = low.map((v) => -v);
  for (const { faces } of parts)
    for (const { corners } of faces)
      corners.forEach((v, i) => {
        low[i % 3] = Math.min(low[i % 3], v);
        high[i % 3] = Math.max(high[i % 3], v);
      });
  const reach = Math.hypot(...high.map((v, c) => v - low[c]));
  const seeds: Point[] = [];
  for (let tries = 0; seeds.length < count; tries++) {
    if (tries > TRIES * count) throw new Refused('It is too thin to be broken into so many pieces.');
    const at = low.map((v, c) => v + (high[c] - v) * lots()) as unknown as Point;
    // The further from where it was struck, the fewer.
    const keeps = struck === null ? 1 : Math.exp((-6 * distance(at, struck)) / reach);
    if (lots() > keeps || !parts.some((part) => holds(part, at))) continue;
    if (seeds.every((other) => distance(at, other) > reach * 1e-6)) seeds.push(at);
  }
  return seeds;
}
