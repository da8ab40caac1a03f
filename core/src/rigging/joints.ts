import { minus, mirrored, plus, type Vector } from '../pose/vectors.ts';
import { type RigMesh, rigLimits } from '../rig/definition.ts';
import type { RigPart } from '../rig/plan.ts';
import { Refused } from '../schema/refused.ts';
import { type Build, type BuildJoint, carriedBy, jointOf, sideOfPlace, twinsOf } from './build.ts';
import { Names } from './names.ts';

/** What is done to the joints of a rig that is being built. Each gives another build; the one it is given stays as it is. */

/** Nearer to the middle than this share of a body's height a joint is meant to stand in it. */
const NEARLY_MIDDLE = 0.012;

/** A place as it is meant: in the middle where it is nearly there, to a micrometre. */
export function meantPlace(place: Vector, height: number): Vector {
  const round = (v: number) => Math.round(v * 1e6) / 1e6 || 0;
  const x = Math.abs(place[0]) < NEARLY_MIDDLE * height ? 0 : place[0];
  return [round(x), round(place[1]), round(place[2])];
}

/**
 * Puts a joint in, and with `pairs` its mirror image on the other side.
 * @param parent what carries it
 * @returns the build and the id of the new joint
 * @throws Refused where there are as many as a rig can have
 */
export function addJoint(
  build: Build,
  { name, parent, place, pairs }: { name: string; parent: string | null; place: Vector; pairs: boolean },
): [Build, string] {
  const twin = pairs && sideOfPlace(place) !== 0;
  if (build.joints.length + (twin ? 2 : 1) > rigLimits.joints)
    throw new Refused(`A rig has up to ${rigLimits.joints} joints, and this one has ${build.joints.length}.`);
  if (![...place].every(Number.isFinite)) throw new Refused('The place of the joint is not a number.');
  const names = new Names(build);
  const marks = sideOfPlace(place) > 0 ? ['L', 'R'] : ['R', 'L'];
  const own = joint(names.give(twin ? `${name} ${marks[0]}` : name), parent, place);
  const joints = [...build.joints, own];
  // Of a body that hung on nothing all hangs on the first one.
  const meshes =
    build.joints.length > 0
      ? build.meshes
      : build.meshes.map((mesh): RigMesh => ({ ...mesh, skin: { kind: 'rigid', joint: own.id } }));
  if (twin) {
    const other = parent === null ? null : (twinsOf(build.joints).get(parent) ?? parent);
    joints.push(joint(names.give(`${name} ${marks[1]}`), other, mirrored(place)));
  }
  return [{ ...build, joints, meshes }, own.id];
}

const joint = ({ id, name }: { id: string; name: string }, parent: string | null, place: Vector): BuildJoint => ({
  id,
  name,
  parent,
  place,
  turn: [0, 0, 0, 1],
  axes: 'xyz',
  limits: {},
});

/** The ids of a joint and, with `pairs`, of its counterpart. */
const both = (build: Build, id: string, pairs: boolean): string[] => {
  const partner = pairs ? twinsOf(build.joints).get(id) : undefined;
  return partner ? [id, partner] : [id];
};

/** Moves a joint to a place. @param along whether what it carries goes with it */
export function moveJoint(
  build: Build,
  id: string,
  place: Vector,
  { pairs, along }: { pairs: boolean; along: boolean },
): Build {
  if (![...place].every(Number.isFinite)) throw new Refused('The place of the joint is not a number.');
  const by = minus(place, jointOf(build, id).place);
  const partner = pairs ? twinsOf(build.joints).get(id) : undefined;
  const moved = new Map<string, Vector>();
  const go = (joint: string, way: Vector) => {
    if (moved.has(joint)) return;
    moved.set(joint, plus(jointOf(build, joint).place, way));
    if (along) for (const child of carriedBy(build, joint)) go(child.id, way);
  };
  go(id, by);
  if (partner) go(partner, mirrored(by));
  return { ...build, joints: build.joints.map((j) => (moved.has(j.id) ? { ...j, place: moved.get(j.id)! } : j)) };
}

