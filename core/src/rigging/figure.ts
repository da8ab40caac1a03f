import { apart, type Vector } from '../pose/vectors.ts';
import { MESH_UNIT, WHOLE_WEIGHT } from '../rig/definition.ts';
import { type Build, carriedBy } from './build.ts';

/** What of the body hangs on each joint by more than half: its points, metres, three numbers each. */
export class Figure {
  readonly #points = new Map<string, number[]>();
  readonly #build: Build;

  constructor(build: Build) {
    this.#build = build;
    for (const { positions, skin } of build.meshes)
      for (let v = 0; v < positions.length / 3; v++) {
        const joint = strongest(skin, v);
        if (joint === null) continue;
        const own = this.#points.get(joint) ?? [];
        for (let c = 0; c < 3; c++) own.push(positions[v * 3 + c] * MESH_UNIT);
        this.#points.set(joint, own);
      }
  }

  /** The points that hang on some joints. */
  points(joints: readonly string[]): Vector[] {
    return joints.flatMap((joint) => {
      const own = this.#points.get(joint) ?? [];
      return Array.from({ length: own.length / 3 }, (_, i): Vector => [own[i * 3], own[i * 3 + 1], own[i * 3 + 2]]);
    });
  }

  /** How far a control's form must reach from a joint to be seen round the body there, metres. */
  girth(id: string): number {
    const joint = this.#build.joints.find((j) => j.id === id)!;
    const [child] = carriedBy(this.#build, id);
    const parent = this.#build.joints.find((j) => j.id === joint.parent);
    const long = child ? apart(joint.place, child.place) : parent ? apart(joint.place, parent.place) : 0.3;
    // Round the joint itself: what is as near to it as its bone is long, at most.
    const near = this.points([id])
      .map((point) => apart(point, joint.place))
      .filter((far) => far < Math.max(long, 0.02))
      .sort((a, b) => a - b);
    const round = near.length > 3 ? near[Math.floor(near.length * 0.5)] * 1.25 : long * 0.3;
    return Math.min(2, Math.max(0.008, round));
  }
}

function strongest(skin: Build['meshes'][number]['skin'], vertex: number): string | null {
  if (skin.kind === 'rigid') return skin.joint;
  for (let k = vertex * 4; k < vertex * 4 + 4; k++)
    if (skin.weights[k] * 2 > WHOLE_WEIGHT) return skin.joints[skin.indices[k]];
  return null;
}
