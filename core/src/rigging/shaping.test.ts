import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { RigMesh } from '../rig/definition.ts';
import { parseRig } from '../rig/problems.ts';
import { type Build, twinsOf } from './build.ts';
import { dressed } from './dressed.ts';
import { madeWhole } from './halves.ts';
import { addJoint } from './joints.ts';
import { addShape, asShaped, finer, type HandMove, removeShape, Shaping, shapesOf } from './shaping.ts';
import { shellOf } from './shell.ts';
import { boxOf, broughtHome, turnedBy } from './standing.ts';
import { hose, line, volumeOf } from './testing/bodies.ts';
import { weighed } from './weights.ts';

const mesh = (id: string, body: Pick<RigMesh, 'positions' | 'triangles'>): RigMesh => ({
  id,
  colour: '#e6dac2',
  finish: 'felt',
  ...body,
  skin: { kind: 'rigid', joint: 'joint' },
  targets: [],
});

/** A bar across the middle, with a thinner one that stands off its left side. */
function bird(): Build {
  const plain: Build = {
    id: 'gull',
    name: 'Gull',
    joints: [],
    parts: [],
    meshes: [
      mesh('trunk', hose(line([-0.1, 0.3, 0], [0.1, 0.3, 0], 8), 0.08, 12)),
      mesh('wingL', hose(line([0.15, 0.3, 0], [0.6, 0.3, 0], 10), 0.02, 8)),
    ],
  };
  const [one, id] = addJoint(plain, { name: 'joint', parent: null, place: [0, 0.3, 0], pairs: false });
  return addJoint(one, { name: 'wing L', parent: id, place: [0.2, 0.3, 0], pairs: false })[0];
}

const touches = fc.oneof(
  fc.record({
    does: fc.constant('pull' as const),
    by: fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -0.2, max: 0.2, noNaN: true }))) as fc.Arbitrary<
      [number, number, number]
    >,
  }),
  fc.record({
    does: fc.constant('turn' as const),
    axis: fc.constantFrom([1, 0, 0] as const, [0, 0, 1] as const),
    angle: fc.double({ min: -2, max: 2, noNaN: true }),
  }),
  fc.record({ does: fc.constant('size' as const), factor: fc.double({ min: 0.3, max: 2, noNaN: true }) }),
  fc.record({ does: fc.constant('smooth' as const), strength: fc.double({ min: 0, max: 1, noNaN: true }) }),
) as fc.Arbitrary<HandMove>;

