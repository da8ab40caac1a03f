import { describe, expect, it } from 'vitest';
import { parseRig } from '../rig/problems.ts';
import type { Build } from './build.ts';
import { coverPart } from './covered.ts';
import { dressed } from './dressed.ts';
import { addJoint } from './joints.ts';
import { addShape, Shaping } from './shaping.ts';
import { shellOf } from './shell.ts';
import { hose, line, volumeOf } from './testing/bodies.ts';
import { weighed } from './weights.ts';

/** A soft bar with a shape, that hangs on two joints. */
function bar(): Build {
  const mesh = {
    id: 'bar',
    colour: '#aa5533',
    finish: 'felt',
    skin: { kind: 'rigid', joint: 'none' },
    targets: [],
  } as const;
  const plain: Build = {
    id: 'b',
    name: 'B',
    joints: [],
    parts: [],
    meshes: [{ ...mesh, ...hose(line([0, 0, 0], [0, 1, 0], 10), 0.1), targets: [] }],
  };
  const [one, low] = addJoint(plain, { name: 'low', parent: null, place: [0, 0.1, 0], pairs: false });
  const [two] = addJoint(one, { name: 'high', parent: low, place: [0, 0.6, 0], pairs: false });
  const build = addShape({ ...two, meshes: weighed(two.meshes, two.joints) }, 'fat');
  const shaping = new Shaping(build, 'fat');
  return shaping.touched(shaping.hold([0.1, 0.5, 0], 0.2, false), { does: 'size', factor: 1.4 });
}
const hash = 'a'.repeat(64);

describe('a part that is made of something', () => {
  it('is the same body, weights and shapes with it, and has a place on the picture for each of its points', () => {
    const before = bar();
    const after = coverPart(before, 'bar', {
      colour: '#ffffff',
      roughness: 0.7,
      metalness: 0,
      picture: { media: hash, scale: 0.5 },
    });
    const [was, now] = [before.meshes[0], after.meshes[0]];
    expect(volumeOf(now.positions, now.triangles)).toBeCloseTo(volumeOf(was.positions, was.triangles), 6);
    expect(shellOf([now]).positions.length).toBe(shellOf([was]).positions.length);
    expect(now.material?.picture?.places).toHaveLength((now.positions.length / 3) * 2);
    if (was.skin.kind !== 'smooth' || now.skin.kind !== 'smooth') throw new Error('not soft');
    const shares = (mesh: typeof now) => {
      const out = new Map<string, string>();
      if (mesh.skin.kind === 'smooth')
        for (let v = 0; v < mesh.positions.length / 3; v++)
          out.set(mesh.positions.slice(v * 3, v * 3 + 3).join(), mesh.skin.weights.slice(v * 4, v * 4 + 4).join());
      return out;
    };
    expect(shares(now)).toEqual(shares(was));
    const parsed = parseRig(dressed(after, { version: 1, changes: 'Covered.' }));
    expect(parsed.ok || parsed.problems).toBe(true);
    const moved = (mesh: typeof now) =>
      new Set(mesh.targets[0].vertices.map((v) => mesh.positions.slice(v * 3, v * 3 + 3).join()));
    expect(moved(now)).toEqual(moved(was));
  });

  it('without a picture only changes what it is like', () => {
    const after = coverPart(bar(), 'bar', { colour: '#c79a3f', roughness: 0.3, metalness: 0.9, picture: null });
    expect(after.meshes[0].material).toEqual({ roughness: 0.3, metalness: 0.9, bothSides: false });
    expect(after.meshes[0].positions).toEqual(bar().meshes[0].positions);
  });
});
