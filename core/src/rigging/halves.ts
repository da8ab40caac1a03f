import { apart, mirrored } from '../pose/vectors.ts';
import { type RigMesh, rigLimits } from '../rig/definition.ts';
import { Refused } from '../schema/refused.ts';
import { type Build, MIDDLE, twinsOf } from './build.ts';
import { inOrder } from './joints.ts';
import { Names } from './names.ts';

/**
 * Makes a whole of a half: what lies on the right goes, and the left half with its mirror image is the body. Where a part goes through the
 * middle it is cut there, and both halves share what lies on the cut; a part that lies on the left alone gets a counterpart. Joints on the left
 * get theirs where they have none.
 * @throws Refused where nothing lies on the left, or there would be more than a rig can be
 */
export function madeWhole(build: Build): Build {
  const joints = withTwins(build);
  const twin = twinsOf(joints.joints);
  const names = new Set(build.meshes.map((m) => m.id));
  const meshes = build.meshes.flatMap((mesh): RigMesh[] => {
    const xs = mesh.positions.filter((_, i) => i % 3 === 0);
    const low = xs.reduce((least, x) => Math.min(least, x), Number.POSITIVE_INFINITY);
    const high = xs.reduce((most, x) => Math.max(most, x), Number.NEGATIVE_INFINITY);
    if (high <= 0) return [];
    if (low < -1) return [joined(cut(mesh), twin)];
    // It ends on the middle, or stands clear of it.
    if (low <= 1) return [joined(mesh, twin)];
    return [mesh, image(mesh, twin, idOf(mesh.id, names))];
  });
  if (meshes.length === 0)
    throw new Refused('Nothing of the body lies on the left: the left half is what is mirrored.');
  const vertices = meshes.reduce((sum, mesh) => sum + mesh.positions.length / 3, 0);
  if (vertices > rigLimits.vertices)
    throw new Refused(`It would have ${vertices} points; a body has up to ${rigLimits.vertices}.`);
  return { ...joints, meshes };
}

function idOf(id: string, taken: Set<string>): string {
  const stem = `${id.replace(/L$/, '').slice(0, 24)}R`;
  let free = stem;
  for (let n = 2; taken.has(free); n++) free = `${stem.slice(0, -1)}${n}R`;
  taken.add(free);
  return free;
}

/** Left joints get counterparts; right ones that are nobody's go. */
function withTwins(build: Build): Build {
  const known = twinsOf(build.joints);
  const kept = build.joints.filter((j) => j.place[0] >= -MIDDLE || known.has(j.id));
  const there = new Set(kept.map((j) => j.id));
  const joints = kept.map((j) => (j.parent !== null && !there.has(j.parent) ? { ...j, parent: null } : j));
  const names = new Names({ joints });
  const twin = new Map(known);
  const added = joints.flatMap((joint) => {
    if (joint.place[0] <= MIDDLE || twin.has(joint.id)) return [];
    const same = joints.find((j) => apart(j.place, mirrored(joint.place)) < 1e-6);
    if (same) return [];
    const given = names.give(`${joint.name.replace(/ L$/, '')} R`);
    twin.set(joint.id, given.id);
    return [{ ...joint, ...given, place: mirrored(joint.place) }];
  });
  if (joints.length + added.length > rigLimits.joints)
    throw new Refused(`It would have ${joints.length + added.length} joints; a rig has up to ${rigLimits.joints}.`);
  const hung = added.map((j) => ({ ...j, parent: j.parent === null ? null : (twin.get(j.parent) ?? j.parent) }));
  const all = inOrder([...joints, ...hung]);
  const ids = new Set(all.map((j) => j.id));
  return { ...build, joints: all, parts: build.parts.filter((part) => part.joints.every((id) => ids.has(id))) };
}

/** The mirror image of a mesh, by itself. */
function image(mesh: RigMesh, twin: ReadonlyMap<string, string>, id: string): RigMesh {
  return {
    ...mesh,
    id,
    positions: mesh.positions.map((v, i) => (i % 3 === 0 ? -v || 0 : v)),
    triangles: turnedOver(mesh.triangles),
    skin: twinSkin(mesh.skin, twin),
    targets: mesh.targets.map((t) => ({ ...t, offsets: t.offsets.map((v, i) => (i % 3 === 0 ? -v || 0 : v)) })),
  };
}

/** In the mirror triangles go round the other way. */
const turnedOver = (triangles: readonly number[]): number[] =>
  triangles.map((_, i) => triangles[i % 3 === 0 ? i : i % 3 === 1 ? i + 1 : i - 1]);

const twinSkin = (skin: RigMesh['skin'], twin: ReadonlyMap<string, string>): RigMesh['skin'] =>
  skin.kind === 'rigid'
    ? { ...skin, joint: twin.get(skin.joint) ?? skin.joint }
    : { ...skin, joints: skin.joints.map((j) => twin.get(j) ?? j) };

