import { apart, plus, times, type Vector } from '../pose/vectors.ts';
import { MESH_UNIT, type RigMesh } from '../rig/definition.ts';
import { bonesOf, nearestOn } from './bones.ts';
import type { Build } from './build.ts';
import { shellOf } from './shell.ts';
import { TriangleTree } from './triangle-tree.ts';

/** Hangs each part of a body wholly on the joint whose bone lies nearest to its middle: how boxes and machines are moved. */
export function stiffened(build: Build): Build {
  const bones = bonesOf(build.joints, new TriangleTree(shellOf(build.meshes)));
  if (bones.length === 0) return build;
  const meshes = build.meshes.map((mesh): RigMesh => {
    const middle = middleOf(mesh);
    const far = bones.map((bone) => {
      const on = plus(
        bone.from,
        times([0, 1, 2].map((c) => bone.to[c] - bone.from[c]) as unknown as Vector, nearestOn(bone, ...middle)),
      );
      return apart(on, middle);
    });
    const nearest = bones[far.indexOf(Math.min(...far))];
    return { ...mesh, skin: { kind: 'rigid', joint: build.joints[nearest.joint].id } };
  });
  return { ...build, meshes };
}

function middleOf({ positions }: RigMesh): Vector {
  const sum = [0, 0, 0];
  for (let i = 0; i < positions.length; i++) sum[i % 3] += positions[i];
  const by = (MESH_UNIT * 3) / positions.length;
  return [sum[0] * by, sum[1] * by, sum[2] * by];
}