/** Takes a joint away; what it carried goes over to its parent, and so does what of the body hung on it. */
export function removeJoint(build: Build, id: string, { pairs }: { pairs: boolean }): Build {
  let out = build;
  for (const gone of both(build, id, pairs)) {
    const { parent } = jointOf(out, gone);
    const rest = out.joints.filter((j) => j.id !== gone);
    const heir = parent ?? rest.find((j) => j.parent === gone)?.id ?? rest[0]?.id;
    if (heir === undefined) throw new Refused('It is the last joint, and a rig needs one: begin anew with another.');
    const joints = rest.map((j) => (j.parent === gone ? { ...j, parent: j.id === heir ? null : heir } : j));
    const handed = { ...out, joints: inOrder(joints), meshes: out.meshes.map((mesh) => hungOver(mesh, gone, heir)) };
    out = { ...handed, parts: partsThatHold(handed, out.parts) };
  }
  return out;
}

/** Takes all joints away, to begin anew with one's own; the body hangs on nothing until there is one. */
export const withoutJoints = (build: Build): Build => ({
  ...build,
  joints: [],
  parts: [],
  meshes: build.meshes.map((mesh): RigMesh => ({ ...mesh, skin: { kind: 'rigid', joint: 'none' } })),
});

/** The parts whose joints are all there still. */
function partsThatHold(build: Build, parts: readonly RigPart[]): RigPart[] {
  const there = new Set(build.joints.map((j) => j.id));
  return parts.filter((part) => part.joints.every((id) => there.has(id)));
}

/** A mesh of which another joint has what one had. */
function hungOver(mesh: RigMesh, from: string, to: string): RigMesh {
  const { skin } = mesh;
  if (skin.kind === 'rigid') return skin.joint === from ? { ...mesh, skin: { kind: 'rigid', joint: to } } : mesh;
  const at = skin.joints.indexOf(from);
  if (at < 0) return mesh;
  const heir = skin.joints.indexOf(to);
  if (heir < 0) return { ...mesh, skin: { ...skin, joints: skin.joints.map((j) => (j === from ? to : j)) } };
  const place = (i: number) => (i === at ? heir : i) - ((i === at ? heir : i) > at ? 1 : 0);
  return {
    ...mesh,
    skin: { ...skin, joints: skin.joints.filter((j) => j !== from), indices: skin.indices.map(place) },
  };
}

/** Gives a joint another name, and the id that goes with it. */
export function renameJoint(build: Build, id: string, name: string): Build {
  const text = name.trim();
  if (text === '') throw new Refused('A joint needs a name.');
  if (text === jointOf(build, id).name) return build;
  const without = { ...build, joints: build.joints.filter((j) => j.id !== id) };
  const given = new Names(without).give(text);
  return renamed(build, new Map([[id, given]]));
}

/** Gives joints other names and ids, wherever they are named. */
export function renamed(
  build: Build,
  given: ReadonlyMap<string, { readonly id: string; readonly name: string }>,
): Build {
  const idOf = (id: string) => given.get(id)?.id ?? id;
  return {
    ...build,
    joints: build.joints.map((j) => ({
      ...j,
      ...given.get(j.id),
      parent: j.parent === null ? null : idOf(j.parent),
    })),
    meshes: build.meshes.map((mesh) => ({
      ...mesh,
      skin:
        mesh.skin.kind === 'rigid'
          ? { ...mesh.skin, joint: idOf(mesh.skin.joint) }
          : { ...mesh.skin, joints: mesh.skin.joints.map(idOf) },
    })),
    parts: build.parts.map((part) => ({ ...part, joints: part.joints.map(idOf) })),
  };
}

