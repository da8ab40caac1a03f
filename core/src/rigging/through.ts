import { plus, times, type Vector } from '../pose/vectors.ts';
import { Refused } from '../schema/refused.ts';
import type { TriangleTree } from './triangle-tree.ts';

/** What of a line lies in a body: from where it comes in to where it goes out again. */
export interface Through {
  readonly enter: Vector;
  readonly leave: Vector;
  readonly middle: Vector;
}

/** Two hits nearer to each other than this share of the way are one, through the edge of two triangles. */
const SAME = 1e-9;

/** Where the tree's last line goes in and out, in order; an edge counts once. */
function crossings(tree: TriangleTree): { readonly at: number; readonly sign: number }[] {
  const all = tree.at.map((at, i) => ({ at, sign: tree.sign[i] })).sort((a, b) => a.at - b.at || a.sign - b.sign);
  return all.filter(({ at, sign }, i) => {
    const before = all[i - 1];
    return !before || sign !== before.sign || at - before.at > SAME * Math.max(1, Math.abs(at));
  });
}

/**
 * The first that a line goes through of a body; bodies that reach into each other are one there.
 * @param origin where one looks from, outside @param way any length
 * @throws Refused where there is no body on the line, or none with a far side
 */
export function throughBody(tree: TriangleTree, origin: Vector, way: Vector): Through {
  tree.hits(...origin, ...way);
  const found = crossings(tree);
  const first = found.findIndex(({ sign }) => sign < 0);
  if (first < 0) throw new Refused('There is no body here: press on the body, and the joint lands in its middle.');
  let depth = 0;
  for (let i = first; i < found.length; i++) {
    depth -= found[i].sign;
    if (depth > 0) continue;
    const on = (t: number) => plus(origin, times(way, t));
    const [from, to] = [found[first].at, found[i].at];
    return { enter: on(from), leave: on(to), middle: on((from + to) / 2) };
  }
  throw new Refused('The body is open here and has no far side, so it has no middle: press beside the hole.');
}

/** How many shells a place lies in, looking along a way that leads out of all. */
export function depthAt(tree: TriangleTree, at: Vector, way: Vector): number {
  tree.hits(...at, ...way);
  return crossings(tree).reduce((depth, { sign }) => depth + sign, 0);
}

/**
 * Whether one sees from one place to another without leaving the body.
 * @param depth how many shells the first lies in
 */
export function seesInside(tree: TriangleTree, from: Vector, to: Vector, depth: number): boolean {
  const way: Vector = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
  tree.hits(...from, ...way, 0, 1);
  if (tree.at.length === 0) return depth > 0;
  let left = depth;
  for (const { sign } of crossings(tree)) {
    left -= sign;
    if (left <= 0) return false;
  }
  return true;
}
