import type { Skin } from '../../body/skin.ts';
import { colourText } from '../../document/channels.ts';
import type { Cover, Material } from '../../document/material.ts';
import type { Member } from '../../document/member.ts';
import { type Media, mediaKindOf, mediaKinds } from '../../media/index.ts';
import { PICTURE_UNIT } from '../../rig/definition.ts';
import { colourNumbers } from '../../schema/numbers.ts';
import { type FormPart, formKey, formOf, type Mesh, surfaceKey, surfaceOf } from '../../surface/index.ts';
import { smoothNormals } from '../scene/normals.ts';
import type { MeshPart, SceneMaterial, SceneMesh, ScenePicture } from '../scene/scene.ts';
import { patternPicture } from './pattern-picture.ts';

/** How a member's surface is, where it has a material. */
export interface MemberSurface {
  readonly roughness: number;
  readonly metal: number;
  readonly glow: number;
  readonly clear: number;
}

/** How a material looks, whatever its colour. */
type Look = Omit<SceneMaterial, 'name' | 'colour'> & { readonly solid?: number };

/** A body that may be taken into a scene. */
export interface Body {
  readonly mesh: SceneMesh;
  /** Takes it in as it is, once for all who have the same. @returns its number */
  place(): number;
}

/** The meshes, materials and pictures of a scene, each made once. */
export class Bodies {
  readonly meshes: SceneMesh[] = [];
  readonly materials: SceneMaterial[] = [];
  readonly pictures: ScenePicture[] = [];
  readonly #media: Media;
  readonly #meshes = new Map<string, number>();
  readonly #materials = new Map<string, number>();
  readonly #pictures = new Map<string, number | null>();

  constructor(media: Media) {
    this.#media = media;
  }

  /** The body of a member in a colour, with the surface it has; null where it has none. */
  ofMember(member: Member, colour: string, surface: MemberSurface): Body | null {
    const form = formOf(member);
    if (form.length === 0) return null;
    const key = `${formKey(member)} ${colour} ${JSON.stringify([member.material, surface])}`;
    const parts = form.map((part): MeshPart => {
      const material = this.#painted(part, colour, member.material, surface);
      const { places } = part.mesh;
      const isCovered = this.materials[material].picture !== undefined;
      return { mesh: part.mesh, material, targets: [], ...(places && isCovered ? { picturePlaces: places } : {}) };
    });
    const mesh = { name: member.name, targets: [], parts };
    return {
      mesh,
      place: () => {
        const known = this.#meshes.get(key) ?? this.add(mesh);
        this.#meshes.set(key, known);
        return known;
      },
    };
  }

  add(mesh: SceneMesh): number {
    this.meshes.push(mesh);
    return this.meshes.length - 1;
  }

