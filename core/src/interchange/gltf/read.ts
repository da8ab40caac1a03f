import {
  type Accessor,
  type Animation,
  type Document,
  type Material,
  type Mesh,
  type Node,
  type Primitive,
  type Skin,
  type Texture,
  WebIO,
} from '@gltf-transform/core';
import {
  KHRLightsPunctual,
  KHRMaterialsUnlit,
  KHRMeshQuantization,
  KHRTextureTransform,
  type Light,
  type Transform,
} from '@gltf-transform/extensions';
import { Refused } from '../../schema/refused.ts';
import { paintOf } from '../../schema/srgb.ts';
import { smoothNormals } from '../scene/normals.ts';
import type {
  MeshPart,
  Motion,
  Place,
  Scene,
  SceneCamera,
  SceneLight,
  SceneMaterial,
  SceneMesh,
  SceneNode,
  ScenePicture,
  SceneSkin,
  ShapeOffsets,
  Track,
  TrackOf,
  TrackShape,
} from '../scene/scene.ts';
import { gltfParts } from './parts.ts';

/** A scene that was read, and what of the file is not in it. */
export interface ReadScene {
  readonly scene: Scene;
  readonly left: readonly string[];
}

/**
 * Reads glTF 2.0, in one piece or as text with the files beside it, as {@link writeGlb} and others write it.
 * @param beside the files that came with it, by name
 * @throws Refused with what is wrong and where; parts that mean nothing here are left out and told
 */
export async function readGltf(
  bytes: Uint8Array,
  beside: ReadonlyMap<string, Uint8Array> = new Map(),
): Promise<ReadScene> {
  const parts = gltfParts(bytes, beside);
  const reader = new WebIO().registerExtensions([
    KHRLightsPunctual,
    KHRMaterialsUnlit,
    KHRMeshQuantization,
    KHRTextureTransform,
  ]);
  let file: Document;
  try {
    file = await reader.readJSON(parts as unknown as Parameters<WebIO['readJSON']>[0]);
  } catch (error) {
    throw new Refused(`The file cannot be read: ${(error as Error).message}`);
  }
  return new Reading(file).read();
}

const shapes: Readonly<Record<string, TrackShape>> = { STEP: 'step', LINEAR: 'linear', CUBICSPLINE: 'cubic' };
const kinds = { point: 'point', directional: 'sun', spot: 'spot' } as const;
const widths: Readonly<Record<TrackOf, number>> = { translation: 3, rotation: 4, scale: 3, weights: 1 };

