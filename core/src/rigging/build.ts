import { apart, mirrored, type Vector } from '../pose/vectors.ts';
import type { Rig, RigJoint, RigMesh } from '../rig/definition.ts';
import type { RigPart } from '../rig/plan.ts';

/** A joint of a rig that is being built. */
export interface BuildJoint extends Pick<RigJoint, 'id' | 'parent' | 'place' | 'turn'> {
  readonly name: string;
  /** Axes it turns about: a hinge has one. */
  readonly axes: string;
  /** How far, radians, by `turn.x`. */
  readonly limits: Readonly<Record<string, { readonly min?: number; readonly max?: number }>>;
}

/**
 * A rig that is being built: a body, joints in it, and what they are the joints of. Plain and immutable; what is done to it gives another.
 * Its controls are no part of it: they follow from the rest.
 */
export interface Build {
  readonly id: string;
  readonly name: string;
  /** Parents before children. */
  readonly joints: readonly BuildJoint[];
  readonly meshes: readonly RigMesh[];
  readonly parts: readonly RigPart[];
}

/** A rig opened to be built on. What of it no plan tells is taken as plain joints. */
export function buildOf(rig: Rig): Build {
  const nameOf = (joint: RigJoint) => {
    const by =
      joint.by?.kind === 'control'
        ? rig.controls.find((c) => joint.by?.kind === 'control' && c.id === joint.by.control)
        : undefined;
    return by?.name ?? joint.id;
  };
  return {
    id: rig.id,
    name: rig.name,
    joints: rig.joints.map((joint) => {
      const known = rig.plan?.joints[joint.id];
      return {
        id: joint.id,
        parent: joint.parent,
        place: joint.place,
        turn: joint.turn,
        name: known?.name ?? nameOf(joint),
        axes: known?.turn ?? 'xyz',
        limits: known?.limits ?? {},
      };
    }),
    meshes: rig.meshes,
    parts: rig.plan?.parts ?? [],
  };
}

/** Why a rig is not to be built on as it is, in a sentence; null where it is. */
export function notBuiltHere(rig: Rig): string | null {
  if (rig.plan) return null;
  const { limbs, feet, spines, looks } = rig;
  if (limbs.length + feet.length + spines.length + looks.length === 0) return null;
  return `${rig.name} was dressed elsewhere: what is saved from here has its joints and its body, and controls made anew.`;
}

/** Nearer to the middle than this nothing has a side, metres. */
export const MIDDLE = 1e-4;
const SAME_PLACE = 1e-6;

/** For each joint its counterpart on the other side: the one that stands in its mirror image. */
export function twinsOf(joints: readonly BuildJoint[]): Map<string, string> {
  const out = new Map<string, string>();
  for (const joint of joints) {
    if (joint.place[0] <= MIDDLE || out.has(joint.id)) continue;
    const image = mirrored(joint.place);
    const found = joints.find((other) => !out.has(other.id) && apart(other.place, image) < SAME_PLACE);
    if (!found) continue;
    out.set(joint.id, found.id);
    out.set(found.id, joint.id);
  }
  return out;
}

/** The joints a joint carries. */
export const carriedBy = (build: Build, id: string): BuildJoint[] => build.joints.filter((j) => j.parent === id);

export function jointOf(build: Build, id: string): BuildJoint {
  const found = build.joints.find((j) => j.id === id);
  if (!found) throw new Error(`There is no joint ${id}.`);
  return found;
}

/** How high the body stands and how deep it reaches, metres: `[low, high]`; of the joints where there is no body. */
export function heights({ meshes, joints }: Build): [number, number] {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const { positions } of meshes)
    for (let i = 1; i < positions.length; i += 3) {
      low = Math.min(low, positions[i] / 1e4);
      high = Math.max(high, positions[i] / 1e4);
    }
  if (low <= high) return [low, high];
  const ys = joints.map((j) => j.place[1]);
  return ys.length > 0 ? [Math.min(0, ...ys), Math.max(...ys)] : [0, 1];
}

/** Which side a place is on: 1 left, -1 right, 0 in the middle. */
export const sideOfPlace = (place: Vector): 1 | -1 | 0 => (place[0] > MIDDLE ? 1 : place[0] < -MIDDLE ? -1 : 0);
