import {
  type Angles,
  anglesToQuaternion,
  type Channel,
  type ChannelValue,
  channelPath,
  type Frame,
  isLocked,
  type Member,
  ORIENTATION,
  type Quaternion,
  quaternionMultiply,
  quaternionNormal,
  quaternionToAngles,
  reachOfTarget,
  type Shot,
  shownChannels,
  topmost,
  toStep,
} from '@varrup/core';
import * as THREE from 'three';
import type { Axis } from '../../view/tool.ts';
import type { Grip } from '../overlays/handles.ts';
import {
  AXES,
  axisVector,
  handlePlace,
  type InHand,
  middleOf,
  placeOf,
  plain,
  three,
  worldTurn,
} from './handle-place.ts';
import type { Snapping } from './snapping.ts';

/** What a hand does with a handle, as new channel values for every picked member. */

interface Held {
  readonly id: string;
  readonly rotation: Member['rotation'];
  readonly order: Member['order'];
  readonly move: readonly number[];
  readonly size: readonly number[];
  readonly turn: Quaternion;
  readonly angles: Angles;
  /** How the parent is turned in the world, and what undoes the parent's whole matrix for directions. */
  readonly parentTurn: Quaternion;
  readonly intoParent: THREE.Matrix3;
  /** Its pivot in the world. */
  readonly pivot: THREE.Vector3;
  /** For a hand: the ball its arm can reach. */
  readonly reach: { readonly middle: THREE.Vector3; readonly radius: number } | null;
}

/** One drag of a handle, from pressing to letting go. */
export class Drag {
  readonly #grip: Grip;
  readonly #held: readonly Held[];
  readonly #origin: THREE.Vector3;
  readonly #axes: THREE.Quaternion;
  readonly #plane = new THREE.Plane();
  readonly #axis: THREE.Vector3 | null;
  readonly #start: THREE.Vector3;
  readonly #locks: Readonly<Record<Axis, boolean>>;
  /** Where many turn about together; null where each turns about its own pivot. */
  readonly #shared: THREE.Vector3 | null;
  readonly #snapping: Snapping | null;
  #angle = 0;
  #near: Map<string, Angles>;
  readonly #channels: ReadonlyMap<string, Channel>;

