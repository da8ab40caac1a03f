import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { depthInMesh } from './inside.ts';

/** A box about the origin, twelve triangles, counter-clockwise seen from outside. */
function box(hx: number, hy: number, hz: number) {
  const positions = new Float32Array(
    [0, 1, 2, 3, 4, 5, 6, 7].flatMap((i) => [i & 1 ? hx : -hx, i & 2 ? hy : -hy, i & 4 ? hz : -hz]),
  );
  const sides = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ];
  const triangles = new Uint32Array(sides.flatMap(([a, b, c, d]) => [a, b, c, a, c, d]));
  return { positions, triangles };
}

const place = fc.double({ min: -2, max: 2, noNaN: true });

describe('how deep a place is in a mesh', () => {
  test('is what it is in a box, whichever triangle is nearest, and nothing outside', () => {
    const mesh = box(1, 0.5, 1.5);
    fc.assert(
      fc.property(place, place, place, (x, y, z) => {
        const depth = Math.min(1 - Math.abs(x), 0.5 - Math.abs(y), 1.5 - Math.abs(z));
        // On the very hull it is neither.
        fc.pre(Math.abs(depth) > 1e-6);
        if (depth < 0) expect(depthInMesh(mesh, x, y, z)).toBe(Number.NEGATIVE_INFINITY);
        else expect(depthInMesh(mesh, x, y, z)).toBeCloseTo(depth, 6);
      }),
    );
  });

  test('is not misled where the way out goes along edges and through corners', () => {
    const mesh = box(1, 1, 1);
    for (const [x, y, z] of [
      [0, 0, 0],
      [0.5, 0.5, 0.5],
      [0.25, 0.25, 0],
      [0, 0, 0.75],
    ])
      expect(depthInMesh(mesh, x, y, z)).toBeCloseTo(1 - Math.max(x, y, z), 9);
  });

  test('is nothing in a sheet, which has no inside', () => {
    const sheet = {
      positions: new Float32Array([-1, 0, -1, 1, 0, -1, 1, 0, 1, -1, 0, 1]),
      triangles: new Uint32Array([0, 2, 1, 0, 3, 2]),
    };
    fc.assert(
      fc.property(place, place, place, (x, y, z) => {
        fc.pre(Math.abs(y) > 1e-3);
        expect(depthInMesh(sheet, x, y, z)).toBe(Number.NEGATIVE_INFINITY);
      }),
    );
  });
});
