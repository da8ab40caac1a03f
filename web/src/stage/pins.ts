import { controlsOf, type Frame } from '@varrup/core';
import * as THREE from 'three';
import type { Moment } from './moment.ts';

/** What notes are pinned to: a point in the space of a member, which goes where that goes. */

const matrixOf = (frame: Frame, slot: number): THREE.Matrix4 =>
  new THREE.Matrix4().fromArray(frame.world as unknown as number[], slot * 16);

/** The member that an object of the picture belongs to. */
export function bodyOf(object: THREE.Object3D): string | null {
  for (let at: THREE.Object3D | null = object; at; at = at.parent)
    if (typeof at.userData.member === 'string') return at.userData.member;
  return null;
}

/** A place of the world in the space of a member; of a figure in that of its nearest control. */
export function pinOf(
  { shot, frame }: Pick<Moment, 'shot' | 'frame'>,
  member: string | null,
  place: THREE.Vector3,
): { member: string; at: [number, number, number] } | null {
  if (member === null) return null;
  let [nearest, least] = [member, Number.POSITIVE_INFINITY];
  for (const { id } of controlsOf(shot, member)) {
    const slot = frame.layout.slotOf.get(id);
    if (slot === undefined) continue;
    const apart = new THREE.Vector3().setFromMatrixPosition(matrixOf(frame, slot)).distanceTo(place);
    if (apart < least) [nearest, least] = [id, apart];
  }
  const slot = frame.layout.slotOf.get(nearest);
  if (slot === undefined) return null;
  const at = place.clone().applyMatrix4(matrixOf(frame, slot).invert());
  return { member: nearest, at: [at.x, at.y, at.z] };
}

/** Where a pin is in the world at a frame; null where its member is not. */
export function pinPlace(
  frame: Frame,
  { member, at }: { readonly member: string; readonly at: readonly [number, number, number] },
): [number, number, number] | null {
  const slot = frame.layout.slotOf.get(member);
  if (slot === undefined) return null;
  const place = new THREE.Vector3(...at).applyMatrix4(matrixOf(frame, slot));
  return [place.x, place.y, place.z];
}
