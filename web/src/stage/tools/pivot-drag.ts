import {
  hasForm,
  inOwnSpace,
  inWorld,
  isLocked,
  pivotPoints,
  type Refused,
  setPivots,
  topmost,
  type Vector,
  withDescendants,
} from '@varrup/core';
import { toast } from 'sonner';
import * as THREE from 'three';
import type { Moment } from '../moment.ts';
import type { Grip } from '../overlays/handles.ts';
import { axisVector, handlePlace } from './handle-place.ts';
import type { Grab, Hands, Pointer } from './tool.ts';

/** How near a pivot must come to a corner, an edge or a middle to be put on it, in pixels. */
const NEAR = 12;

/** A hand that draws the pivot of what is picked, and leaves the thing where it is. It goes to corners, edges, faces and middles; not with Ctrl. */
export function pivotGrab(
  preview: Hands['preview'],
  grip: Grip,
  moment: Moment,
  pointer: Pointer,
  frame: number,
): Grab {
  const { shot, frame: now, picked } = moment;
  const { camera, width, height } = pointer.pane;
  const place = handlePlace(moment)!;
  const ids = topmost(shot, picked).filter((id) => !isLocked(shot, id));
  const axis = grip.axis === 'all' ? null : axisVector(grip.axis).applyQuaternion(place.axes);
  const sight = camera.getWorldDirection(new THREE.Vector3());
  const plane = planeOf(axis, sight, place.position);
  const start = pointer.caster.ray.intersectPlane(plane, new THREE.Vector3()) ?? place.position.clone();
  const others = shot.members
    .values()
    .filter(
      (m) =>
        hasForm(m.kind) && now.isVisible(now.layout.slotOf.get(m.id) ?? 0) && !withDescendants(shot, ids).has(m.id),
    )
    .map((m) => m.id);
  const targets = [...ids, ...others].flatMap((id) => pivotPoints(shot, id).map((p) => inWorld(now, id, p)));
  const seen = (at: Vector) => {
    const p = new THREE.Vector3(...at).project(camera);
    return [((p.x + 1) / 2) * width, ((1 - p.y) / 2) * height] as const;
  };
  const spots = targets.map((at) => ({ at, seen: seen(at) }));
  return {
    move({ caster, ctrl }) {
      const at = caster.ray.intersectPlane(plane, new THREE.Vector3());
      if (!at) return undefined;
      const by = at.sub(start);
      const free = place.position.clone().add(axis ? axis.clone().multiplyScalar(by.dot(axis)) : by);
      let to: Vector = [free.x, free.y, free.z];
      if (!ctrl) to = nearest(to, seen(to), spots, axis, place.position);
      try {
        const pivots = Object.fromEntries(ids.map((id) => [id, inOwnSpace(now, id, to)]));
        preview.show(setPivots, { pivots, frame });
      } catch (error) {
        toast.error((error as Refused).message);
      }
      return undefined;
    },
    release: () => preview.keep(),
    cancel: () => preview.drop(),
  };
}

function planeOf(axis: THREE.Vector3 | null, sight: THREE.Vector3, through: THREE.Vector3): THREE.Plane {
  const plane = new THREE.Plane();
  const across = axis ? new THREE.Vector3().crossVectors(axis, sight) : null;
  const normal = axis && across && across.lengthSq() > 1e-6 ? across.cross(axis).normalize() : sight.clone();
  return plane.setFromNormalAndCoplanarPoint(normal, through);
}

/** The nearest of some spots on the screen, where one is near enough; along an axis only as far as the axis goes. */
function nearest(
  to: Vector,
  on: readonly [number, number],
  spots: readonly { readonly at: Vector; readonly seen: readonly [number, number] }[],
  axis: THREE.Vector3 | null,
  from: THREE.Vector3,
): Vector {
  let [best, far] = [to, NEAR];
  for (const { at, seen } of spots) {
    const own = Math.hypot(seen[0] - on[0], seen[1] - on[1]);
    if (own < far) [best, far] = [at, own];
  }
  if (!axis || best === to) return best;
  const along = new THREE.Vector3(...best).sub(from).dot(axis);
  const put = from.clone().addScaledVector(axis, along);
  return [put.x, put.y, put.z];
}
