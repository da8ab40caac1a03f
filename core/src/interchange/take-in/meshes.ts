import { colourText } from '../../document/channels.ts';
import { mediaHash } from '../../media/index.ts';
import { transformPoint } from '../../pose/affine.ts';
import { MESH_UNIT, PICTURE_UNIT, type RigDraft, rigLimits, WHOLE_WEIGHT } from '../../rig/definition.ts';
import { Refused } from '../../schema/refused.ts';
import type { Finish } from '../../surface/mesh/index.ts';
import type { MeshPart, Scene, SceneMaterial } from '../scene/scene.ts';
import { type Bones, Ids } from './bones.ts';

type Mesh = RigDraft['meshes'][number];

/** A shape target of a node's mesh, and the dial that says how much of it there is. */
export interface ShapeDial {
  readonly node: number;
  readonly target: number;
  readonly name: string;
  /** `control.dial`. */
  readonly path: string;
}

/** A vertex weighs less than this on a joint, and it is left out. */
const LIGHT = 1 / WHOLE_WEIGHT / 2;

/**
 * The bodies of a scene as meshes of a rig, in the rig's space at rest.
 * @param dials those that drive shape targets
 * @throws Refused where there are more vertices or meshes than a rig can have
 */
export function meshesOf(scene: Scene, bones: Bones, dials: readonly ShapeDial[]): Mesh[] {
  const ids = new Ids();
  const meshes: Mesh[] = [];
  let vertices = 0;
  scene.nodes.forEach(({ mesh, skin }, node) => {
    if (mesh === undefined) return;
    const { parts, name } = scene.meshes[mesh];
    const own = dials.filter((d) => d.node === node);
    for (const part of parts) {
      vertices += part.mesh.positions.length / 3;
      const into = skin === undefined ? bones.list[bones.of[node]].rest : bones.skins[skin];
      const material = scene.materials[part.material];
      meshes.push({
        id: ids.give(name || scene.nodes[node].name || 'mesh'),
        colour: colourText(material.colour[0], material.colour[1], material.colour[2]),
        finish: finishOf(material),
        material: {
          roughness: within(material.roughness),
          metalness: within(material.metalness),
          bothSides: material.bothSides,
          ...pictureOf(scene, part),
        },
        positions: whole(moved(part.mesh.positions, into, true)),
        triangles: [...part.mesh.triangles],
        skin:
          skin === undefined || !part.bones
            ? { kind: 'rigid', joint: bones.list[bones.of[node]]?.id ?? bones.list[0].id }
            : smooth(
                part.bones,
                scene.skins[skin].joints.map((n) => bones.list[bones.of[n]].id),
              ),
        targets: own.map((dial) => targetOf(part, dial, into)),
      });
    }
  });
  if (vertices > rigLimits.vertices)
    throw new Refused(`Its bodies have ${vertices} vertices together; a rig carries up to ${rigLimits.vertices}.`);
  if (meshes.length > rigLimits.meshes)
    throw new Refused(`It has ${meshes.length} meshes; a rig carries up to ${rigLimits.meshes}.`);
  return meshes;
}

function moved(points: Float32Array, into: Float64Array, places: boolean): Float64Array {
  const out = new Float64Array(points.length);
  for (let p = 0; p < points.length; p += 3) {
    transformPoint(out, p, into, 0, points[p], points[p + 1], points[p + 2]);
    if (!places) for (let c = 0; c < 3; c++) out[p + c] -= into[12 + c];
  }
  return out;
}

const whole = (metres: Float64Array): number[] => Array.from(metres, (v) => Math.round(v / MESH_UNIT));

function targetOf({ targets }: MeshPart, { target, name, path }: ShapeDial, into: Float64Array) {
  const offsets = whole(moved(targets[target].positions, into, false));
  const vertices: number[] = [];
  for (let v = 0; v < offsets.length / 3; v++)
    if (offsets[v * 3] !== 0 || offsets[v * 3 + 1] !== 0 || offsets[v * 3 + 2] !== 0) vertices.push(v);
  return {
    id: `t${target + 1}`,
    name: name.trim().slice(0, 80) || `shape ${target + 1}`,
    by: { text: 'amount', inputs: [{ name: 'amount', path }] },
    vertices,
    offsets: vertices.flatMap((v) => offsets.slice(v * 3, v * 3 + 3)),
  };
}

/** Weights as whole parts of 255 that sum to it: what rounding leaves goes to the largest. */
function smooth({ joints, weights }: NonNullable<MeshPart['bones']>, names: readonly string[]): Mesh['skin'] {
  const used = [...new Set(joints)].sort((a, b) => a - b);
  const place = new Map(used.map((joint, i) => [joint, i]));
  const parts: number[] = [];
  for (let v = 0; v < weights.length; v += 4) {
    const own = [0, 1, 2, 3].map((k) => (weights[v + k] > LIGHT ? Math.round(weights[v + k] * WHOLE_WEIGHT) : 0));
    const largest = own.indexOf(Math.max(...own));
    own[largest] += WHOLE_WEIGHT - own.reduce((sum, w) => sum + w, 0);
    parts.push(...own);
  }
  return {
    kind: 'smooth',
    joints: used.map((joint) => names[joint]),
    indices: Array.from(joints, (joint) => place.get(joint)!),
    weights: parts,
  };
}

const within = (share: number): number => Math.min(1, Math.max(0, share));

function pictureOf({ materials, pictures }: Scene, { material, picturePlaces }: MeshPart) {
  const { picture: at, cutOut = false } = materials[material];
  if (at === undefined || !picturePlaces) return {};
  const places = Array.from(picturePlaces, (p) => Math.round(Math.min(1e4, Math.max(-1e4, p)) / PICTURE_UNIT));
  return { picture: { media: mediaHash(pictures[at].bytes), places, cutOut } };
}

/** The nearest of what parts of rigs are made of. */
function finishOf({ roughness, metalness }: SceneMaterial): Finish {
  if (metalness > 0.2) return 'tin';
  if (roughness > 0.85) return 'felt';
  return roughness < 0.45 ? 'ink' : 'wood';
}
