import { describe, expect, test } from 'vitest';
import { MemberSchema } from '../../document/member.ts';
import { formOf } from './forms.ts';
import type { Mesh } from './mesh.ts';
import { projected } from './projected.ts';
import { sphere } from './revolve.ts';
import { roundedBox } from './rounded-box.ts';

/** Twice the area of a triangle in space, and on the picture with its sign. */
function areas({ positions: p, triangles, places }: Mesh, t: number): { room: number; picture: number } {
  const [a, b, c] = triangles.subarray(t, t + 3);
  const edge = (v: number, axis: number) => p[v * 3 + axis] - p[a * 3 + axis];
  const cross = [0, 1, 2].map((k) => {
    const [i, j] = [(k + 1) % 3, (k + 2) % 3];
    return edge(b, i) * edge(c, j) - edge(b, j) * edge(c, i);
  });
  const on = (v: number, axis: number) => places![v * 2 + axis] - places![a * 2 + axis];
  return { room: Math.hypot(...cross), picture: on(b, 0) * on(c, 1) - on(b, 1) * on(c, 0) };
}

describe.each([
  ['a ball', sphere(0.4, 24, 16)],
  ['a rounded box', roundedBox([0.5, 0.3, 0.7], 0.1, 2)],
])('%s projected from three sides', (_, mesh) => {
  const laid = projected(mesh, 2, 1);

  test('is the same surface', () => {
    expect(laid.triangles.length).toBe(mesh.triangles.length);
    for (let t = 0; t < mesh.triangles.length; t++)
      for (let c = 0; c < 3; c++) {
        expect(laid.positions[laid.triangles[t] * 3 + c]).toBe(mesh.positions[mesh.triangles[t] * 3 + c]);
        expect(laid.normals[laid.triangles[t] * 3 + c]).toBe(mesh.normals[mesh.triangles[t] * 3 + c]);
      }
  });

  test('no triangle is stretched by more than the root of three, and none lies mirrored', () => {
    for (let t = 0; t < laid.triangles.length; t += 3) {
      const { room, picture } = areas(laid, t);
      // Where a ring is but a point a triangle may be nothing.
      if (room < 1e-9) continue;
      // Down is the picture's second axis: what goes round one way outside goes round the other way on it.
      const share = (-picture * 4) / room;
      expect(share).toBeGreaterThan(1 / Math.sqrt(3) - 1e-4);
      expect(share).toBeLessThanOrEqual(1 + 1e-4);
    }
  });
});

test('a picture stands upright on a wall, as wide as it is told and as high as it is', () => {
  const wall = projected(roundedBox([1, 1, 0.1], 0.001, 1), 0.5, 2);
  const { positions: p, places, normals } = wall;
  for (let v = 0; v < p.length / 3; v++) {
    if (normals[v * 3 + 2] < 0.999) continue;
    expect(places[v * 2]).toBeCloseTo(p[v * 3] / 0.5, 5);
    expect(places[v * 2 + 1]).toBeCloseTo(-p[v * 3 + 1] / 1, 5);
  }
});

test('only what has the colour of its member is laid with what lies on it', () => {
  const ball = MemberSchema.parse({
    id: 'b',
    name: 'B',
    kind: 'ball',
    parent: null,
    rank: 1,
    shape: { band: '#112233' },
    material: { name: 'x', cover: { is: 'pattern', pattern: 'checks', second: '#000000', scale: 1, grain: 0 } },
  });
  const [body, band] = formOf(ball);
  expect(body.mesh.places).toBeDefined();
  expect(band.mesh.places).toBeUndefined();
  expect(formOf({ ...ball, material: undefined })[0].mesh.places).toBeUndefined();
});
