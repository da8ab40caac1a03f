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
    const steps = joint.channels.map((channel) => ({
      moves: channel.startsWith('move'),
      axis: 'xyz'.indexOf(channel[5]) as 0 | 1 | 2,
    }));
    for (let f = 0; f < frames; f++) {
      const turn = rotations.subarray(f * 4, f * 4 + (turns ? 4 : 0));
      if (turns) turn[3] = 1;
      if (moves) for (let c = 0; c < 3; c++) places[f * 3 + c] = joint.offset[c] * unit;
      for (let c = 0; c < steps.length; c++) {
        const value = values[f * width + columns[j] + c];
        if (steps[c].moves) places[f * 3 + steps[c].axis] += value * unit;
        else turnAbout(turn, steps[c].axis, (value * Math.PI) / 180);
      }
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

/** Turns a quaternion further about an axis of its own, by radians. */
function turnAbout(q: Float64Array, axis: 0 | 1 | 2, angle: number): void {
  const [s, c] = [Math.sin(angle / 2), Math.cos(angle / 2)];
  const [j, k] = [(axis + 1) % 3, (axis + 2) % 3];
  const [a, b, d, w] = [q[axis], q[j], q[k], q[3]];
  q[axis] = a * c + w * s;
  q[j] = b * c + d * s;
  q[k] = d * c - b * s;
  q[3] = w * c - a * s;
}

/** Where a joint is from the root at rest, in the capture's unit. */
function placeOf(joints: Capture['joints'], joint: number): [number, number, number] {
  const at: [number, number, number] = [0, 0, 0];
  for (let up = joint; up >= 0 && joints[up].parent >= 0; up = joints[up].parent)
    for (let c = 0; c < 3; c++) at[c] += joints[up].offset[c];
  return at;
}