class Reading {
  readonly #file: Document;
  readonly #left = new Map<string, number>();
  readonly #nodes = new Map<Node, number>();
  readonly #meshes = new Map<Mesh, number>();
  readonly #skins = new Map<Skin, number>();
  readonly #materials = new Map<Material | null, number>();
  readonly #pictures = new Map<Texture, number>();
  readonly #made: { meshes: SceneMesh[]; skins: SceneSkin[]; materials: SceneMaterial[]; pictures: ScenePicture[] } = {
    meshes: [],
    skins: [],
    materials: [],
    pictures: [],
  };

  constructor(file: Document) {
    this.#file = file;
  }

  read(): ReadScene {
    const root = this.#file.getRoot();
    const order = this.#inOrder();
    order.forEach(({ node }, n) => {
      this.#nodes.set(node, n);
    });
    const nodes = order.map(({ node, parent }) => this.#node(node, parent));
    const motions = root.listAnimations().map((animation, a) => this.#motion(animation, a));
    const name = root.getDefaultScene()?.getName() || root.listScenes()[0]?.getName() || '';
    const scene: Scene = { name, nodes, ...this.#made, motions: motions.filter((m) => m.tracks.length > 0) };
    const left = [...this.#left].map(([text, times]) => (times > 1 ? `${text} (${times} times)` : text));
    return { scene, left };
  }

  #leave(text: string): void {
    this.#left.set(text, (this.#left.get(text) ?? 0) + 1);
  }

  /** All nodes, parents before children: of the scene the file begins with, and those that are in none. */
  #inOrder(): { node: Node; parent: number }[] {
    const root = this.#file.getRoot();
    const out: { node: Node; parent: number }[] = [];
    const roots = root.listNodes().filter((node) => node.getParentNode() === null);
    const shown = root.getDefaultScene() ?? root.listScenes()[0];
    const first = shown ? roots.filter((node) => shown.listChildren().includes(node)) : roots;
    const elsewhere = roots.filter((node) => !first.includes(node));
    // Joints may stand in no scene, and are needed all the same.
    const needed = new Set(root.listSkins().flatMap((skin) => skin.listJoints()));
    const useful = elsewhere.filter((node) => {
      let is = false;
      node.traverse((n) => {
        is ||= needed.has(n);
      });
      return is;
    });
    if (useful.length < elsewhere.length) this.#leave('nodes that stand in no scene, or in another one');
    const stack = [...first, ...useful].reverse().map((node) => ({ node, parent: -1 }));
    for (let next = stack.pop(); next; next = stack.pop()) {
      const at = out.push(next) - 1;
      for (const child of next.node.listChildren().reverse()) stack.push({ node: child, parent: at });
    }
    return out;
  }

  #node(node: Node, parent: number): SceneNode {
    const mesh = node.getMesh();
    const skin = node.getSkin();
    const camera = node.getCamera() ? this.#camera(node) : null;
    const light = node.getExtension<Light>('KHR_lights_punctual');
    const body = mesh ? this.#mesh(mesh, skin) : -1;
    const targets = body >= 0 ? this.#made.meshes[body].targets.length : 0;
    const given = node.getWeights().length > 0 ? node.getWeights() : (mesh?.getWeights() ?? []);
    return {
      name: node.getName(),
      parent,
      place: placeOf(node),
      ...(body >= 0 ? { mesh: body } : {}),
      ...(body >= 0 && skin ? { skin: this.#skin(skin) } : {}),
      ...(targets > 0 ? { weights: Array.from({ length: targets }, (_, t) => finite(given[t] ?? 0)) } : {}),
      ...(camera ? { camera } : {}),
      ...(light ? { light: this.#light(light) } : {}),
    };
  }

  #camera(node: Node): SceneCamera | null {
    const camera = node.getCamera()!;
    if (camera.getType() !== 'perspective') {
      this.#leave('cameras without perspective');
      return null;
    }
    const view = camera.getYFov();
    return {
      view: view > 0.01 && view < 3.1 ? view : 0.6,
      near: camera.getZNear() || 0.1,
      far: camera.getZFar() || 500,
    };
  }

  #light(light: Light): SceneLight {
    const [r, g, b] = light.getColor().map((v) => paintOf(finite(v)));
    return { kind: kinds[light.getType()], colour: [r, g, b], intensity: Math.max(0, finite(light.getIntensity())) };
  }

  #mesh(mesh: Mesh, skin: Skin | null): number {
    const known = this.#meshes.get(mesh);
    if (known !== undefined) return known;
    const counts = mesh.listPrimitives().map((p) => p.listTargets().length);
    const count = Math.min(...counts);
    const parts = mesh.listPrimitives().flatMap((primitive) => this.#part(primitive, count, skin));
    const extras = mesh.getExtras().targetNames;
    const names = Array.isArray(extras) ? extras.map(String) : [];
    const targets = Array.from({ length: parts.length > 0 ? count : 0 }, (_, t) => names[t] ?? `shape ${t + 1}`);
    const at = parts.length > 0 ? this.#made.meshes.push({ name: mesh.getName(), parts, targets }) - 1 : -1;
    this.#meshes.set(mesh, at);
    return at;
  }

  #part(primitive: Primitive, targets: number, skin: Skin | null): MeshPart[] {
    const position = primitive.getAttribute('POSITION');
    const triangles = position ? trianglesOf(primitive, position.getCount()) : null;
    if (!position || !triangles) {
      this.#leave('points and lines');
      return [];
    }
    if (triangles.length === 0) return [];
    const positions = floats(position, 3);
    if (!positions || triangles.some((v) => v >= position.getCount())) {
      this.#leave('meshes whose numbers make no sense');
      return [];
    }
    const normal = primitive.getAttribute('NORMAL');
    const normals = (normal && floats(normal, 3)) ?? smoothNormals(positions, triangles);
    const colour = primitive.getAttribute('COLOR_0');
    const onto = primitive.getMaterial()?.getBaseColorTextureInfo() ?? null;
    const placesAs = `TEXCOORD_${onto?.getTexCoord() ?? 0}`;
    const places = primitive.getAttribute(placesAs);
    const painted = colour && floats(colour, 3);
    const onPicture = places && floats(places, 2);
    if (onPicture && onto) layOnto(onPicture, onto.getExtension<Transform>('KHR_texture_transform'));
    const bones = skin ? this.#bones(primitive, position.getCount(), skin.listJoints().length) : null;
    for (const semantic of primitive.listSemantics())
      if (!TAKEN.has(semantic) && semantic !== placesAs) this.#leave(`what meshes have as ${semantic}`);
    return [
      {
        mesh: {
          positions,
          normals: normals.length === positions.length ? normals : smoothNormals(positions, triangles),
          triangles,
          ...(painted ? { colours: painted.map(paintOf) } : {}),
        },
        material: this.#material(primitive.getMaterial()),
        ...(onPicture ? { picturePlaces: onPicture } : {}),
        ...(bones ? { bones } : {}),
        targets: primitive
          .listTargets()
          .slice(0, targets)
          .map((target): ShapeOffsets => {
            const moved = target.getAttribute('POSITION');
            const turned = target.getAttribute('NORMAL');
            const offsets = (moved && floats(moved, 3)) ?? new Float32Array(positions.length);
            const turns = turned && floats(turned, 3);
            return {
              positions: offsets.length === positions.length ? offsets : new Float32Array(positions.length),
              ...(turns && turns.length === positions.length ? { normals: turns } : {}),
            };
          }),
      },
    ];
  }

  /** What holds each vertex: four joints at most, whose shares sum to one. */
  #bones(primitive: Primitive, count: number, joints: number): MeshPart['bones'] {
    const of = primitive.getAttribute('JOINTS_0');
    const by = primitive.getAttribute('WEIGHTS_0');
    if (primitive.getAttribute('JOINTS_1')) this.#leave('more than four joints that hold one vertex');
    const out = { joints: new Uint16Array(count * 4), weights: new Float32Array(count * 4) };
    const [names, shares] = [of && floats(of, 4), by && floats(by, 4)];
    for (let v = 0; v < count * 4; v += 4) {
      let sum = 0;
      for (let k = v; k < v + 4; k++) {
        const joint = names?.[k] ?? 0;
        const share = shares?.[k] ?? 0;
        if (joint >= joints || share <= 0) continue;
        out.joints[k] = joint;
        out.weights[k] = share;
        sum += share;
      }
      if (sum > 0) for (let k = v; k < v + 4; k++) out.weights[k] /= sum;
      else out.weights[v] = 1;
    }
    return out;
  }

  #skin(skin: Skin): number {
    const known = this.#skins.get(skin);
    if (known !== undefined) return known;
    const joints = skin.listJoints().map((joint) => this.#nodes.get(joint) ?? 0);
    const given = skin.getInverseBindMatrices();
    const numbers = given && floats(given, 16);
    const inverseBinds = new Float64Array(joints.length * 16);
    joints.forEach((_, j) => {
      const own = numbers?.subarray(j * 16, j * 16 + 16);
      if (own?.length === 16) inverseBinds.set(own, j * 16);
      else for (let k = 0; k < 4; k++) inverseBinds[j * 16 + k * 5] = 1;
    });
    const at = this.#made.skins.push({ name: skin.getName(), joints, inverseBinds }) - 1;
    this.#skins.set(skin, at);
    return at;
  }

  #material(material: Material | null): number {
    const known = this.#materials.get(material);
    if (known !== undefined) return known;
    const [r, g, b, solid] = material?.getBaseColorFactor() ?? [1, 1, 1, 1];
    const texture = material?.getBaseColorTexture();
    const picture = texture ? this.#picture(texture) : null;
    if (material?.getNormalTexture()) this.#leave('pictures of unevenness');
    if (material?.getMetallicRoughnessTexture()) this.#leave('pictures of roughness and metal');
    if (material?.getOcclusionTexture()) this.#leave('pictures of shade');
    if (material?.getEmissiveTexture() || material?.getEmissiveFactor().some((v) => v > 0)) this.#leave('what glows');
    const at =
      this.#made.materials.push({
        name: material?.getName() ?? '',
        colour: [paintOf(finite(r)), paintOf(finite(g)), paintOf(finite(b)), finite(solid)],
        roughness: material?.getRoughnessFactor() ?? 1,
        metalness: material?.getMetallicFactor() ?? 0,
        bothSides: material?.getDoubleSided() ?? false,
        ...(picture === null ? {} : { picture, cutOut: material?.getAlphaMode() !== 'OPAQUE' }),
      }) - 1;
    this.#materials.set(material, at);
    return at;
  }

  #picture(texture: Texture): number | null {
    const known = this.#pictures.get(texture);
    if (known !== undefined) return known;
    const bytes = texture.getImage();
    const type = texture.getMimeType();
    if (!bytes || (type !== 'image/png' && type !== 'image/jpeg')) {
      this.#leave(`pictures that are neither PNG nor JPEG`);
      return null;
    }
    const name = texture.getName() || `picture ${this.#pictures.size + 1}`;
    const at = this.#made.pictures.push({ name, type, bytes: new Uint8Array(bytes) }) - 1;
    this.#pictures.set(texture, at);
    return at;
  }

  #motion(animation: Animation, a: number): Motion {
    const tracks: Track[] = [];
    const taken = new Set<string>();
    for (const channel of animation.listChannels()) {
      const target = channel.getTargetNode();
      const node = target ? this.#nodes.get(target) : undefined;
      const of = channel.getTargetPath() as TrackOf | null;
      const sampler = channel.getSampler();
      if (node === undefined || !of || !Object.hasOwn(widths, of) || !sampler) {
        this.#leave('movement of what is no place and no shape target');
        continue;
      }
      if (taken.has(`${node} ${of}`)) {
        this.#leave('a second movement of the same thing in one motion');
        continue;
      }
      taken.add(`${node} ${of}`);
      const track = this.#track(
        node,
        of,
        sampler.getInput(),
        sampler.getOutput(),
        shapes[sampler.getInterpolation()] ?? 'linear',
      );
      if (track) tracks.push(track);
      else this.#leave('movement whose numbers make no sense');
    }
    const seconds = tracks.reduce((most, { times }) => Math.max(most, times[times.length - 1]), 0);
    return { name: animation.getName() || `motion ${a + 1}`, seconds, tracks };
  }

  #track(node: number, of: TrackOf, input: Accessor | null, output: Accessor | null, shape: TrackShape): Track | null {
    const times = input && floats(input, 1);
    const mesh = of === 'weights' ? this.#targetsAt(node) : 0;
    const width = of === 'weights' ? mesh : widths[of];
    const values = output && floats(output, of === 'weights' ? 1 : widths[of]);
    if (!times || !values || width === 0) return null;
    const each = width * (shape === 'cubic' ? 3 : 1);
    if (values.length !== times.length * each) return null;
    for (let i = 0; i < times.length; i++) if (times[i] < 0 || (i > 0 && times[i] <= times[i - 1])) return null;
    const own = Float64Array.from(values);
    if (of === 'rotation') normaliseTurns(own, shape);
    return { node, of, shape, times: Float64Array.from(times), values: own };
  }

  #targetsAt(node: number): number {
    for (const [own, at] of this.#nodes) {
      if (at !== node) continue;
      const mesh = own.getMesh();
      const known = mesh ? this.#meshes.get(mesh) : undefined;
      return known === undefined || known < 0 ? 0 : this.#made.meshes[known].targets.length;
    }
    return 0;
  }
}

