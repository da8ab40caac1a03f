import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { KindName } from '../../document/kinds/index.ts';
import { boundsOf } from '../../document/member.ts';
import { emptyShot } from '../../document/shot.ts';
import { newMember } from '../../edit/index.ts';
import { Rigs } from '../../rig/rigs.ts';
import { type FormPart, formOf } from './forms.ts';
import type { Mesh } from './mesh.ts';

const shot = emptyShot('s1', 'Forms');
const size = fc.double({ min: 0.05, max: 4, noNaN: true });

/** The volume a closed mesh holds: the sum of the cones from the origin to its triangles. Negative where it is inside out. */
function volume({ positions, triangles }: Mesh): number {
  let sum = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => positions.subarray(triangles[t + k] * 3, triangles[t + k] * 3 + 3));
    sum += a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
  }
  return sum / 6;
}

/** The worst of all triangles: how far the normals of its corners agree with the way it faces, 1 at best. */
function agreement({ positions, normals, triangles }: Mesh): number {
  let worst = 1;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [...positions.subarray(triangles[t + k] * 3, triangles[t + k] * 3 + 3)]);
    const [u, v] = [b, c].map((p) => p.map((x, i) => x - a[i]));
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const area = Math.hypot(...n);
    for (let k = 0; k < 3; k++) {
      const at = triangles[t + k] * 3;
      worst = Math.min(
        worst,
        n.reduce((s, x, i) => s + (x / area) * normals[at + i], 0),
      );
    }
  }
  return worst;
}

/** How many edges of a mesh are not shared by just two triangles, once going each way; corners in one place count as one. */
function openEdges({ positions, triangles }: Mesh): number {
  const place = (v: number) => [...positions.subarray(v * 3, v * 3 + 3)].map((x) => Math.round(x * 1e5)).join(' ');
  const edges = new Map<string, number>();
  for (let t = 0; t < triangles.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [place(triangles[t + k]), place(triangles[t + ((k + 1) % 3)])];
      if (a === b) continue;
      const [name, way] = a < b ? [`${a}|${b}`, 1] : [`${b}|${a}`, -1];
      edges.set(name, (edges.get(name) ?? 0) + way);
    }
  }
  return [...edges.values()].filter((n) => n !== 0).length;
}

const body = (kind: KindName, shape: object): FormPart =>
  formOf(newMember(shot, { kind, shape } as Parameters<typeof newMember>[1]))[0];

const frustum = (r: number, s: number, height: number) => (Math.PI * height * (r * r + r * s + s * s)) / 3;

/** What each solid holds by its formula, less what its rounded edges take. */
const solids = [
  { name: 'ball', part: (a: number) => body('ball', { radius: a }), holds: (a: number) => (4 / 3) * Math.PI * a ** 3 },
  {
    name: 'box',
    part: (a: number, b: number, c: number) => body('box', { width: a, height: b, depth: c }),
    holds: (a: number, b: number, c: number) => a * b * c,
  },
  {
    name: 'cylinder',
    part: (a: number, b: number) => body('cylinder', { radius: a, height: b }),
    holds: (a: number, b: number) => Math.PI * a * a * b,
  },
  {
    name: 'cone',
    part: (a: number, b: number) => body('cone', { radius: a, height: b }),
    // Its rim and its tip are blunted by b: three pieces of cones, one on another.
    holds(a: number, height: number) {
      const b = Math.min(a, height) * 0.06;
      return frustum(a - b, a, b) + frustum(a, b * 0.8, height - 2 * b) + frustum(b * 0.8, 0, b);
    },
  },
  {
    name: 'wedge',
    part: (a: number, b: number, c: number) => body('wedge', { width: a, height: b, depth: c }),
    holds: (a: number, b: number, c: number) => (a * b * c) / 2,
  },
  {
    name: 'flight of steps',
    part: (a: number, b: number, c: number) => body('steps', { count: 5, tread: a, rise: b, depth: c }),
    holds: (a: number, b: number, c: number) => a * b * c * 15,
  },
  {
    name: 'capsule',
    part: (a: number, b: number) => body('capsule', { radius: a, height: b }),
    holds: (a: number, b: number) => Math.PI * a * a * (Math.max(b, 2 * a) - (2 / 3) * a),
  },
  {
    name: 'tube',
    part: (a: number, b: number) => body('tube', { radius: a, wall: a / 3, height: b }),
    holds: (a: number, b: number) => Math.PI * a * a * (1 - 4 / 9) * b,
  },
  {
    name: 'ring',
    part: (a: number) => body('ring', { radius: a, thickness: a / 4 }),
    holds: (a: number) => 2 * Math.PI * Math.PI * a * (a / 4) ** 2,
  },
  {
    name: 'arch',
    part: (a: number, b: number, c: number) => body('arch', { width: a, height: b, depth: c, wall: a / 6 }),
    holds(a: number, b: number, c: number) {
      const [outer, inner] = [a / 2, a / 3];
      const spring = Math.max(b, outer) - outer;
      return c * ((Math.PI * (outer ** 2 - inner ** 2)) / 2 + 2 * (outer - inner) * spring);
    },
  },
  {
    name: 'plank',
    part: (a: number, b: number, c: number) =>
      body('plank', { length: a, width: b, thickness: c / 10, bow: b / 9, rounding: c / 60 }),
    holds: (a: number, b: number, c: number) => a * (b * (c / 10) - 2 * Math.min(c / 60, b / 2.2) ** 2),
  },
  {
    name: 'rope',
    part: (a: number, b: number) => body('rope', { span: a, drop: a / 3, sag: a / 4, thickness: Math.min(a, b) / 40 }),
    // Round but for the grooves between its strands, which take an eighth of it.
    holds(a: number, b: number) {
      let long = 0;
      for (let i = 0; i < 400; i++) long += Math.hypot(a, -a / 3 - a * (1 - (2 * (i + 0.5)) / 400)) / 400;
      return 0.867 * Math.PI * (Math.min(a, b) / 40) ** 2 * long;
    },
  },
  {
    name: 'lettering',
    part: (a: number, b: number) => body('lettering', { text: 'H', height: a, depth: b, weight: 0.1 }),
    // Two uprights and a bar, which lies over both.
    holds: (a: number, b: number) => (2 * a + (4 * a) / 6 + 0.1 * a) * 0.1 * a * b,
  },
  { name: 'block', part: (a: number) => body('block', { size: a, picture: [] }), holds: (a: number) => a ** 3 },
];

