import { anglesToQuaternion } from '../../pose/angles.ts';
import { quaternionMultiply } from '../../pose/quaternion.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import { type Capture, captureWidth, columnsOf } from '../bvh/capture.ts';
import { AT_REST, type Scene, type SceneNode, type Track } from '../scene/scene.ts';

/** A skeleton taller than this many of its units is told in centimetres. */
const TALLEST = 10;

/**
 * A capture as a scene: its joints as nodes, turned and moved frame by frame. Its unit is guessed by how large the skeleton is.
 * @param name what its motion is called
 * @returns the scene, and how many metres its unit was taken for
 */
export function sceneOfCapture(
  { joints, rate, frames, values }: Capture,
  name: string,
): { scene: Scene; unit: number } {
  const reach = Math.max(0, ...joints.map((_, j) => Math.hypot(...placeOf(joints, j))));
  const unit = reach > TALLEST ? 0.01 : 1;
  const nodes = joints.map(
    ({ name: joint, parent, offset: [x, y, z] }): SceneNode => ({
      name: joint,
      parent,
      place: { ...AT_REST, translation: [x * unit, y * unit, z * unit] },
    }),
  );
  const width = captureWidth(joints);
  const columns = columnsOf(joints);
  const times = Float64Array.from({ length: frames }, (_, f) => f / rate);
  const tracks = joints.flatMap((joint, j): Track[] => {
    const moves = joint.channels.some((c) => c.startsWith('move'));
    const turns = joint.channels.some((c) => c.startsWith('turn'));
    const places = new Float64Array(moves ? frames * 3 : 0);
    const rotations = new Float64Array(turns ? frames * 4 : 0);
    for (let f = 0; f < frames; f++) {
      let turn: Quaternion = [0, 0, 0, 1];
      const move = [...joint.offset];
      joint.channels.forEach((channel, c) => {
        const value = values[f * width + columns[j] + c];
        const axis = 'xyz'.indexOf(channel[5]);
        if (channel.startsWith('move')) move[axis] += value;
        else {
          const angles: [number, number, number] = [0, 0, 0];
          angles[axis] = (value * Math.PI) / 180;
          turn = quaternionMultiply(turn, anglesToQuaternion(angles, 'xyz'));
        }
      });
      if (moves)
        places.set(
          move.map((v) => v * unit),
          f * 3,
        );
      if (turns) rotations.set(turn, f * 4);
    }
    return [
      ...(moves ? [{ node: j, of: 'translation', shape: 'linear', times, values: places } as const] : []),
      ...(turns ? [{ node: j, of: 'rotation', shape: 'linear', times, values: rotations } as const] : []),
    ];
  });
  const scene = {
    name,
    nodes,
    meshes: [],
    skins: [],
    materials: [],
    pictures: [],
    motions: [{ name, seconds: (frames - 1) / rate, tracks }],
  };
  return { scene, unit };
}

/** Where a joint is from the root at rest, in the capture's unit. */
function placeOf(joints: Capture['joints'], joint: number): [number, number, number] {
  const at: [number, number, number] = [0, 0, 0];
  for (let up = joint; up >= 0 && joints[up].parent >= 0; up = joints[up].parent)
    for (let c = 0; c < 3; c++) at[c] += joints[up].offset[c];
  return at;
}
