import type { Frame } from '../evaluate/frame.ts';

/** Points of a body that stand for all of it: its origin, and a quarter of a metre along each of its axes. */
const REACH = 0.25;

/** How far apart two nodes are at their farthest, in metres. */
function apart(a: Float64Array, i: number, b: Float64Array, j: number): number {
  let most = 0;
  for (let axis = -1; axis < 3; axis++) {
    let sum = 0;
    for (let k = 0; k < 3; k++) {
      const reach = axis < 0 ? 0 : REACH * (a[i + axis * 4 + k] - b[j + axis * 4 + k]);
      sum += (a[i + 12 + k] - b[j + 12 + k] + reach) ** 2;
    }
    most = Math.max(most, sum);
  }
  return Math.sqrt(most);
}

/**
 * How far each member of one frame is from where it is in another, at the part of it that is farthest: metres, by member. A rig is as far
 * as the joint of it that is. Who is in one of them only, is not seen in one of them only, or is nowhere else, is not told.
 */
export function movedApart(one: Frame, other: Frame): Map<string, number> {
  const out = new Map<string, number>();
  one.layout.ids.forEach((id, slot) => {
    const there = other.layout.slotOf.get(id);
    if (there === undefined || !one.isVisible(slot) || !other.isVisible(there)) return;
    let most = apart(one.world, slot * 16, other.world, there * 16);
    const [a, b] = [one.layout.rigAt.get(slot), other.layout.rigAt.get(there)];
    if (a && b && a.compiled === b.compiled)
      for (let j = 0; j < a.compiled.rig.joints.length; j++)
        most = Math.max(most, apart(one.world, (a.joints + j) * 16, other.world, (b.joints + j) * 16));
    if (most > 0) out.set(id, most);
  });
  return out;
}
