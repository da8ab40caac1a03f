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
  /** How it goes about where it meets other motions; none where nothing is known of that. */
  readonly company?: MotionCompany;
}

/** How a motion is meant to be played beside others. Seconds from its beginning, metres, names of nodes and motions. */
export interface MotionCompany {
  /** The node of whom it moves: it is played beside other motions of the same one. */
  readonly of: string;
  readonly repeats: boolean;
  /** What of it repeats until it is stopped; what is before and after it plays once. */
  readonly loop: readonly [from: number, to: number] | null;
  /** Over how long it comes and goes. */
  readonly easeIn: number;
  readonly easeOut: number;
  readonly shape: 'soft' | 'even';
  /** Of two that move the same the higher has its way. */
  readonly rank: number;
  /** In place of what is below, or the difference to its own beginning on top of that. */
  readonly plays: 'instead' | 'onTop';
  /** The key of the keyboard it is asked for with. */
  readonly key: string | null;
  /** How much of it each node has, from 0 to 1; null where it moves all of them. */
  readonly part: Readonly<Record<string, number>> | null;
  /** How far it gets in its length, along the +Z of a node. */
  readonly travel: { readonly node: string; readonly metres: number } | null;
  /** By how much the node that travels turns about its +Y while the motion plays once, radians. The motion itself goes straight on. */
  readonly turn: number;
  /** When each foot is on the ground; a motion that repeats may end one of them after its own end. */
  readonly feet: Readonly<Record<string, readonly (readonly [from: number, to: number])[]>>;
  /** Which motions may come after it, over how long, and by which arrow; or by its end. */
  readonly follows: readonly {
    readonly motion: string;
    readonly seconds: number;
    readonly by: 'up' | 'down' | 'left' | 'right' | 'end';
  }[];
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