describe('shaping a body', () => {
  it('draws where a hand holds it, softly, and leaves the rest where it was', () => {
    const build = bird();
    const shaping = new Shaping(build, null);
    const grip = shaping.hold([0.02, 0.38, 0], 0.1, false);
    const pulled = shaping.touched(grip, { does: 'pull', by: [0, 0.05, 0] });
    let most = 0;
    for (let v = 0; v < build.meshes[0].positions.length; v += 3) {
      const [before, after] = [build, pulled].map((b) => b.meshes[0].positions.slice(v, v + 3));
      const far = Math.hypot(before[0] - 200, before[1] - 3800, before[2]);
      const up = after[1] - before[1];
      if (far > 1000) expect(up).toBe(0);
      expect(after[0]).toBe(before[0]);
      most = Math.max(most, up);
    }
    expect(most).toBeGreaterThan(400);
    expect(most).toBeLessThanOrEqual(500);
    expect(pulled.meshes[1]).toBe(build.meshes[1]);
  });

  it('keeps both sides mirror images, whatever a hand does on one', () => {
    fc.assert(
      fc.property(touches, fc.double({ min: -0.1, max: 0.1, noNaN: true }), (touch, x) => {
        const whole = madeWhole(bird());
        const shaping = new Shaping(whole, null);
        const after = shaping.touched(shaping.hold([x, 0.36, 0.03], 0.12, true), touch);
        const seen = shellOf(after.meshes).positions;
        const at = new Set<string>();
        for (let p = 0; p < seen.length; p += 3)
          at.add(Array.from(seen.subarray(p, p + 3), (v) => Math.round(v * 1e3)).join());
        for (let p = 0; p < seen.length; p += 3) {
          const image = [-seen[p], seen[p + 1], seen[p + 2]].map((v) => Math.round(v * 1e3));
          // Within a millimetre: places are rounded to a tenth of one.
          const near = [-1, 0, 1].some((a) =>
            [-1, 0, 1].some((b) => [-1, 0, 1].some((c) => at.has([image[0] + a, image[1] + b, image[2] + c].join()))),
          );
          expect(near).toBe(true);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('puts what a shape changes into the shape alone: at nought the body is exactly what it was', () => {
    const build = addShape(bird(), 'puffed');
    const shaping = new Shaping(build, 'puffed');
    const after = shaping.touched(shaping.hold([0, 0.38, 0], 0.1, true), { does: 'size', factor: 1.5 });
    expect(after.meshes[0].positions).toBe(build.meshes[0].positions);
    expect(asShaped(after.meshes[0], 'puffed', 0).positions).toEqual(build.meshes[0].positions);
    expect(asShaped(after.meshes[0], 'puffed', 1).positions).not.toEqual(build.meshes[0].positions);
    const parsed = parseRig(dressed(after, { version: 1, changes: 'Puffed.' }));
    if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
    const dials = parsed.value.controls.find((c) => c.id === 'shapes1')?.dials;
    expect(dials?.map((d) => [d.label, d.min <= 0, d.max >= 1])).toEqual([['puffed', true, true]]);
    expect(shapesOf(removeShape(after, 'puffed'))).toEqual([]);
    expect(() => addShape(after, 'puffed')).toThrow('There is a shape called puffed already.');
    expect(() => addShape(after, ' ')).toThrow('needs a name');
  });

  it('is refused where it would leave all bounds', () => {
    const shaping = new Shaping(bird(), null);
    const grip = shaping.hold([0, 0.38, 0], 0.1, false);
    expect(() => shaping.touched(grip, { does: 'pull', by: [0, 1e6, 0] })).toThrow('out of all bounds');
    expect(() => shaping.touched(grip, { does: 'pull', by: [0, Number.NaN, 0] })).toThrow('out of all bounds');
  });

  it('gives a part more points in the same form', () => {
    const build = bird();
    const fine = finer(build, 'trunk');
    expect(fine.meshes[0].triangles.length).toBe(build.meshes[0].triangles.length * 4);
    const [before, after] = [build, fine].map((b) => volumeOf(b.meshes[0].positions, b.meshes[0].triangles));
    expect(after / before).toBeCloseTo(1, 3);
    let many = build;
    expect(() => {
      for (let i = 0; i < 8; i++) many = finer(many, 'trunk');
    }).toThrow('a body has up to 60000');
  });
});

describe('a half that is made whole', () => {
  it('is closed, mirrored, and has counterparts of all that stood on the left', () => {
    const build = bird();
    const weighedBuild = { ...build, meshes: weighed(build.meshes, build.joints) };
    const whole = madeWhole(weighedBuild);
    expect(whole.meshes.map((m) => m.id)).toEqual(['trunk', 'wingL', 'wingR']);
    expect(whole.joints.map((j) => j.name)).toEqual(['joint', 'wing L', 'wing R']);
    expect(twinsOf(whole.joints).get('wingL')).toBe('wingR');
    for (const { positions, triangles } of whole.meshes) {
      // Every edge is walked once each way: nothing is open.
      const edges = new Map<string, number>();
      const at = (v: number) => positions.slice(v * 3, v * 3 + 3).join();
      for (let t = 0; t < triangles.length; t++) {
        const [a, b] = [at(triangles[t]), at(triangles[t % 3 === 2 ? t - 2 : t + 1])];
        if (a === b) continue;
        edges.set(`${a}|${b}`, (edges.get(`${a}|${b}`) ?? 0) + 1);
      }
      for (const [edge, count] of edges) expect(edges.get(edge.split('|').reverse().join('|'))).toBe(count);
    }
    const volume = (b: Build, m: number) => volumeOf(b.meshes[m].positions, b.meshes[m].triangles);
    expect(volume(whole, 0) / volume(build, 0)).toBeCloseTo(1, 2);
    expect(volume(whole, 2)).toBeCloseTo(volume(build, 1), 12);
    const parsed = parseRig(dressed(whole, { version: 1, changes: 'Whole.' }));
    expect(parsed.ok || parsed.problems).toBe(true);
  });

  it('is refused where nothing lies on the left', () => {
    const right = { ...bird(), meshes: [mesh('r', hose(line([-0.5, 0.3, 0], [-0.2, 0.3, 0], 4), 0.05))] };
    expect(() => madeWhole(right)).toThrow('Nothing of the body lies on the left');
  });
});

describe('a body that stands aside', () => {
  it('comes to the middle of the floor, and says from where; a half stays along its mirror', () => {
    const aside = turnedBy(bird(), 0, [3, 0.5, -2]);
    const home = broughtHome(aside);
    const box = boxOf(home.build);
    expect(Math.abs(box.min[1])).toBeLessThan(1e-4);
    for (const c of [0, 2]) expect(Math.abs(box.min[c] + box.max[c])).toBeLessThan(1e-3);
    const there = boxOf(aside);
    box.min.forEach((v, c) => {
      expect(v + home.from[c]).toBeCloseTo(there.min[c], 3);
    });
    expect(broughtHome(bird()).from[0]).toBe(0);
  });
});
