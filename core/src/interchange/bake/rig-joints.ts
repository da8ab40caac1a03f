import { restInverses, skinsOf } from '../../body/skin.ts';
import { invert, multiply } from '../../pose/affine.ts';
import type { CompiledRig } from '../../rig/compiled.ts';
import type { Place } from '../scene/scene.ts';
import { PLACE, slantOf, writePlace } from './mover.ts';
import type { Run } from './runs.ts';

/** A joint of a rig that becomes a node. */
export interface PlannedJoint {
  /** Its place among the rig's joints. */
  readonly joint: number;
  /** The joint it hangs on, which becomes a node as well; -1 for the rig. */
  readonly above: number;
  /** How it stands to that at rest. */
  readonly at: Place;
  /** What takes the rig at rest into it. */
  readonly inverseBind: Float64Array;
}

/**
 * The joints that become nodes, parents first, and how they stand to one another at rest. A joint hangs on its parent, or where that
 * is stretched so that the joint would have to be slanted to it, on the nearest above that is not: move, turn and size say all then.
 * @param worlds where all joints are at some moments, as {@link jointWorlds} gives them
 */
export function planJoints(
  compiled: CompiledRig,
  onlyDeforming: boolean,
  worlds: readonly Float64Array[],
): PlannedJoint[] {
  const kept = keptJoints(compiled, onlyDeforming);
  const known = new Set(kept);
  const { rests } = compiled;
  const inverses = restInverses(compiled);
  const matrix = new Float64Array(16);
  const numbers = new Float64Array(PLACE);
  return kept.map((joint) => {
    let above = parentOf(compiled, joint);
    while (above >= 0 && !(known.has(above) && isSquareTo(worlds, joint, above))) above = parentOf(compiled, above);
    if (above < 0) matrix.set(rests.subarray(joint * 16, joint * 16 + 16));
    else multiply(matrix, 0, inverses, above * 16, rests, joint * 16);
    writePlace(matrix, 0, numbers, 0);
    const [x, y, z, qx, qy, qz, qw, sx, sy, sz] = numbers;
    const at: Place = { translation: [x, y, z], rotation: [qx, qy, qz, qw], scale: [sx, sy, sz] };
    return { joint, above, at, inverseBind: inverses.slice(joint * 16, joint * 16 + 16) };
  });
}

const parentOf = ({ rig, jointAt }: CompiledRig, joint: number): number => {
  const { parent } = rig.joints[joint];
  return parent === null ? -1 : jointAt.get(parent)!;
};

/** All joints, or those that something of the body hangs on; parents first. */
function keptJoints(compiled: CompiledRig, onlyDeforming: boolean): number[] {
  const all = parentsFirst(compiled);
  if (!onlyDeforming) return all;
  const used = new Set<number>();
  for (const { joints, weights } of skinsOf(compiled)) {
    for (let i = 0; i < joints.length; i++) if (weights[i] > 0) used.add(joints[i]);
  }
  return all.filter((joint) => used.has(joint));
}

function parentsFirst(compiled: CompiledRig): number[] {
  const out: number[] = [];
  const seen = new Set<number>();
  compiled.rig.joints.forEach((_, joint) => {
    const chain: number[] = [];
    for (let at = joint; at >= 0 && !seen.has(at); at = parentOf(compiled, at)) {
      chain.push(at);
      seen.add(at);
    }
    out.push(...chain.reverse());
  });
  return out;
}

/** The most moments joints are looked at in all. */
const MOST_LOOKS = 400;

/** Where all joints of a rig are in its own space, 16 numbers each, at moments of all that becomes a motion. */
export function jointWorlds(id: string, compiled: CompiledRig, runs: readonly Run[]): Float64Array[] {
  const count = compiled.rig.joints.length;
  const inverse = new Float64Array(16);
  const all = runs.reduce((sum, run) => sum + 2 * (run.last - run.first) + 1, 0);
  const step = Math.max(1, Math.ceil(all / MOST_LOOKS)) / 2;
  return runs.flatMap(({ program, first, last }) => {
    const frame = program.createFrame();
    const { root, joints } = program.layout.rigAt.get(program.layout.slotOf.get(id)!)!;
    const out: Float64Array[] = [];
    for (let time = first; time <= last; time += step) {
      program.evaluate(time, frame);
      invert(inverse, 0, frame.world, root * 16);
      const worlds = new Float64Array(count * 16);
      for (let j = 0; j < count; j++) multiply(worlds, j * 16, inverse, 0, frame.world, (joints + j) * 16);
      out.push(worlds);
    }
    return out;
  });
}

const relative = new Float64Array(16);

/** Whether a joint is square to another at all moments. */
function isSquareTo(worlds: readonly Float64Array[], joint: number, above: number): boolean {
  return worlds.every((world) => {
    if (!invert(relative, 0, world, above * 16)) return false;
    multiply(relative, 0, relative, 0, world, joint * 16);
    return slantOf(relative, 0) < 1e-6;
  });
}

/** How far a joint is slanted in the rig's own space at most, as a cosine. */
export const slantOfJoint = (worlds: readonly Float64Array[], joint: number): number =>
  worlds.reduce((most, world) => Math.max(most, slantOf(world, joint * 16)), 0);