  #painted(
    { paint, roughness, bothSides }: FormPart,
    colour: string,
    material: Material | undefined,
    surface: MemberSurface,
  ): number {
    if (material && paint === 'own') return this.#covered(material, colour, surface, bothSides);
    // The colours of corners are multiplied with the material's, so that is white.
    const painted = paint === 'own' ? colour : paint === 'corners' ? '#ffffff' : paint.colour;
    return this.#material('paint', painted, { roughness, metalness: 0, bothSides });
  }

  /** A material as a member has it: a pattern becomes a picture in its two colours, over which nothing else is painted. */
  #covered({ name, cover }: Material, colour: string, surface: MemberSurface, bothSides: boolean): number {
    const { roughness, metal, glow, clear } = surface;
    const picture =
      cover === null ? null : cover.is === 'picture' ? this.#picture(cover.media) : this.#patterned(cover, colour);
    const isPattern = cover?.is === 'pattern';
    const how = { roughness, metalness: metal, bothSides, solid: 1 - clear, glow };
    return this.#material(name, isPattern ? '#ffffff' : colour, picture === null ? how : { ...how, picture });
  }

  /** A pattern as a picture. */
  #patterned(cover: Extract<Cover, { is: 'pattern' }>, colour: string): number {
    const key = `${cover.pattern} ${cover.grain} ${cover.second} ${colour}`;
    const known = this.#pictures.get(key);
    if (known !== undefined && known !== null) return known;
    const bytes = patternPicture(cover, colour);
    const at = this.pictures.push({ name: cover.pattern, type: 'image/png', bytes }) - 1;
    this.#pictures.set(key, at);
    return at;
  }

  #material(word: string, colour: string, how: Look): number {
    const name = `${word} ${colour.slice(1)}`;
    const { solid = 1, ...rest } = how;
    const key = `${name} ${JSON.stringify(how)}`;
    const known =
      this.#materials.get(key) ?? this.materials.push({ name, colour: [...colourNumbers(colour), solid], ...rest }) - 1;
    this.#materials.set(key, known);
    return known;
  }

  /** A picture of the scene; null where its bytes are not at hand. */
  #picture(hash: string): number | null {
    const known = this.#pictures.get(hash);
    if (known !== undefined) return known;
    const bytes = this.#media.get(hash);
    const kind = bytes && mediaKindOf(bytes);
    const isPicture = kind === 'png' || kind === 'jpeg';
    const name = `picture ${this.pictures.length + 1}`;
    const at = bytes && isPicture ? this.pictures.push({ name, type: mediaKinds[kind].mime, bytes }) - 1 : null;
    this.#pictures.set(hash, at);
    return at;
  }

  /** Some meshes of a rig as one, a part for each colour and finish; all have the shape targets that are given. */
  ofRig(
    name: string,
    skins: readonly Skin[],
    jointAt: readonly number[] | null,
    targets: readonly string[],
  ): SceneMesh {
    const parts = byMaterial(skins).map((group): MeshPart => {
      const { colour, finish, material } = group[0].mesh;
      const { picture: painted, ...how } = surfaceOf({ finish, material });
      const picture = painted === null ? null : this.#picture(painted.media);
      return {
        mesh: together(group),
        material: this.#material(
          finish,
          colour,
          picture === null ? how : { ...how, picture, cutOut: painted?.cutOut ?? false },
        ),
        ...(picture === null ? {} : { picturePlaces: placesOnPicture(group) }),
        ...(jointAt ? { bones: bonesOf(group, jointAt) } : {}),
        targets: targets.map((_, t) => ({ positions: joined(group.map((skin) => skin.targets[t])) })),
      };
    });
    return { name, parts, targets };
  }
}

/** Meshes of a rig that share a colour and a surface, together. */
export function byMaterial(skins: readonly Skin[]): Skin[][] {
  const groups = new Map<string, Skin[]>();
  for (const skin of skins) {
    const key = `${skin.mesh.finish} ${skin.mesh.colour} ${surfaceKey(surfaceOf(skin.mesh))}`;
    groups.set(key, [...(groups.get(key) ?? []), skin]);
  }
  return [...groups.values()];
}

/** Meshes one after another as one, with normals that go smoothly round each. */
function together(skins: readonly Skin[]): Mesh {
  const positions = joined(skins.map((skin) => skin.positions));
  const triangles: number[] = [];
  let first = 0;
  for (const skin of skins) {
    for (const v of skin.triangles) triangles.push(v + first);
    first += skin.positions.length / 3;
  }
  return { positions, normals: smoothNormals(positions, triangles), triangles: Uint32Array.from(triangles) };
}

const placesOnPicture = (skins: readonly Skin[]): Float32Array =>
  Float32Array.from(
    skins.flatMap(({ mesh }) => mesh.material?.picture?.places ?? []),
    (p) => p * PICTURE_UNIT,
  );

function bonesOf(skins: readonly Skin[], jointAt: readonly number[]): NonNullable<MeshPart['bones']> {
  const count = skins.reduce((sum, skin) => sum + skin.joints.length, 0);
  const joints = new Uint16Array(count);
  const weights = new Float32Array(count);
  let at = 0;
  for (const skin of skins) {
    for (let i = 0; i < skin.joints.length; i++) {
      // A joint without a share is named as the first one: that is what readers expect.
      joints[at + i] = skin.weights[i] > 0 ? jointAt[skin.joints[i]] : 0;
      weights[at + i] = skin.weights[i];
    }
    at += skin.joints.length;
  }
  return { joints, weights };
}

function joined(arrays: readonly Float32Array[]): Float32Array {
  const out = new Float32Array(arrays.reduce((sum, a) => sum + a.length, 0));
  let at = 0;
  for (const array of arrays) {
    out.set(array, at);
    at += array.length;
  }
  return out;
}

/** The colour of a member in a frame's numbers, as it is written. */
export const colourAt = (values: ArrayLike<number>, at: number): string =>
  colourText(values[at], values[at + 1], values[at + 2]);
