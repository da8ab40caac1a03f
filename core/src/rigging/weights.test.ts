import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mirrored, type Vector } from '../pose/vectors.ts';
import { WHOLE_WEIGHT } from '../rig/definition.ts';
import { shellOf } from './shell.ts';
import { hose, inMirror, line, volumeOf } from './testing/bodies.ts';
import { computedWeights, skinOf, type Weights, wholeShares } from './weights.ts';

const joint = (id: string, parent: string | null, place: Vector) => ({ id, parent, place });
/** What a point hangs on a joint by. */
const share = ({ joints, shares }: Weights, point: number, joint: number): number => {
  let sum = 0;
  for (let k = 0; k < 4; k++) if (joints[point * 4 + k] === joint) sum += shares[point * 4 + k];
  return sum;
};
const each = (count: number) => Array.from({ length: count }, (_, i) => i);

describe('weights of a body', () => {
  const bar = shellOf([hose(line([0, 0, 0], [0, 1, 0], 40), 0.06)]);
  const two = [joint('upper', null, [0, 0.05, 0]), joint('lower', 'upper', [0, 0.5, 0])];
  const weights = computedWeights(bar, two);
  const points = each(bar.positions.length / 3);

  it('sum to one, and none is below nothing', () => {
    for (const p of points) {
      const own = weights.shares.subarray(p * 4, p * 4 + 4);
      expect(own.reduce((s, v) => s + v, 0)).toBeCloseTo(1, 12);
      expect(Math.min(...own)).toBeGreaterThanOrEqual(0);
    }
  });

  it('go over where two bones meet, and are whole away from there', () => {
    for (const p of points) {
      const y = bar.positions[p * 3 + 1];
      const lower = share(weights, p, 1);
      if (y < 0.25) expect(lower).toBeLessThan(0.02);
      if (y > 0.75) expect(lower).toBeGreaterThan(0.98);
      if (Math.abs(y - 0.5) < 1e-6) expect(lower).toBeCloseTo(0.5, 2);
    }
  });

  it('do not jump from point to point', () => {
    for (let t = 0; t < bar.triangles.length; t += 3) {
      const [a, b] = [bar.triangles[t], bar.triangles[t + 1]];
      const far = Math.hypot(...[0, 1, 2].map((c) => bar.positions[a * 3 + c] - bar.positions[b * 3 + c]));
      // Over from one to the other goes along about as far as the bar is thick.
      expect(Math.abs(share(weights, a, 1) - share(weights, b, 1))).toBeLessThan((2.5 * far) / 0.12 + 1e-6);
    }
  });

  it('keep the volume of a limb that is bent by a right angle', () => {
    const bent = new Float64Array(bar.positions.length);
    for (const p of points) {
      const [x, y, z] = bar.positions.subarray(p * 3, p * 3 + 3);
      const w = share(weights, p, 1);
      // About x through the elbow: y comes forward.
      const turned = [x, 0.5 - z, y - 0.5];
      [x, y, z].forEach((v, c) => {
        bent[p * 3 + c] = v * (1 - w) + turned[c] * w;
      });
    }
    const before = volumeOf(bar.positions, bar.triangles);
    expect(Math.abs(volumeOf(bent, bar.triangles) / before - 1)).toBeLessThan(0.12);
  });
});

describe('weights across a gap', () => {
  // A hairpin: down one side and up the other, 4 mm between the two.
  const radius = 0.02;
  const apart = radius + 0.002;
  const bend = each(9).map((i): Vector => {
    const a = Math.PI + (Math.PI * i) / 8;
    return [apart * Math.cos(a), apart * Math.sin(a), 0];
  });
  const shell = shellOf([
    hose(
      [...line([-apart, 0.3, 0], [-apart, 0.012, 0], 24), ...bend, ...line([apart, 0.012, 0], [apart, 0.3, 0], 24)],
      radius,
    ),
  ]);
  const joints = [
    joint('base', null, [0, -apart, 0]),
    joint('a1', 'base', [-apart, 0.03, 0]),
    joint('a2', 'a1', [-apart, 0.15, 0]),
    joint('b1', 'base', [apart, 0.03, 0]),
    joint('b2', 'b1', [apart, 0.15, 0]),
  ];
  const weights = computedWeights(shell, joints);

  it('are none where no body is between', () => {
    for (const p of each(shell.positions.length / 3)) {
      const [x, y] = shell.positions.subarray(p * 3, p * 3 + 2);
      if (y < 0.09) continue;
      const other = x < 0 ? share(weights, p, 3) + share(weights, p, 4) : share(weights, p, 1) + share(weights, p, 2);
      expect(other).toBeLessThan(1e-4);
    }
  });
});

