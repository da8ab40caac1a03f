import { boundsOf, type Frame, isLocked, type Quaternion, type Shot, topmost } from '@varrup/core';
import * as THREE from 'three';
import type { Axis, AxisFrame, Tool, TurnAbout } from '../../view/tool.ts';
import type { Moment } from '../moment.ts';
import { isFree, toolFor } from './reach.ts';

/** Where the handles of what is picked stand, and about what it turns. */

export const AXES: readonly Axis[] = ['x', 'y', 'z'];
export const unit: Record<Axis, THREE.Vector3> = {
  x: new THREE.Vector3(1, 0, 0),
  y: new THREE.Vector3(0, 1, 0),
  z: new THREE.Vector3(0, 0, 1),
};
export const axisVector = (axis: Axis) => unit[axis].clone();

export const plain = (q: THREE.Quaternion): Quaternion => [q.x, q.y, q.z, q.w];
export const three = (q: Quaternion) => new THREE.Quaternion(q[0], q[1], q[2], q[3]);

/** Who is in the hand at a moment, and with what. */
export type InHand = Pick<Moment, 'shot' | 'frame' | 'picked' | 'tool'>;

/** Where the leading member's handles stand, and along which axes. */
export function handlePlace({ shot, frame, picked, tool: hand }: InHand): {
  position: THREE.Vector3;
  axes: THREE.Quaternion;
  tool: Tool;
  locks: Readonly<Record<Axis, boolean>>;
} | null {
  const id = picked.at(-1);
  const slot = id === undefined ? undefined : frame.layout.slotOf.get(id);
  if (id === undefined || slot === undefined || isLocked(shot, id)) return null;
  const world = new THREE.Matrix4().fromArray(frame.world, slot * 16);
  const pivot = new THREE.Vector3(...AXES.map((a) => frame.value(id, `pivot.${a}`) ?? 0));
  const member = shot.members.at(id);
  const control = shot.rigs.controlOf(member);
  const tool = toolFor(control, hand.tool);
  const shared = tool === 'turn' && hand.about !== 'own';
  const shut = (axis: Axis) =>
    hand.locks[axis] || (tool !== 'pick' && hand.axes === 'own' && !isFree(control, tool, axis));
  return {
    tool,
    locks: { x: shut('x'), y: shut('y'), z: shut('z') },
    position: shared
      ? new THREE.Vector3(...middleOf(shot, frame, topmost(shot, picked), hand.about))
      : pivot.applyMatrix4(world),
    // A size only ever is along a member's own axes.
    axes: three(axesTurn(frame, slot, tool === 'size' ? 'own' : hand.axes)),
  };
}

/** The point in the world that members turn about together. */
export function middleOf(
  shot: Shot,
  frame: Frame,
  ids: readonly string[],
  about: TurnAbout,
): readonly [number, number, number] {
  if (about === 'stage') return [0, 0, 0];
  const places = ids.flatMap((id) => {
    const slot = frame.layout.slotOf.get(id);
    return slot === undefined ? [] : [placeOf(shot, frame, id, slot, about === 'middle')];
  });
  if (about === 'lead' || about === 'own') {
    const last = places.at(-1) ?? new THREE.Vector3();
    return [last.x, last.y, last.z];
  }
  const sum = places.reduce((s, p) => s.add(p), new THREE.Vector3());
  sum.divideScalar(Math.max(1, places.length));
  return [sum.x, sum.y, sum.z];
}

/** A member's pivot in the world, or the middle of its own box. */
export function placeOf(shot: Shot, frame: Frame, id: string, slot: number, middle: boolean): THREE.Vector3 {
  const world = new THREE.Matrix4().fromArray(frame.world, slot * 16);
  if (!middle) return new THREE.Vector3(...AXES.map((a) => frame.value(id, `pivot.${a}`) ?? 0)).applyMatrix4(world);
  const box = boundsOf(shot.members.at(id), shot.rigs);
  return new THREE.Vector3((box[0] + box[3]) / 2, (box[1] + box[4]) / 2, (box[2] + box[5]) / 2).applyMatrix4(world);
}

function axesTurn(frame: Frame, slot: number, axes: AxisFrame): Quaternion {
  if (axes === 'world') return [0, 0, 0, 1];
  const of = axes === 'own' ? slot : frame.layout.space[slot];
  return of < 0 ? [0, 0, 0, 1] : worldTurn(frame, of);
}

export function worldTurn(frame: Frame, slot: number): Quaternion {
  const turn = new THREE.Quaternion();
  new THREE.Matrix4().fromArray(frame.world, slot * 16).decompose(new THREE.Vector3(), turn, new THREE.Vector3());
  return plain(turn);
}