/** Hangs a joint on another, or on nothing. @throws Refused where it would hang on itself */
export function hangJoint(build: Build, id: string, parent: string | null, { pairs }: { pairs: boolean }): Build {
  const partners = twinsOf(build.joints);
  let out = build;
  for (const own of both(build, id, pairs)) {
    const to = own === id || parent === null ? parent : (partners.get(parent) ?? parent);
    for (let up = to; up !== null; up = jointOf(out, up).parent)
      if (up === own) throw new Refused(`${jointOf(out, own).name} cannot hang on what hangs on it.`);
    out = { ...out, joints: inOrder(out.joints.map((j) => (j.id === own ? { ...j, parent: to } : j))) };
  }
  return out;
}

/** Sets about which axes a joint turns, and how far. */
export function setJoint(
  build: Build,
  id: string,
  change: Partial<Pick<BuildJoint, 'axes' | 'limits'>>,
  { pairs }: { pairs: boolean },
): Build {
  const change2 = mirroredLimits(change);
  const own = both(build, id, pairs);
  return {
    ...build,
    joints: build.joints.map((j) =>
      j.id === own[0] ? { ...j, ...change } : j.id === own[1] ? { ...j, ...change2 } : j,
    ),
  };
}

/** In the mirror a turn about y or z goes the other way. */
function mirroredLimits<C extends Partial<Pick<BuildJoint, 'limits'>>>(change: C): C {
  if (!change.limits) return change;
  const turned = Object.entries(change.limits).map(([channel, { min, max }]) => {
    if (channel === 'turn.x') return [channel, { min, max }] as const;
    const opposite = (v: number | undefined) => (v === undefined ? undefined : -v || 0);
    return [channel, { min: opposite(max), max: opposite(min) }] as const;
  });
  return { ...change, limits: Object.fromEntries(turned) };
}

/** Makes the right half of the joints the mirror image of the left one, where both have the same. */
export function evenOut(build: Build, tolerance: number): Build {
  const joints = [...build.joints];
  joints.forEach((joint, j) => {
    if (Math.abs(joint.place[0]) < tolerance / 2 && joint.place[0] !== 0)
      joints[j] = { ...joint, place: [0, joint.place[1], joint.place[2]] };
  });
  for (const joint of build.joints) {
    if (joint.place[0] < tolerance / 2) continue;
    const image = mirrored(joint.place);
    const far = (other: BuildJoint) => Math.hypot(...minus(other.place, image));
    const near = joints.map((other, o) => ({ o, far: far(other) })).filter((n) => n.far < tolerance);
    near.sort((a, b) => a.far - b.far);
    if (near.length > 0) joints[near[0].o] = { ...joints[near[0].o], place: image };
  }
  return { ...build, joints };
}

/** Parents before children, else as they stood. */
export function inOrder(joints: readonly BuildJoint[]): BuildJoint[] {
  const out: BuildJoint[] = [];
  const done = new Set<string>();
  const byId = new Map(joints.map((j) => [j.id, j]));
  const put = (joint: BuildJoint) => {
    if (done.has(joint.id)) return;
    done.add(joint.id);
    const parent = joint.parent === null ? undefined : byId.get(joint.parent);
    if (parent) put(parent);
    out.push(joint);
  };
  for (const joint of joints) put(joint);
  return out;
}

/** Gives a part of the body another colour or finish; a finish takes the place of what it was made of, a picture on it too. */
export function paintPart(build: Build, id: string, paint: Partial<Pick<RigMesh, 'colour' | 'finish'>>): Build {
  const paintOne = (mesh: RigMesh): RigMesh => {
    if (paint.finish === undefined) return { ...mesh, ...paint };
    const { material: _, ...plain } = mesh;
    return { ...plain, ...paint };
  };
  return { ...build, meshes: build.meshes.map((mesh) => (mesh.id === id ? paintOne(mesh) : mesh)) };
}

/** Hangs a whole mesh on one joint. */
export function stiffen(build: Build, mesh: string, joint: string): Build {
  jointOf(build, joint);
  return { ...build, meshes: build.meshes.map((m) => (m.id === mesh ? { ...m, skin: { kind: 'rigid', joint } } : m)) };
}
