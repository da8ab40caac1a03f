import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { hull, outsideBy } from '../body/balance.ts';
import { softDistance, softReach } from './limb.ts';
import { linksIn } from './links.ts';
import { parseRig } from './problems.ts';
import { Spine, spineAtRest } from './spine.ts';

describe('a soft reach', () => {
  const length = fc.double({ min: 0.1, max: 3, noNaN: true });
  const soft = fc.double({ min: 0, max: 0.3, noNaN: true });

  test('is exact up to where it grows soft, never more than the limb, and grows all the way', () => {
    fc.assert(
      fc.property(length, soft, fc.double({ min: 0, max: 3, noNaN: true }), (l, s, share) => {
        const distance = l * share;
        const reached = softReach(distance, l, s);
        if (distance <= l * (1 - s)) expect(reached).toBe(distance);
        expect(reached).toBeLessThanOrEqual(l * (1 + 1e-12));
        expect(softReach(distance + 0.01, l, s)).toBeGreaterThanOrEqual(reached);
      }),
    );
  });

  test('leaves its straight part without a corner', () => {
    const at = (d: number) => softReach(d, 1, 0.1);
    const slope = (d: number) => (at(d + 1e-6) - at(d - 1e-6)) / 2e-6;
    expect(slope(0.9 - 1e-4)).toBeCloseTo(1, 6);
    expect(slope(0.9 + 1e-4)).toBeCloseTo(1, 2);
  });

  test('is undone by its distance', () => {
    fc.assert(
      fc.property(length, soft, fc.double({ min: 0, max: 0.9999, noNaN: true }), (l, s, share) => {
        expect(softReach(softDistance(l * share, l, s), l, s)).toBeCloseTo(l * share, 9);
      }),
    );
  });
});

describe('a spine', () => {
  const shift = (x: number, y: number, z: number) => Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1);
  const rests = [0, 1, 2, 3, 4].map((i) => shift(0, i * 0.25, Math.sin(i) * 0.02));
  /** A chain of five from node 5 to node 6, which carry it at rest. */
  const run = (from: Float64Array, to: Float64Array) => {
    const world = new Float64Array(7 * 16);
    world.set(from, 5 * 16);
    world.set(to, 6 * 16);
    const still = shift(0, 0, 0);
    new Spine(5, still, 6, still, [0, 1, 2, 3, 4], spineAtRest(rests)).run({
      world,
      values: world,
      orientations: world,
      at: 1,
    });
    return (i: number) => [world[i * 16 + 12], world[i * 16 + 13], world[i * 16 + 14]];
  };

  test('is at rest when its ends are, and carried whole when both go together', () => {
    const still = run(shift(0, 0, 0), shift(0, 0, 0));
    const gone = run(shift(2, 1, -3), shift(2, 1, -3));
    for (let i = 0; i < 5; i++) {
      const rest = [...rests[i].subarray(12, 15)];
      expect(still(i)).toEqual(rest);
      gone(i).forEach((v, c) => {
        expect(v).toBeCloseTo(rest[c] + [2, 1, -3][c], 12);
      });
    }
  });

  test('begins and ends where its ends are, and leaves them the way they point', () => {
    const at = run(shift(0, 0, 0), shift(0.4, 0.1, 0));
    expect(at(0)).toEqual([0, 0, 0]);
    expect(at(4)[0]).toBeCloseTo(0.4, 12);
    // Near its beginning it has hardly begun to go aside, near its end it is nearly there.
    expect(at(1)[0]).toBeLessThan(0.4 * 0.2);
    expect(at(3)[0]).toBeGreaterThan(0.4 * 0.8);
  });
});

describe('the area one stands on', () => {
  const place = fc.tuple(fc.double({ min: -2, max: 2, noNaN: true }), fc.double({ min: -2, max: 2, noNaN: true }));

  test('holds every point it was made of', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 3, maxLength: 40 }), (points) => {
        const area = hull(points);
        for (const [x, z] of points) expect(outsideBy(area, x, z)).toBeLessThan(1e-9);
      }),
    );
  });

  test('tells how far outside or inside a place is', () => {
    const square = hull([
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
      [0, 0],
    ]);
    expect(square).toHaveLength(4);
    expect(outsideBy(square, 0, 0)).toBeCloseTo(-1, 12);
    expect(outsideBy(square, 1.5, 0)).toBeCloseTo(0.5, 12);
    expect(outsideBy(square, 4, 5)).toBeCloseTo(5, 12);
    expect(outsideBy([], 0, 0)).toBe(Number.POSITIVE_INFINITY);
  });
});