/** What of a mesh is taken, by its name in the standard. */
const TAKEN = new Set(['POSITION', 'NORMAL', 'COLOR_0', 'JOINTS_0', 'WEIGHTS_0', 'JOINTS_1', 'WEIGHTS_1', 'TANGENT']);

const finite = (value: number): number => (Number.isFinite(value) ? value : 0);

function placeOf(node: Node): Place {
  const [x, y, z] = node.getTranslation().map(finite);
  const [sx, sy, sz] = node.getScale().map(finite);
  const q = node.getRotation().map(finite);
  const length = Math.hypot(...q);
  const [qx, qy, qz, qw] = length > 1e-6 ? q.map((v) => v / length) : [0, 0, 0, 1];
  return { translation: [x, y, z], rotation: [qx, qy, qz, qw], scale: [sx, sy, sz] };
}

/** The numbers of an accessor, so many an item; null where one of them is none. */
function floats(accessor: Accessor, width: number): Float32Array | null {
  const own = accessor.getElementSize();
  const count = accessor.getCount();
  const array = accessor.getArray();
  if (!array || own < width) return null;
  const plain = accessor.getComponentType() === 5126 && own === width;
  const out = plain ? Float32Array.from(array) : new Float32Array(count * width);
  if (!plain) {
    const item: number[] = [];
    for (let i = 0; i < count; i++) {
      accessor.getElement(i, item);
      for (let c = 0; c < width; c++) out[i * width + c] = item[c];
    }
  }
  for (let i = 0; i < out.length; i++) if (!Number.isFinite(out[i])) return null;
  return out;
}

