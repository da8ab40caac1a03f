import {
  type Accessor,
  type Animation,
  type Camera,
  Document,
  type Material,
  type Mesh,
  type Node,
  type Skin,
  type Texture,
  WebIO,
} from '@gltf-transform/core';
import { KHRLightsPunctual, KHRMaterialsEmissiveStrength, type Light } from '@gltf-transform/extensions';
import { lightOf } from '../../schema/srgb.ts';
import type {
  MeshPart,
  Motion,
  Scene,
  SceneCamera,
  SceneLight,
  SceneMaterial,
  SceneMesh,
  SceneSkin,
  ShapeOffsets,
  Track,
  TrackShape,
  Vector3,
} from '../scene/scene.ts';

/** Who made the file, as it says itself. */
const MAKER = 'Varrup';

/** A scene as a glTF 2.0 file in one piece (`.glb`), which {@link readGltf} reads. */
export const writeGlb = (scene: Scene): Promise<Uint8Array> => writer().writeBinary(gltfDocument(scene));

/** A scene as glTF 2.0 in text, and the files it names. */
export async function writeGltf(
  scene: Scene,
  name: string,
): Promise<{ readonly text: string; readonly files: ReadonlyMap<string, Uint8Array> }> {
  const { json, resources } = await writer().writeJSON(gltfDocument(scene), { basename: name });
  return { text: JSON.stringify(json), files: new Map(Object.entries(resources)) };
}

const writer = () => new WebIO().registerExtensions([KHRLightsPunctual, KHRMaterialsEmissiveStrength]);

function gltfDocument(scene: Scene): Document {
  const file = new Document();
  file.getRoot().getAsset().generator = MAKER;
  file.createBuffer();
  new Writing(file).write(scene);
  // Where there are no numbers there is nothing for them to lie in.
  if (file.getRoot().listAccessors().length === 0) for (const buffer of file.getRoot().listBuffers()) buffer.dispose();
  return file;
}

const types = { 1: 'SCALAR', 2: 'VEC2', 3: 'VEC3', 4: 'VEC4', 16: 'MAT4' } as const;
const shapes = { step: 'STEP', linear: 'LINEAR', cubic: 'CUBICSPLINE' } as const satisfies Record<TrackShape, string>;

class Writing {
  readonly #file: Document;
  readonly #accessors = new Map<ArrayLike<number>, Accessor>();

  constructor(file: Document) {
    this.#file = file;
  }

