import { multiply } from '../../pose/affine.ts';
import { quaternionInverse, quaternionMultiply, quaternionTurn } from '../../pose/quaternion.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import { blend } from '../bake/blend.ts';
import type { Motion, Place, Scene, Track, Vector3 } from '../scene/scene.ts';
import { turnIn, writeLocal } from '../take-in/bones.ts';
import type { Joint, Pairing } from './roles.ts';

/** Where a joint of a body is at a moment, and how it is turned from its rest, in the world. */
export interface Stand {
  readonly place: Vector3;
  readonly turned: Quaternion;
}

/** Who gets further than this, metres, goes somewhere. */
const GOES = 0.3;

/**
 * The body of a scene, read at any moment of one of its motions: turned so that it looks along +Z, and how its joints are turned from
 * their rest.
 */
export class SourceBody {
  readonly joints: readonly Joint[];
  /** Where the joints are at rest, looking along +Z. */
  readonly rest: readonly Vector3[];
  readonly #scene: Scene;
  readonly #tracks: ReadonlyMap<number, readonly Track[]>;
  readonly #world: Float64Array;
  readonly #backToRest: readonly Quaternion[];
  /** When the body is settled; null at rest. */
  #seconds: number | null = null;
  readonly #ahead: Quaternion;
  #begin: { readonly turn: Quaternion; readonly from: Vector3; readonly to: Vector3 } = {
    turn: [0, 0, 0, 1],
    from: [0, 0, 0],
    to: [0, 0, 0],
  };

  constructor(scene: Scene, motion: Motion, pairing: (joints: readonly Joint[]) => Pairing) {
    this.#scene = scene;
    const tracks = new Map<number, Track[]>();
    for (const track of motion.tracks) tracks.set(track.node, [...(tracks.get(track.node) ?? []), track]);
    this.#tracks = tracks;
    this.#world = new Float64Array(scene.nodes.length * 16);
    this.#settle(null);
    const places = scene.nodes.map((_, n): Vector3 => this.#placeAt(n));
    this.#backToRest = scene.nodes.map((_, n) => quaternionInverse(turnIn(this.#world, n * 16)));
    this.joints = scene.nodes.map(({ name, parent }, n) => ({ name, parent, place: places[n] }));
    this.#ahead = aheadOf(places, pairing(this.joints));
    this.rest = places.map((place) => quaternionTurn(this.#ahead, place));
  }

  /**
   * Has it begin over the place where a joint is at rest, and look ahead on the whole: as it looks on the average of some times, or where
   * it goes, where it goes about that way.
   */
  beginAt(joint: number, seconds: readonly number[]): void {
    const { place } = this.#standing(joint, seconds[0]);
    let [ahead, aside] = [0, 0];
    for (const time of seconds) {
      const [x, , z] = quaternionTurn(this.#standing(joint, time).turned, [0, 0, 1]);
      ahead += z;
      aside += x;
    }
    const end = this.#standing(joint, seconds[seconds.length - 1]).place;
    const [goesX, goesZ] = [end[0] - place[0], end[2] - place[2]];
    const goes = Math.hypot(goesX, goesZ);
    const isAhead = goesX * aside + goesZ * ahead > Math.SQRT1_2 * goes * Math.hypot(ahead, aside);
    const heading = goes > GOES && isAhead ? Math.atan2(goesX, goesZ) : Math.atan2(aside, ahead);
    const half = -heading / 2;
    this.#begin = { turn: [0, Math.sin(half), 0, Math.cos(half)], from: [place[0], 0, place[2]], to: this.rest[joint] };
  }

  /** Where a joint is at a time in seconds; many joints at one time cost one walk through the body. */
  at(joint: number, seconds: number): Stand {
    const { turn, from, to } = this.#begin;
    const { place, turned } = this.#standing(joint, seconds);
    const [x, y, z] = quaternionTurn(turn, [place[0] - from[0], place[1], place[2] - from[2]]);
    return { place: [x + to[0], y, z + to[2]], turned: quaternionMultiply(turn, turned) };
  }

  #standing(joint: number, seconds: number): Stand {
    if (seconds !== this.#seconds) this.#settle(seconds);
    const turned = quaternionMultiply(turnIn(this.#world, joint * 16), this.#backToRest[joint]);
    return {
      place: quaternionTurn(this.#ahead, this.#placeAt(joint)),
      turned: quaternionMultiply(quaternionMultiply(this.#ahead, turned), quaternionInverse(this.#ahead)),
    };
  }

  #placeAt(n: number): [number, number, number] {
    const at = n * 16 + 12;
    return [this.#world[at], this.#world[at + 1], this.#world[at + 2]];
  }

  #settle(seconds: number | null): void {
    this.#seconds = seconds;
    this.#scene.nodes.forEach(({ place, parent }, n) => {
      writeLocal(seconds === null ? place : this.#local(n, place, seconds), this.#world, n * 16);
      if (parent >= 0) multiply(this.#world, n * 16, this.#world, parent * 16, this.#world, n * 16);
    });
  }

  #local(n: number, rest: Place, seconds: number): Place {
    const tracks = this.#tracks.get(n);
    if (!tracks) return rest;
    const now = { ...rest };
    for (const track of tracks) {
      const value = trackAt(track, seconds);
      if (track.of === 'translation') now.translation = [value[0], value[1], value[2]];
      else if (track.of === 'rotation') now.rotation = [value[0], value[1], value[2], value[3]];
      else if (track.of === 'scale') now.scale = [value[0], value[1], value[2]];
    }
    return now;
  }
}

/** The turn about the upright that has a body look along +Z: its left leg is on the side of +X then. */
function aheadOf(places: readonly Vector3[], pairing: Pairing): Quaternion {
  if (pairing.thighL < 0 || pairing.thighR < 0) return [0, 0, 0, 1];
  const [l, r] = [places[pairing.thighL], places[pairing.thighR]];
  const angle = Math.atan2(l[2] - r[2], l[0] - r[0]);
  return [0, Math.sin(angle / 2), 0, Math.cos(angle / 2)];
}

/** What a track says at a time; its first and last numbers hold before and after. */
function trackAt({ of, shape, times, values }: Track, seconds: number): Float64Array {
  const each = values.length / times.length;
  const width = shape === 'cubic' ? each / 3 : each;
  const part = (k: number, which: number) => values.subarray(k * each + which * width, k * each + (which + 1) * width);
  const middle = shape === 'cubic' ? 1 : 0;
  let [k, beyond] = [-1, times.length];
  while (beyond - k > 1) {
    const half = (k + beyond) >> 1;
    if (times[half] <= seconds) k = half;
    else beyond = half;
  }
  if (k < 0) return part(0, middle);
  if (k + 1 >= times.length || shape === 'step') return part(k, middle);
  const length = times[k + 1] - times[k];
  const out = new Float64Array(width);
  const u = (seconds - times[k]) / length;
  if (u <= 0) return part(k, middle);
  blend(
    out,
    shape === 'cubic',
    of === 'rotation',
    u,
    length,
    part(k, middle),
    part(k, 2),
    part(k + 1, middle),
    part(k + 1, 0),
  );
  return out;
}
