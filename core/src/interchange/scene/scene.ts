import type { Mesh } from '../../surface/mesh/index.ts';

/**
 * A piece of work as programs hand it to one another: nodes with what they carry, and how they move. Everything that leaves Varrup is
 * made into this first, and everything that comes in comes in as this; a format's reader and writer know nothing of shots, and what
 * makes shots of scenes and scenes of shots knows nothing of formats. Metres, radians, seconds; +Y up, +Z forward.
 */
export interface Scene {
  readonly name: string;
  /** Parents before their children. */
  readonly nodes: readonly SceneNode[];
  readonly meshes: readonly SceneMesh[];
  readonly skins: readonly SceneSkin[];
  readonly materials: readonly SceneMaterial[];
  readonly pictures: readonly ScenePicture[];
  readonly motions: readonly Motion[];
}

export type Vector3 = readonly [x: number, y: number, z: number];
export type Turn = readonly [x: number, y: number, z: number, w: number];

/** Where a node stands to its parent. */
export interface Place {
  readonly translation: Vector3;
  /** A unit quaternion. */
  readonly rotation: Turn;
  readonly scale: Vector3;
}

export const AT_REST: Place = { translation: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1] };

export interface SceneNode {
  readonly name: string;
  /** The node it hangs on; -1 for none. */
  readonly parent: number;
  readonly place: Place;
  /** Its body, among the scene's meshes. */
  readonly mesh?: number;
  /** What bends its body, among the scene's skins: the node's own place does not matter then. */
  readonly skin?: number;
  /** How much of each shape target of its mesh there is when nothing moves. */
  readonly weights?: readonly number[];
  readonly camera?: SceneCamera;
  readonly light?: SceneLight;
}

/** A camera looks along its node's -Z. */
export interface SceneCamera {
  /** The angle from the bottom of the picture to its top, radians. */
  readonly view: number;
  readonly near: number;
  readonly far: number;
}

export interface SceneLight {
  readonly kind: 'point' | 'sun' | 'spot';
  /** As paints say them (sRGB), 0 to 1. */
  readonly colour: Vector3;
  /** Candela; lux for a sun. */
  readonly intensity: number;
  /** Of a spot: where its cone begins to fade and where it ends, from its middle, radians. */
  readonly cone?: { readonly inner: number; readonly outer: number };
}

export interface SceneMesh {
  readonly name: string;
  readonly parts: readonly MeshPart[];
  /** The names of its shape targets; each part has all of them, in this order. */
  readonly targets: readonly string[];
}

/** A piece of a mesh with one material. */
export interface MeshPart {
  readonly mesh: Mesh;
  readonly material: number;
  /** Where on a picture each vertex lies, two numbers each. */
  readonly picturePlaces?: Float32Array;
  /** What holds each vertex, four a vertex: places among the skin's joints, and shares that sum to one. */
  readonly bones?: { readonly joints: Uint16Array; readonly weights: Float32Array };
  readonly targets: readonly ShapeOffsets[];
}

/** How far a shape target moves each vertex, and turns its normal, three numbers each. */
export interface ShapeOffsets {
  readonly positions: Float32Array;
  readonly normals?: Float32Array;
}

export interface SceneSkin {
  readonly name: string;
  /** Nodes. */
  readonly joints: readonly number[];
  /** What takes a vertex at rest into each joint, 16 numbers each, column by column. */
  readonly inverseBinds: Float64Array;
}

export interface SceneMaterial {
  readonly name: string;
  /** As paints say them (sRGB), 0 to 1, and how solid it is. */
  readonly colour: readonly [red: number, green: number, blue: number, solid: number];
  readonly roughness: number;
  readonly metalness: number;
  readonly bothSides: boolean;
  /** How many times its own colour it shines by itself. */
  readonly glow?: number;
  /** Among the scene's pictures. */
  readonly picture?: number;
  /** Whether it is cut out where the picture is clearer than half. */
  readonly cutOut?: boolean;
}

export interface ScenePicture {
  readonly name: string;
  readonly type: 'image/png' | 'image/jpeg';
  readonly bytes: Uint8Array;
}

/** A named run of movement, which begins at 0 s. */
export interface Motion {
  readonly name: string;
  readonly seconds: number;
  readonly tracks: readonly Track[];
}

export type TrackOf = 'translation' | 'rotation' | 'scale' | 'weights';

/** How a track goes from key to key: it stays; straight, on the shortest way for rotations; or bent by tangents (Hermite). */
export type TrackShape = 'step' | 'linear' | 'cubic';

export interface Track {
  readonly node: number;
  readonly of: TrackOf;
  readonly shape: TrackShape;
  /** Seconds, each after the one before. */
  readonly times: Float64Array;
  /** The numbers of each key; where bent, tangent in, value and tangent out of each, tangents in value a second. */
  readonly values: Float64Array;
}
