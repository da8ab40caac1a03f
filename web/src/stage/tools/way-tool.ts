import * as THREE from 'three';
import { useWay } from '../../clips/way-drawing.ts';
import { isGround } from '../overlays/ground-marks.ts';
import type { Hands, StageTool } from './tool.ts';

const FLOOR = new THREE.Plane(new THREE.Vector3(0, 1, 0), 0);

/** Points of a way that is being drawn, on what one can walk on: set pieces, or the floor of the stage. */
export const wayTool = ({ picture }: Hands): StageTool => ({
  grab({ shot }, { caster }) {
    if (useWay.getState().clip === null) return null;
    const bodies = picture.bodies.filter((b) => isGround(shot, b.userData.member));
    const [hit] = caster.intersectObjects(bodies, true);
    const point = hit?.point ?? caster.ray.intersectPlane(FLOOR, new THREE.Vector3());
    if (point) useWay.getState().add([point.x, Math.max(0, point.y), point.z]);
    return { move: () => undefined };
  },
});