/** A half and its image as one mesh; what lies on the middle is theirs together. */
function joined(half: RigMesh, twin: ReadonlyMap<string, string>): RigMesh {
  const count = half.positions.length / 3;
  const onMiddle = (v: number) => Math.abs(half.positions[v * 3]) <= 1;
  const to = new Map<number, number>();
  const positions = half.positions.map((v, i) => (i % 3 === 0 && Math.abs(v) <= 1 ? 0 : v));
  const copied: number[] = [];
  for (let v = 0; v < count; v++) {
    if (onMiddle(v)) to.set(v, v);
    else {
      to.set(v, count + copied.length);
      copied.push(v);
      positions.push(-half.positions[v * 3], half.positions[v * 3 + 1], half.positions[v * 3 + 2]);
    }
  }
  const triangles = [...half.triangles, ...turnedOver(half.triangles).map((v) => to.get(v)!)];
  const { skin } = half;
  const picture = half.material?.picture;
  return {
    ...half,
    positions,
    triangles,
    ...(half.material && picture
      ? {
          material: {
            ...half.material,
            picture: {
              ...picture,
              places: [...picture.places, ...copied.flatMap((v) => picture.places.slice(v * 2, v * 2 + 2))],
            },
          },
        }
      : {}),
    skin: skin.kind === 'rigid' ? skin : joinedSkin(skin, copied, twin),
    targets: half.targets.map((target) => {
      const vertices = [...target.vertices];
      const offsets = target.offsets.map((o, i) =>
        i % 3 === 0 && onMiddle(target.vertices[Math.floor(i / 3)]) ? 0 : o,
      );
      target.vertices.forEach((v, i) => {
        if (onMiddle(v)) return;
        vertices.push(to.get(v)!);
        offsets.push(-target.offsets[i * 3] || 0, target.offsets[i * 3 + 1], target.offsets[i * 3 + 2]);
      });
      return { ...target, vertices, offsets };
    }),
  };
}

type Smooth = Extract<RigMesh['skin'], { kind: 'smooth' }>;

function joinedSkin(skin: Smooth, copied: readonly number[], twin: ReadonlyMap<string, string>): Smooth {
  const joints = [...skin.joints];
  const image = skin.joints.map((id) => {
    const other = twin.get(id) ?? id;
    if (!joints.includes(other)) joints.push(other);
    return joints.indexOf(other);
  });
  const four = (list: readonly number[], v: number) => list.slice(v * 4, v * 4 + 4);
  return {
    ...skin,
    joints,
    indices: [...skin.indices, ...copied.flatMap((v) => four(skin.indices, v).map((i) => image[i]))],
    weights: [...skin.weights, ...copied.flatMap((v) => four(skin.weights, v))],
  };
}

/** What of a mesh lies on the left, cut along the middle. Points of the cut take weights and shapes of their nearer end. */
function cut(mesh: RigMesh): RigMesh {
  const { positions } = mesh;
  const picture = mesh.material?.picture;
  const from: { readonly a: number; readonly b: number; readonly t: number }[] = [];
  const at = new Map<string, number>();
  const vertex = (a: number, b: number, t: number): number => {
    const key = a === b ? `${a}` : a < b ? `${a} ${b}` : `${b} ${a}`;
    const known = at.get(key);
    if (known !== undefined) return known;
    at.set(key, from.length);
    from.push({ a, b, t });
    return from.length - 1;
  };
  const x = (v: number) => positions[v * 3];
  const triangles: number[] = [];
  for (let t = 0; t < mesh.triangles.length; t += 3) {
    const corners = mesh.triangles.slice(t, t + 3);
    const kept: number[] = [];
    corners.forEach((a, k) => {
      const b = corners[(k + 1) % 3];
      if (x(a) >= 0) kept.push(vertex(a, a, 0));
      if (x(a) > 0 !== x(b) > 0 && x(a) !== 0 && x(b) !== 0) kept.push(vertex(a, b, x(a) / (x(a) - x(b))));
    });
    for (let k = 1; k + 1 < kept.length; k++) {
      const flat = [kept[0], kept[k], kept[k + 1]].every((v) => from[v].a !== from[v].b || x(from[v].a) === 0);
      if (!flat) triangles.push(kept[0], kept[k], kept[k + 1]);
    }
  }
  const mixed = (list: readonly number[], each: number) =>
    from.flatMap(({ a, b, t }) =>
      Array.from({ length: each }, (_, c) => Math.round(list[a * each + c] * (1 - t) + list[b * each + c] * t)),
    );
  const nearer = ({ a, b, t }: (typeof from)[number]) => (t < 0.5 ? a : b);
  const { skin } = mesh;
  const places = mixed(positions, 3).map((v, i) =>
    i % 3 === 0 && from[Math.floor(i / 3)].a !== from[Math.floor(i / 3)].b ? 0 : v,
  );
  const four = (list: readonly number[]) => from.flatMap((f) => list.slice(nearer(f) * 4, nearer(f) * 4 + 4));
  return {
    ...mesh,
    positions: places,
    triangles,
    ...(mesh.material && picture
      ? { material: { ...mesh.material, picture: { ...picture, places: mixed(picture.places, 2) } } }
      : {}),
    skin: skin.kind === 'rigid' ? skin : { ...skin, indices: four(skin.indices), weights: four(skin.weights) },
    targets: mesh.targets.map((target) => {
      const of = new Map(target.vertices.map((v, i) => [v, i]));
      const vertices: number[] = [];
      const offsets: number[] = [];
      from.forEach((f, v) => {
        const i = of.get(nearer(f));
        if (i === undefined) return;
        vertices.push(v);
        offsets.push(...target.offsets.slice(i * 3, i * 3 + 3));
      });
      return { ...target, vertices, offsets };
    }),
  };
}