describe('a rig from outside', () => {
  const rig = {
    id: 'post',
    version: 1,
    name: 'Post',
    changes: '',
    joints: [
      { id: 'root', parent: null, place: [0, 0, 0] },
      { id: 'tip', parent: 'root', place: [0, 1, 0], by: { kind: 'control', control: 'tip' } },
    ],
    controls: [
      { id: 'tip', name: 'tip', side: 'centre', form: 'ring', reach: 0.1, place: [0, 1, 0], turn: 'xyz', dials: [] },
    ],
    meshes: [
      {
        id: 'body',
        colour: '#c99a5e',
        finish: 'wood',
        positions: [0, 0, 0, 100, 0, 0, 0, 100, 0],
        triangles: [0, 1, 2],
        skin: {
          kind: 'smooth',
          joints: ['root', 'tip'],
          indices: [0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0],
          weights: [255, 0, 0, 0, 200, 55, 0, 0, 128, 127, 0, 0],
        },
      },
    ],
  };
  const problem = (change: object) => {
    const parsed = parseRig({ ...rig, ...change });
    return parsed.ok ? null : `${parsed.problems[0].pointer} ${parsed.problems[0].sentence}`;
  };
  const [root, tip] = rig.joints;
  const [control] = rig.controls;
  const [mesh] = rig.meshes;
  const formula = (text: string, path: string) => ({
    kind: 'dials',
    turn: [{ text, inputs: [{ name: 'a', path }] }, null, null],
  });

  test('is taken as it is', () => {
    expect(problem({})).toBeNull();
  });

  test.each([
    [
      'a parent that comes later',
      { joints: [{ ...root, parent: 'tip' }, tip] },
      /\/joints\/0\/parent names "tip", which does not come before it/,
    ],
    ['a joint twice', { joints: [root, root, tip] }, /\/joints\/1\/id is "root", as another is called already/],
    [
      'a control it has not',
      { joints: [root, { ...tip, by: { kind: 'control', control: 'no' } }] },
      /names the control "no"/,
    ],
    [
      'a partner that knows nothing of it',
      { controls: [{ ...control, partner: 'root' }] },
      /\/controls\/0\/partner names "root"/,
    ],
    [
      'a dial that begins outside its range',
      { controls: [{ ...control, dials: [{ id: 'a', label: 'a', min: 0, max: 1, initial: 2 }] }] },
      /does not begin between its ends/,
    ],
    [
      'weights that do not sum to one',
      { meshes: [{ ...mesh, skin: { ...mesh.skin, weights: [255, 0, 0, 0, 200, 54, 0, 0, 128, 127, 0, 0] } }] },
      /of vertex 1 do not sum to 255/,
    ],
    ['a vertex that is not there', { meshes: [{ ...mesh, triangles: [0, 1, 3] }] }, /name a vertex that is not there/],
    [
      'a formula that is none',
      { joints: [root, { ...tip, by: formula('a +', 'tip.turn.x') }] },
      /\/joints\/1\/by\/turn\/0\/text/,
    ],
    [
      'a formula of a dial it has not',
      { joints: [root, { ...tip, by: formula('a', 'tip.curl') }] },
      /names "tip.curl", which the rig has not/,
    ],
    [
      'a formula that looks at another moment',
      { joints: [root, { ...tip, by: formula('at(a, 3)', 'tip.turn.x') }] },
      /reads a dial at another moment|text/,
    ],
    [
      'more vertices than it may',
      { meshes: [{ ...mesh, positions: Array(180_003).fill(0) }] },
      /\/meshes\/0\/positions/,
    ],
  ])('with %s is refused, with the place', (_, change, expected) => {
    expect(problem(change)).toMatch(expected);
  });
});

test('the links of anything at all are found without reading it first', () => {
  expect(linksIn(null)).toEqual([]);
  expect(linksIn({ members: 7 })).toEqual([]);
  const link = { kind: 'rig', shape: { rig: 'post', version: 3 } };
  expect(linksIn({ members: { a: link, b: link, c: { kind: 'rig', shape: null }, d: null } })).toEqual([link.shape]);
});