describe('the form of a', () => {
  test.each(solids)(
    '$name is closed, faces out, and holds what its formula says to a few hundredths',
    ({ part, holds }) => {
      fc.assert(
        fc.property(size, size, size, (a, b, c) => {
          const { mesh } = part(a, b, c);
          expect(openEdges(mesh)).toBe(0);
          expect(agreement(mesh)).toBeGreaterThan(0.5);
          const share = volume(mesh) / holds(a, b, c);
          expect(share).toBeGreaterThan(0.93);
          expect(share).toBeLessThan(1.02);
        }),
        { numRuns: 20 },
      );
    },
  );

  test.each(solids)('$name fills the bounds it is given, to a millimetre', ({ part, name }) => {
    const kinds = { 'flight of steps': 'steps' } as Record<string, string>;
    const kind = (kinds[name] ?? name) as 'ball';
    const shapes = {
      ball: { radius: 0.7 },
      box: { width: 0.7, height: 0.4, depth: 1.1 },
      cylinder: { radius: 0.7, height: 0.4 },
      cone: { radius: 0.7, height: 0.4 },
      wedge: { width: 0.7, height: 0.4, depth: 1.1 },
      steps: { count: 5, tread: 0.7, rise: 0.4, depth: 1.1 },
      block: { size: 0.7, picture: [] },
      capsule: { radius: 0.7, height: 0.4 },
      tube: { radius: 0.7, wall: 0.2, height: 0.4 },
      ring: { radius: 0.7, thickness: 0.175 },
      arch: { width: 0.7, height: 0.4, depth: 1.1, wall: 0.1 },
      plank: { length: 0.7, width: 0.4, thickness: 0.11, bow: 0.4 / 9, rounding: 1.1 / 60 },
      rope: { span: 0.7, drop: 0.7 / 3, sag: 0.7 / 4, thickness: 0.001 },
      lettering: { text: 'H', height: 0.7, depth: 0.4, weight: 0.1 },
    };
    const { positions } = part(0.7, name === 'rope' ? 0.04 : 0.4, 1.1).mesh;
    const member = newMember(shot, { kind, shape: shapes[kind] });
    boundsOf(member, Rigs.none).forEach((bound, i) => {
      const of = positions.filter((_, p) => p % 3 === i % 3);
      expect(i < 3 ? Math.min(...of) : Math.max(...of)).toBeCloseTo(bound, 3);
    });
  });

  test('plane is seen from both sides', () => {
    const [plane] = formOf(newMember(shot, { kind: 'plane' }));
    expect(plane.bothSides).toBe(true);
    expect(agreement(plane.mesh)).toBeCloseTo(1);
  });

  test('ball with a band shows it just outside its skin', () => {
    const [, band] = formOf(newMember(shot, { kind: 'ball', shape: { radius: 1, band: '#ffffff' } }));
    const { positions } = band.mesh;
    for (let i = 0; i < positions.length; i += 3) {
      const out = Math.hypot(positions[i], positions[i + 1], positions[i + 2]);
      expect(out).toBeGreaterThan(1);
      expect(out).toBeLessThan(1.02);
    }
  });

  test('block carries a square of the picture for each letter that has a paint, row by row from the top left', () => {
    const shape = { size: 1, picture: ['r.', '.b'], paints: { r: '#ff0000', b: '#0000ff' } };
    const [, picture] = formOf(newMember(shot, { kind: 'block', shape }));
    const { positions, colours, triangles } = picture.mesh;
    expect(triangles.length).toBe(12);
    expect([...colours!.subarray(0, 3)]).toEqual([1, 0, 0]);
    expect(positions[0]).toBeLessThan(0);
    expect(positions[1]).toBeCloseTo(0);
    expect([...colours!.subarray(12, 15)]).toEqual([0, 0, 1]);
    expect(positions[12]).toBeCloseTo(0);
    expect(positions[13]).toBeLessThan(0);
  });
});
