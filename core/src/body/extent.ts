import type { Frame } from '../evaluate/frame.ts';
import type { CompiledRig } from '../rig/compiled.ts';
import { MESH_UNIT, WHOLE_WEIGHT } from '../rig/definition.ts';
import type { PlacedRig } from '../rig/placed.ts';
import { restInverses } from './skin.ts';

/**
 * For each joint the points of the body that hang on it most and reach furthest in 26 directions, in the joint's own space: its
 * outline, near enough for boxes, ground and balance. Empty for joints without a body.
 */
const outlines = new WeakMap<CompiledRig, readonly Float64Array[]>();

const directions: readonly (readonly [number, number, number])[] = [-1, 0, 1].flatMap((x) =>
  [-1, 0, 1].flatMap((y) => [-1, 0, 1].flatMap((z): [number, number, number][] => (x || y || z ? [[x, y, z]] : []))),
);

export function jointOutlines(compiled: CompiledRig): readonly Float64Array[] {
  const known = outlines.get(compiled);
  if (known) return known;
  const { rig, jointAt } = compiled;
  const inverse = restInverses(compiled);
  const best = rig.joints.map(() => directions.map(() => ({ reach: Number.NEGATIVE_INFINITY, at: [0, 0, 0] })));
  for (const { positions, skin } of rig.meshes) {
    for (let v = 0; v < positions.length / 3; v++) {
      const joint = strongest(skin, v);
      if (joint === null) continue;
      const j = jointAt.get(joint)!;
      const [x, y, z] = [0, 1, 2].map((c) => positions[v * 3 + c] * MESH_UNIT);
      const at = [0, 1, 2].map(
        (r) =>
          inverse[j * 16 + r] * x +
          inverse[j * 16 + 4 + r] * y +
          inverse[j * 16 + 8 + r] * z +
          inverse[j * 16 + 12 + r],
      );
      directions.forEach((d, i) => {
        const reach = d[0] * at[0] + d[1] * at[1] + d[2] * at[2];
        if (reach > best[j][i].reach) best[j][i] = { reach, at };
      });
    }
  }
  const made = best.map((points) => {
    const there = points.filter((p) => p.reach > Number.NEGATIVE_INFINITY).map((p) => p.at);
    const unique = [...new Map(there.map((p) => [p.join(), p])).values()];
    return Float64Array.from(unique.flat());
  });
  outlines.set(compiled, made);
  return made;
}

/** The joint a vertex hangs on by more than half; null where there is none. */
function strongest(skin: CompiledRig['rig']['meshes'][number]['skin'], vertex: number): string | null {
  if (skin.kind === 'rigid') return skin.joint;
  for (let k = 0; k < 4; k++) {
    if (skin.weights[vertex * 4 + k] * 2 > WHOLE_WEIGHT) return skin.joints[skin.indices[vertex * 4 + k]];
  }
  return null;
}

/** Calls with each outline point of a rig in the world, joint by joint. */
export function eachOutlinePoint(
  frame: Frame,
  placed: PlacedRig,
  call: (x: number, y: number, z: number, joint: number) => void,
): void {
  const { world } = frame;
  jointOutlines(placed.compiled).forEach((points, j) => {
    const m = (placed.joints + j) * 16;
    for (let p = 0; p < points.length; p += 3) {
      const [x, y, z] = [points[p], points[p + 1], points[p + 2]];
      call(
        world[m] * x + world[m + 4] * y + world[m + 8] * z + world[m + 12],
        world[m + 1] * x + world[m + 5] * y + world[m + 9] * z + world[m + 13],
        world[m + 2] * x + world[m + 6] * y + world[m + 10] * z + world[m + 14],
        j,
      );
    }
  });
}