describe('weights of mirrored halves', () => {
  it('are the same', () => {
    const half = [
      hose(line([0.07, 0.9, 0], [0.07, 1.6, 0], 20), 0.17),
      hose(line([0.2, 1, 0], [0.25, 0, 0.1], 20), 0.08),
    ];
    const shell = shellOf([...half, ...half.map(inMirror)]);
    const left: [string, string | null, Vector][] = [
      ['hips', null, [0, 1, 0]],
      ['chest', 'hips', [0, 1.4, 0]],
      ['thigh', 'hips', [0.2, 0.95, 0]],
      ['shin', 'thigh', [0.22, 0.5, 0.05]],
    ];
    const joints = left.flatMap(([id, parent, place]) =>
      place[0] === 0
        ? [joint(id, parent, place)]
        : (['L', 'R'] as const).map((m) =>
            joint(`${id}${m}`, parent === 'hips' ? parent : `${parent}${m}`, m === 'L' ? place : mirrored(place)),
          ),
    );
    const weights = computedWeights(shell, joints);
    const twin = joints.map(({ id }) =>
      joints.findIndex((j) => j.id === id.replace(/[LR]$/, (m) => (m === 'L' ? 'R' : 'L'))),
    );
    const at = new Map(
      each(shell.positions.length / 3).map((p) => [
        Array.from(shell.positions.subarray(p * 3, p * 3 + 3), (v) => (Math.round(v * 1e4) || 0).toString()).join(),
        p,
      ]),
    );
    let found = 0;
    for (const p of at.values()) {
      const [x, y, z] = Array.from(shell.positions.subarray(p * 3, p * 3 + 3), (v) => Math.round(v * 1e4) || 0);
      const image = at.get([-x || 0, y, z].join());
      if (image === undefined) continue;
      found++;
      joints.forEach((_, j) => {
        expect(Math.abs(share(weights, p, j) - share(weights, image, twin[j]))).toBeLessThan(1e-6);
      });
    }
    expect(found).toBeGreaterThan(500);
  });
});

describe('weights of parts that touch nothing', () => {
  it('go by the nearest bone where none is seen', () => {
    const shell = shellOf([
      hose(line([0, 0, 0], [0, 1, 0], 10), 0.1),
      hose(line([0.5, 0.8, 0], [0.5, 0.9, 0], 4), 0.03),
    ]);
    const joints = [joint('low', null, [0, 0.1, 0]), joint('high', 'low', [0, 0.6, 0])];
    const weights = computedWeights(shell, joints);
    for (const p of each(shell.positions.length / 3))
      if (shell.positions[p * 3] > 0.3) expect(share(weights, p, 1)).toBeCloseTo(1, 6);
  });
});

describe('whole shares', () => {
  it('sum to what a whole is, and are never one off by more than rounding', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0.001, max: 1, noNaN: true }), { minLength: 1, maxLength: 4 }), (raw) => {
        const sum = raw.reduce((s, v) => s + v, 0);
        const shares = raw.map((v) => v / sum);
        const whole = wholeShares(shares);
        expect(whole.reduce((s, v) => s + v, 0)).toBe(WHOLE_WEIGHT);
        for (const [i, w] of whole.entries()) expect(Math.abs(w - shares[i] * WHOLE_WEIGHT)).toBeLessThan(1 + 1e-9);
      }),
    );
  });

  it('name each joint a mesh hangs on once', () => {
    const bar = shellOf([hose(line([0, 0, 0], [0, 1, 0], 8), 0.1)]);
    const weights = computedWeights(bar, [joint('a', null, [0, 0, 0]), joint('b', 'a', [0, 0.5, 0])]);
    const skin = skinOf(weights, bar.of[0], ['a', 'b']);
    expect([...skin.joints].sort()).toEqual(['a', 'b']);
    expect(skin.weights).toHaveLength(bar.of[0].length * 4);
  });
});
