import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Vector } from '../pose/vectors.ts';
import type { Build, BuildJoint } from './build.ts';
import { type Dab, Painting } from './painting.ts';
import { hose, inMirror, line } from './testing/bodies.ts';
import { weighed } from './weights.ts';

const joint = (id: string, parent: string | null, place: Vector): BuildJoint => ({
  id,
  name: id,
  parent,
  place,
  turn: [0, 0, 0, 1],
  axes: 'xyz',
  limits: {},
});

const half = hose(line([0.1, 0, 0], [0.1, 1, 0], 20), 0.08);
const joints = [
  joint('base', null, [0, 0.5, 0]),
  joint('topL', 'base', [0.1, 0.7, 0]),
  joint('topR', 'base', [-0.1, 0.7, 0]),
];
const mesh = { colour: '#e6dac2', finish: 'felt', skin: { kind: 'rigid', joint: 'base' }, targets: [] } as const;
const meshes = [
  { ...mesh, id: 'l', ...half, targets: [] },
  { ...mesh, id: 'r', ...inMirror(half), targets: [] },
];
const build: Build = { id: 'b', name: 'B', joints, meshes: weighed(meshes, joints), parts: [] };
const dab: Dab = { at: [0.18, 0.3, 0], reach: 0.15, strength: 0.6, does: 'more', joint: 'topL', pairs: false };
const sum = (list: readonly Float32Array[], m: number) => list[m].reduce((s, v) => s + v, 0);

describe('painting weights', () => {
  it('gives more of a joint under the brush and nothing beyond its reach', () => {
    const painting = new Painting(build);
    const before = painting.sharesOf('topL');
    painting.dab(dab);
    const after = painting.sharesOf('topL');
    let most = 0;
    for (let v = 0; v < after[0].length; v++) {
      const far = Math.hypot(...dab.at.map((c, i) => meshes[0].positions[v * 3 + i] / 1e4 - c));
      const by = after[0][v] - before[0][v];
      if (far > dab.reach) expect(by).toBeCloseTo(0, 6);
      most = Math.max(most, by);
    }
    expect(most).toBeGreaterThan(0.25);
    expect(sum(after, 1)).toBeCloseTo(sum(before, 1), 5);
  });

  it('takes away again, to who carries the joint', () => {
    const painting = new Painting(build);
    for (let i = 0; i < 40; i++) painting.dab({ ...dab, strength: 1 });
    for (let i = 0; i < 40; i++) painting.dab({ ...dab, strength: 1, does: 'less' });
    const near = painting.sharesOf('base')[0];
    expect(Math.max(...near)).toBeGreaterThan(0.99);
  });

  it('does the same on the other side when it is to', () => {
    const painting = new Painting(build);
    painting.dab({ ...dab, pairs: true });
    const [left, right] = [painting.sharesOf('topL')[0], painting.sharesOf('topR')[1]];
    left.forEach((v, i) => {
      expect(right[i]).toBeCloseTo(v, 3);
    });
  });

  it('evens out what neighbours have, and mirrors a half', () => {
    const painting = new Painting(build);
    painting.dab({ ...dab, strength: 1, reach: 0.04 });
    const rough = Math.max(...painting.sharesOf('topL')[0].slice(0, 160));
    painting.dab({ ...dab, does: 'even' });
    expect(Math.max(...painting.sharesOf('topL')[0].slice(0, 160))).toBeLessThan(rough);
    expect(painting.mirror()).toBe(0);
    const [left, right] = [painting.sharesOf('topL')[0], painting.sharesOf('topR')[1]];
    left.forEach((v, i) => {
      expect(right[i]).toBeCloseTo(v, 6);
    });
  });

  it('leaves weights that sum to what a whole is, whatever is painted', () => {
    const any = fc.record({
      at: fc.tuple(fc.constantFrom(0.18, -0.18, 0.02), fc.double({ min: 0, max: 1, noNaN: true }), fc.constant(0)),
      reach: fc.double({ min: 0.01, max: 0.5, noNaN: true }),
      strength: fc.double({ min: 0, max: 1, noNaN: true }),
      does: fc.constantFrom('more', 'less', 'even'),
      joint: fc.constantFrom('base', 'topL', 'topR'),
      pairs: fc.boolean(),
    }) as fc.Arbitrary<Dab>;
    fc.assert(
      fc.property(fc.array(any, { maxLength: 8 }), (dabs) => {
        const painting = new Painting(build);
        for (const one of dabs) painting.dab(one);
        for (const { skin } of painting.done().meshes) {
          if (skin.kind !== 'smooth') throw new Error('not soft');
          for (let v = 0; v < skin.weights.length; v += 4)
            expect(skin.weights[v] + skin.weights[v + 1] + skin.weights[v + 2] + skin.weights[v + 3]).toBe(255);
        }
      }),
      { numRuns: 25 },
    );
  });

  it('is refused where nothing is soft', () => {
    expect(() => new Painting({ ...build, meshes }).dab(dab)).toThrow('No part of the body is soft');
  });
});