  /** @param snapping what it goes to; null where it goes anywhere */
  constructor(grip: Grip, moment: InHand, camera: THREE.Camera, ray: THREE.Ray, snapping: Snapping | null = null) {
    this.#snapping = snapping;
    const { shot, frame, picked, tool } = moment;
    const place = handlePlace(moment)!;
    this.#shared =
      grip.tool === 'turn' && tool.about !== 'own'
        ? new THREE.Vector3(...middleOf(shot, frame, topmost(shot, picked), tool.about))
        : null;
    this.#grip = grip;
    this.#locks = tool.locks;
    this.#origin = place.position;
    this.#axes = place.axes;
    const sight = camera.getWorldDirection(new THREE.Vector3());
    // Turned by its middle, a thing turns about the way one looks.
    const eye = grip.tool === 'turn' ? sight.clone().negate() : null;
    this.#axis = grip.axis === 'all' ? eye : axisVector(grip.axis).applyQuaternion(place.axes);
    this.#held = topmost(shot, picked)
      .filter((id) => !isLocked(shot, id))
      .map((id) => hold(shot, frame, id));
    this.#channels = new Map(
      this.#held.flatMap(({ id }) =>
        shownChannels(shot.members.at(id), shot.rigs).map((c) => [channelPath(id, c.id), c]),
      ),
    );
    this.#near = new Map(this.#held.map((h) => [h.id, h.angles]));
    if (grip.tool === 'turn' && this.#axis && Math.abs(sight.dot(this.#axis)) > 0.08) {
      this.#plane.setFromNormalAndCoplanarPoint(this.#axis, this.#origin);
    } else if (this.#axis && grip.tool !== 'turn' && grip.axis !== 'all') {
      // The plane through the axis that faces the eye most.
      const across = new THREE.Vector3().crossVectors(this.#axis, sight);
      const normal = across.lengthSq() < 1e-6 ? sight.clone() : across.cross(this.#axis).normalize();
      this.#plane.setFromNormalAndCoplanarPoint(normal, this.#origin);
    } else {
      this.#plane.setFromNormalAndCoplanarPoint(sight, this.#origin);
    }
    this.#start = this.#onPlane(ray) ?? this.#origin.clone();
  }

  #onPlane(ray: THREE.Ray): THREE.Vector3 | null {
    return ray.intersectPlane(this.#plane, new THREE.Vector3());
  }

  /**
   * The values of all channels the drag changes.
   * @param fine a tenth of the way, for the last hair's breadth @param free whether it goes to nothing for now
   */
  to(ray: THREE.Ray, fine: boolean, free = false): Record<string, ChannelValue> {
    const at = this.#onPlane(ray);
    if (!at) return {};
    const scale = fine ? 0.1 : 1;
    const snapping = fine || free ? null : this.#snapping;
    if (this.#grip.tool === 'move')
      return this.#allowed(this.#moved(at.sub(this.#start).multiplyScalar(scale), snapping));
    if (this.#grip.tool === 'turn') return this.#allowed(this.#turned(at, scale, snapping?.turn ?? 0));
    return this.#allowed(this.#sized(at, scale, snapping));
  }

  /** What a rig lets through: open channels, within their limits. */
  #allowed(values: Record<string, ChannelValue>): Record<string, ChannelValue> {
    return Object.fromEntries(
      Object.entries(values).flatMap(([path, value]) => {
        const channel = this.#channels.get(path);
        return channel ? [[path, typeof value === 'number' ? within(channel, value) : value]] : [];
      }),
    );
  }

  #moved(by: THREE.Vector3, snapping: Snapping | null): Record<string, ChannelValue> {
    const delta = this.#axis ? this.#axis.clone().multiplyScalar(by.dot(this.#axis)) : by;
    if (!this.#axis) {
      // Locked axes of the chosen frame do not take part.
      const local = delta.applyQuaternion(this.#axes.clone().invert());
      for (const axis of AXES) if (this.#locks[axis]) local[axis] = 0;
      local.applyQuaternion(this.#axes);
    }
    if (snapping && this.#held.length > 0) snapping.settle(delta, this.#held[0].pivot, this.#axis);
    const values: Record<string, ChannelValue> = {};
    for (const held of this.#held) {
      const local = withinReach(held, delta).applyMatrix3(held.intoParent);
      AXES.forEach((axis, i) => {
        if (Math.abs(local[axis]) > 1e-9)
          values[channelPath(held.id, `move.${axis}`)] = tidy(held.move[i] + local[axis]);
      });
    }
    return values;
  }

  #turned(at: THREE.Vector3, scale: number, step: number): Record<string, ChannelValue> {
    const axis = this.#axis!;
    const from = this.#start.clone().sub(this.#origin);
    const to = at.sub(this.#origin);
    const angle = Math.atan2(
      new THREE.Vector3().crossVectors(from, to).dot(axis),
      from.dot(to) - from.dot(axis) * to.dot(axis),
    );
    // Past half a turn the angle goes on instead of jumping back.
    this.#angle += Math.atan2(Math.sin(angle - this.#angle), Math.cos(angle - this.#angle));
    const gone = step > 0 ? toStep(this.#angle, step) : this.#angle * scale;
    const turn = plain(new THREE.Quaternion().setFromAxisAngle(axis, gone));
    const values: Record<string, ChannelValue> = {};
    for (const held of this.#held) {
      const [x, y, z, w] = held.parentTurn;
      const inParent = quaternionMultiply(quaternionMultiply([-x, -y, -z, w], turn), held.parentTurn);
      const now = quaternionNormal(quaternionMultiply(inParent, held.turn));
      Object.assign(values, this.#turnValues(held, now), this.#swungMove(held, turn));
    }
    return values;
  }

  /** A turn about a shared point carries the member's own pivot round it. */
  #swungMove(held: Held, turn: Quaternion): Record<string, ChannelValue> {
    if (!this.#shared) return {};
    const arm = held.pivot.clone().sub(this.#shared);
    const by = arm.clone().applyQuaternion(three(turn)).sub(arm).applyMatrix3(held.intoParent);
    return Object.fromEntries(
      AXES.flatMap((axis, i) =>
        Math.abs(by[axis]) > 1e-9 ? [[channelPath(held.id, `move.${axis}`), held.move[i] + by[axis]]] : [],
      ),
    );
  }

  #turnValues(held: Held, turn: Quaternion): Record<string, ChannelValue> {
    if (held.rotation === 'orientation') return { [channelPath(held.id, ORIENTATION)]: turn };
    const angles = quaternionToAngles(turn, held.order, this.#near.get(held.id));
    this.#near.set(held.id, angles);
    return Object.fromEntries(
      AXES.flatMap((axis, i) =>
        Math.abs(angles[i] - held.angles[i]) > 1e-7 ? [[channelPath(held.id, `turn.${axis}`), angles[i]]] : [],
      ),
    );
  }

  /** The directions in the world the one in the hand is sized along. */
  #sizedAlong(): THREE.Vector3[] {
    const meant = AXES.filter((a) => (this.#grip.axis === 'all' ? !this.#locks[a] : this.#grip.axis === a));
    return meant.map((a) => axisVector(a).applyQuaternion(this.#axes));
  }

  #sized(at: THREE.Vector3, scale: number, snapping: Snapping | null): Record<string, ChannelValue> {
    const axis = this.#axis ?? new THREE.Vector3(1, 1, 0).normalize();
    const from = this.#axis ? this.#start.clone().sub(this.#origin).dot(axis) : 1;
    const gone = at.sub(this.#start).dot(axis);
    const reach = Math.abs(from) < 1e-6 ? 1 : from;
    const step = snapping?.size ?? 0;
    let factor = Math.max(0.01, 1 + (gone * scale) / reach);
    const [only, ...more] = this.#held;
    // Several are each sized from their own pivots: there is no one place that could come to something.
    if (snapping && only && more.length === 0) factor = snapping.factor(factor, only.pivot, this.#sizedAlong());
    const values: Record<string, ChannelValue> = {};
    for (const held of this.#held) {
      AXES.forEach((a, i) => {
        const meant = this.#grip.axis === 'all' ? !this.#locks[a] : this.#grip.axis === a;
        const size = held.size[i] * factor;
        if (meant)
          values[channelPath(held.id, `size.${a}`)] = tidy(step > 0 ? Math.max(step, toStep(size, step)) : size);
      });
    }
    return values;
  }
}

function hold(shot: Shot, frame: Frame, id: string): Held {
  const slot = frame.layout.slotOf.get(id)!;
  const member = shot.members.at(id);
  const read = (group: string) => AXES.map((axis) => frame.value(id, `${group}.${axis}`)!);
  const parent = frame.layout.space[slot];
  const angles = read('turn') as Angles;
  const reach = reachOfTarget(shot, id, frame);
  const q = frame.orientations;
  const at = slot * 4;
  return {
    id,
    rotation: member.rotation,
    order: member.order,
    move: read('move'),
    size: read('size'),
    angles,
    turn:
      member.rotation === 'orientation'
        ? [q[at], q[at + 1], q[at + 2], q[at + 3]]
        : anglesToQuaternion(angles, member.order),
    pivot: placeOf(shot, frame, id, slot, false),
    reach: reach && { middle: new THREE.Vector3(...reach.middle), radius: reach.radius },
    parentTurn: parent < 0 ? [0, 0, 0, 1] : worldTurn(frame, parent),
    intoParent: new THREE.Matrix3()
      .setFromMatrix4(parent < 0 ? new THREE.Matrix4() : new THREE.Matrix4().fromArray(frame.world, parent * 16))
      .invert(),
  };
}

/** A move that takes a hand no further than its arm reaches: there it slides along the edge of what it can. */
function withinReach({ reach, pivot }: Held, delta: THREE.Vector3): THREE.Vector3 {
  if (!reach) return delta.clone();
  const from = pivot.clone().sub(reach.middle);
  const to = from.clone().add(delta);
  // What was out of reach before may come nearer, and go no further out.
  const most = Math.max(reach.radius, from.length());
  if (to.length() > most) to.setLength(most);
  return to.sub(from);
}

const within = ({ min, max }: Channel, value: number) =>
  Math.min(max ?? Number.POSITIVE_INFINITY, Math.max(min ?? Number.NEGATIVE_INFINITY, value));

/** A hand is not more exact than a hundredth of a millimetre. */
const tidy = (value: number) => Math.round(value * 1e5) / 1e5;