  write({ name, nodes, meshes, skins, materials, pictures, motions }: Scene): void {
    const textures = pictures.map((p) =>
      this.#file.createTexture(p.name).setMimeType(p.type).setImage(new Uint8Array(p.bytes)),
    );
    const paints = materials.map((m) => this.#material(m, textures));
    const bodies = meshes.map((m) => this.#mesh(m, paints));
    const made = nodes.map(({ name, place, camera, light, mesh, weights }) => {
      const node = this.#file
        .createNode(name)
        .setTranslation([...place.translation])
        .setRotation([...place.rotation])
        .setScale([...place.scale]);
      if (mesh !== undefined) node.setMesh(bodies[mesh]);
      if (weights) node.setWeights([...weights]);
      if (camera) node.setCamera(this.#camera(name, camera));
      if (light) node.setExtension('KHR_lights_punctual', this.#light(name, light));
      return node;
    });
    const whole = this.#file.createScene(name);
    nodes.forEach(({ parent }, n) => {
      if (parent < 0) whole.addChild(made[n]);
      else made[parent].addChild(made[n]);
    });
    this.#file.getRoot().setDefaultScene(whole);
    const bound = skins.map((skin) => this.#skin(skin, made));
    nodes.forEach(({ skin }, n) => {
      if (skin !== undefined) made[n].setSkin(bound[skin]);
    });
    // A motion in which nothing moves is none to the standard.
    for (const motion of motions) if (motion.tracks.length > 0) this.#motion(motion, made);
  }

  /** Numbers as an accessor, one for each array. */
  #numbers(array: ArrayLike<number>, width: keyof typeof types, as: 'floats' | 'indices' = 'floats'): Accessor {
    const known = this.#accessors.get(array);
    if (known) return known;
    const values = as === 'floats' ? Float32Array.from(array) : smallest(array);
    const accessor = this.#file
      .createAccessor()
      .setType(types[width])
      .setArray(values)
      .setBuffer(this.#file.getRoot().listBuffers()[0]);
    this.#accessors.set(array, accessor);
    return accessor;
  }

  #material(
    { name, colour, roughness, metalness, bothSides, glow = 0, picture, cutOut }: SceneMaterial,
    textures: readonly Texture[],
  ): Material {
    const [r, g, b, solid] = colour;
    const material = this.#file
      .createMaterial(name)
      .setBaseColorFactor([lightOf(r), lightOf(g), lightOf(b), solid])
      .setRoughnessFactor(roughness)
      .setMetallicFactor(metalness)
      .setDoubleSided(bothSides);
    if (glow > 0) {
      // What the standard can say reaches to once its colour; beyond that there is an extension.
      const share = Math.min(glow, 1);
      material.setEmissiveFactor([lightOf(r) * share, lightOf(g) * share, lightOf(b) * share]);
      if (picture !== undefined) material.setEmissiveTexture(textures[picture]);
      if (glow > 1) {
        const strength = this.#file.createExtension(KHRMaterialsEmissiveStrength).createEmissiveStrength();
        material.setExtension('KHR_materials_emissive_strength', strength.setEmissiveStrength(glow));
      }
    }
    if (solid < 1) material.setAlphaMode('BLEND');
    if (solid === 1 && cutOut) material.setAlphaMode('MASK');
    if (picture !== undefined) material.setBaseColorTexture(textures[picture]);
    return material;
  }

  #mesh({ name, parts, targets }: SceneMesh, paints: readonly Material[]): Mesh {
    const mesh = this.#file.createMesh(name);
    for (const part of parts) mesh.addPrimitive(this.#part(part, paints));
    if (targets.length > 0) {
      // Names of shape targets have their place here by custom; the standard says nothing of them.
      mesh.setExtras({ targetNames: [...targets] });
    }
    return mesh;
  }

  #part({ mesh, material, bones, targets, picturePlaces }: MeshPart, paints: readonly Material[]) {
    const primitive = this.#file
      .createPrimitive()
      .setAttribute('POSITION', this.#numbers(mesh.positions, 3))
      .setAttribute('NORMAL', this.#numbers(mesh.normals, 3))
      .setIndices(this.#numbers(mesh.triangles, 1, 'indices'))
      .setMaterial(paints[material]);
    if (mesh.colours) primitive.setAttribute('COLOR_0', this.#numbers(mesh.colours.map(lightOf), 3));
    if (picturePlaces) primitive.setAttribute('TEXCOORD_0', this.#numbers(picturePlaces, 2));
    if (bones) {
      primitive.setAttribute('JOINTS_0', this.#numbers(bones.joints, 4, 'indices'));
      primitive.setAttribute('WEIGHTS_0', this.#numbers(bones.weights, 4));
    }
    for (const target of targets) primitive.addTarget(this.#target(target));
    return primitive;
  }

  #target({ positions, normals }: ShapeOffsets) {
    const target = this.#file.createPrimitiveTarget().setAttribute('POSITION', this.#numbers(positions, 3));
    return normals ? target.setAttribute('NORMAL', this.#numbers(normals, 3)) : target;
  }

  #camera(name: string, { view, near, far }: SceneCamera): Camera {
    return this.#file.createCamera(name).setType('perspective').setYFov(view).setZNear(near).setZFar(far);
  }

  #light(name: string, { kind, colour, intensity, cone }: SceneLight): Light {
    const kinds = { point: 'point', sun: 'directional', spot: 'spot' } as const;
    const [r, g, b] = colour.map(lightOf) as unknown as Vector3;
    const lights = this.#file.createExtension(KHRLightsPunctual);
    const made = lights.createLight(name).setType(kinds[kind]).setColor([r, g, b]).setIntensity(intensity);
    return cone ? made.setInnerConeAngle(cone.inner).setOuterConeAngle(cone.outer) : made;
  }

  #skin({ name, joints, inverseBinds }: SceneSkin, nodes: readonly Node[]): Skin {
    const skin = this.#file.createSkin(name).setInverseBindMatrices(this.#numbers(inverseBinds, 16));
    for (const joint of joints) skin.addJoint(nodes[joint]);
    return skin;
  }

  #motion({ name, tracks, company }: Motion, nodes: readonly Node[]): Animation {
    const animation = this.#file.createAnimation(name);
    // The standard has no words for it: a receiver reads it here, or leaves it.
    if (company) animation.setExtras({ company });
    for (const track of tracks) this.#track(animation, track, nodes);
    return animation;
  }

  #track(animation: Animation, { node, of, shape, times, values }: Track, nodes: readonly Node[]): void {
    const width = of === 'rotation' ? 4 : of === 'weights' ? 1 : 3;
    const sampler = this.#file
      .createAnimationSampler()
      .setInput(this.#numbers(times, 1))
      .setOutput(this.#numbers(values, width))
      .setInterpolation(shapes[shape]);
    const channel = this.#file
      .createAnimationChannel()
      .setTargetNode(nodes[node])
      .setTargetPath(of)
      .setSampler(sampler);
    animation.addSampler(sampler).addChannel(channel);
  }
}

/** Numbers of things in as few bytes as they need. */
function smallest(
  numbers: ArrayLike<number>,
): Uint8Array<ArrayBuffer> | Uint16Array<ArrayBuffer> | Uint32Array<ArrayBuffer> {
  let most = 0;
  for (let i = 0; i < numbers.length; i++) most = Math.max(most, numbers[i]);
  // The largest of each kind starts a new strip, which the standard forbids.
  if (most < 255) return Uint8Array.from(numbers);
  return most < 65_535 ? Uint16Array.from(numbers) : Uint32Array.from(numbers);
}