/** Lays places on a picture as a material says that the picture lies (KHR_texture_transform). */
function layOnto(places: Float32Array, how: Transform | null): void {
  if (!how) return;
  const [x, y] = how.getOffset();
  const [across, down] = how.getScale();
  const [c, s] = [Math.cos(how.getRotation()), Math.sin(how.getRotation())];
  for (let i = 0; i < places.length; i += 2) {
    const [u, v] = [places[i] * across, places[i + 1] * down];
    places[i] = c * u + s * v + x;
    places[i + 1] = c * v - s * u + y;
  }
}

/** The triangles of a primitive, whichever way they are said; null where it has none. */
function trianglesOf(primitive: Primitive, count: number): Uint32Array | null {
  const given = primitive.getIndices()?.getArray();
  const indices = given ? Uint32Array.from(given) : Uint32Array.from({ length: count }, (_, v) => v);
  const mode = primitive.getMode();
  if (mode === 4) return indices.subarray(0, indices.length - (indices.length % 3));
  if (mode !== 5 && mode !== 6) return null;
  const out: number[] = [];
  for (let i = 0; i + 2 < indices.length; i++) {
    const [a, b, c] =
      mode === 6
        ? [indices[0], indices[i + 1], indices[i + 2]]
        : i % 2 === 0
          ? [indices[i], indices[i + 1], indices[i + 2]]
          : [indices[i + 1], indices[i], indices[i + 2]];
    if (a !== b && b !== c && a !== c) out.push(a, b, c);
  }
  return Uint32Array.from(out);
}

/** Files round turns; keys of them are of length one here, and their tangents go along. */
function normaliseTurns(values: Float64Array, shape: TrackShape): void {
  const each = shape === 'cubic' ? 12 : 4;
  const middle = shape === 'cubic' ? 4 : 0;
  for (let k = 0; k < values.length; k += each) {
    const at = k + middle;
    const length = Math.hypot(values[at], values[at + 1], values[at + 2], values[at + 3]);
    if (length < 1e-6) values.set([0, 0, 0, 1], at);
    else for (let c = k; c < k + each; c++) values[c] /= length;
  }
}
