import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type DeformerKind, deformerKinds } from '../deform/index.ts';
import { emptyShot, type MemberDeformer, simpleKinds } from '../document/index.ts';
import { addDeformer, addMember, newDeformer, newMember } from '../edit/index.ts';
import { Rigs } from '../rig/rigs.ts';
import { surfacePoints } from '../surface/points.ts';
import { isSolid, lowestOf } from '../surface/support.ts';
import { Table } from '../table/table.ts';
import { frameOf } from './index.ts';
import { deformPoints, isAffine, shapeMatrix } from './shape.ts';

/** A ball of a quarter metre with one deformer whose channels hold these values. */
function withDeformer(
  kind: DeformerKind,
  values: Record<string, number>,
  settings = {},
  more: Record<string, number> = {},
) {
  let shot = addMember.apply(emptyShot('s', 'S'), {
    member: newMember(emptyShot('s', 'S'), { kind: 'ball', id: 'b', shape: { radius: 0.25 } }),
  });
  const deformer: MemberDeformer = { ...newDeformer(shot.members.at('b'), kind, settings), id: 'd' };
  shot = addDeformer.apply(shot, { id: 'b', deformer });
  const own = Object.fromEntries(Object.entries(values).map(([c, v]) => [`deform.d.${c}`, v]));
  return { ...shot, members: shot.members.with('b', { ...shot.members.at('b'), values: { ...more, ...own } }) };
}

/** The volume of a map around a point, from its derivatives by central differences. */
function volumeAt(frame: ReturnType<typeof frameOf>, at: readonly number[]): number {
  const h = 1e-4;
  const columns = [0, 1, 2].map((axis) => {
    const side = (sign: number) => {
      const p = Float64Array.from(at);
      p[axis] += sign * h;
      deformPoints(frame, 0, p);
      return p;
    };
    const [up, down] = [side(1), side(-1)];
    return [0, 1, 2].map((r) => (up[r] - down[r]) / (2 * h));
  });
  const [a, b, c] = columns;
  return a[0] * (b[1] * c[2] - b[2] * c[1]) - b[0] * (a[1] * c[2] - a[2] * c[1]) + c[0] * (a[1] * b[2] - a[2] * b[1]);
}

const share = fc.integer({ min: 0, max: 64 }).map((v) => v / 64);
const turn = fc.integer({ min: -200, max: 200 }).map((v) => v / 64);
const length = fc.integer({ min: 20, max: 160 }).map((v) => v / 64);
const point = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -16, max: 16 }).map((v) => v / 64)));

describe('deformers', () => {
  test('a squashed form keeps its volume everywhere, whatever its axis, turn and size', () => {
    fc.assert(
      fc.property(
        length,
        share,
        turn,
        turn,
        turn,
        fc.constantFrom('world', 'own'),
        point,
        (l, foot, x, z, spin, space, at) => {
          const shot = withDeformer(
            'squash',
            { length: l, foot, 'lean.x': x, 'lean.z': z },
            { space },
            { 'turn.z': spin, 'size.x': 1.5, 'size.y': 0.75 },
          );
          expect(volumeAt(frameOf(shot, 1), at)).toBeCloseTo(1, 6);
        },
      ),
    );
  });

  test('a squashed ball still touches the ground it stood on, however it has rolled', () => {
    fc.assert(
      fc.property(length, turn, turn, (l, spin, roll) => {
        const shot = withDeformer('squash', { length: l }, {}, { 'move.y': 0.25, 'turn.z': spin, 'turn.x': roll });
        const frame = frameOf(shot, 1);
        const m = new Float64Array(16);
        shapeMatrix(frame, 0, m);
        // The lowest point of an ellipsoid: its middle less the length of what `up` becomes.
        const lowest = m[13] - 0.25 * Math.hypot(m[1], m[5], m[9]);
        const highest = m[13] + 0.25 * Math.hypot(m[1], m[5], m[9]);
        expect(lowest).toBeCloseTo(0, 9);
        expect(highest).toBeCloseTo(0.5 * l, 9);
      }),
    );
  });

  test('a ball squashed on a slope touches it along the slope’s normal', () => {
    const angle = 0.4;
    const shot = withDeformer('squash', { length: 0.7, 'lean.z': angle });
    const m = new Float64Array(16);
    shapeMatrix(frameOf(shot, 1), 0, m);
    const [nx, ny] = [-Math.sin(angle), Math.cos(angle)];
    const centre = nx * m[12] + ny * m[13];
    const reach = 0.25 * Math.hypot(nx * m[0] + ny * m[1], nx * m[4] + ny * m[5], nx * m[8] + ny * m[9]);
    expect(centre - reach).toBeCloseTo(-0.25, 9);
  });

  test('an axis that follows the path lies along it', () => {
    const shot = withDeformer('squash', { length: 1.4, follow: 1, foot: 0.5 });
    const line = (from: number, to: number) => ({
      type: 'number' as const,
      before: 'hold' as const,
      after: 'hold' as const,
      keys: [
        {
          frame: 1,
          value: from,
          in: { kind: 'linear' as const },
          out: { kind: 'linear' as const },
          joined: false,
          role: 'key' as const,
        },
        {
          frame: 11,
          value: to,
          in: { kind: 'linear' as const },
          out: { kind: 'linear' as const },
          joined: false,
          role: 'key' as const,
        },
      ],
    });
    const frame = frameOf({ ...shot, curves: Table.of({ 'b.move.x': line(0, 3), 'b.move.y': line(4, 0) }) }, 6);
    const p = Float64Array.of(0.15, -0.2, 0);
    deformPoints(frame, 0, p);
    // (3, -4) / 5 is the way: a point that lies along it goes out by 1.4, from the middle.
    expect(p[0]).toBeCloseTo(0.15 * 1.4, 9);
    expect(p[1]).toBeCloseTo(-0.2 * 1.4, 9);
  });

  test('a bend of a quarter turn lays the top of the middle line where the arc ends', () => {
    const shot = withDeformer('bend', { angle: Math.PI / 2 });
    const p = Float64Array.of(0, 0.25, 0);
    deformPoints(frameOf(shot, 1), 0, p);
    const radius = 0.5 / (Math.PI / 2);
    expect(p[0]).toBeCloseTo(radius, 9);
    expect(p[1]).toBeCloseTo(-0.25 + radius, 9);
  });

  test('a bend keeps the length of the middle line and what stands on the foot', () => {
    const shot = withDeformer('bend', { angle: 1.2 });
    const frame = frameOf(shot, 1);
    const line = new Float64Array(3 * 201);
    for (let i = 0; i <= 200; i++) line[i * 3 + 1] = -0.25 + (i * 0.5) / 200;
    deformPoints(frame, 0, line);
    let way = 0;
    for (let i = 1; i <= 200; i++) way += Math.hypot(line[i * 3] - line[i * 3 - 3], line[i * 3 + 1] - line[i * 3 - 2]);
    expect(way).toBeCloseTo(0.5, 4);
    expect([...line.slice(0, 3)]).toEqual([0, -0.25, 0]);
  });

  test('a twist keeps volume and turns the top by its angle', () => {
    fc.assert(
      fc.property(turn, point, (angle, at) => {
        expect(volumeAt(frameOf(withDeformer('twist', { angle }), 1), at)).toBeCloseTo(1, 6);
      }),
    );
    const top = Float64Array.of(0, 0.25, 0.1);
    deformPoints(frameOf(withDeformer('twist', { angle: Math.PI / 2 }), 1), 0, top);
    expect(top[0]).toBeCloseTo(0.1, 9);
    expect(top[2]).toBeCloseTo(0, 9);
  });

  test('a taper leaves the foot and brings the top to its share', () => {
    const points = Float64Array.of(0.1, -0.25, 0.1, 0.1, 0.25, 0.1);
    deformPoints(frameOf(withDeformer('taper', { top: 0.5 }), 1), 0, points);
    expect([...points].map((v) => Math.round(v * 1e9) / 1e9)).toEqual([0.1, -0.25, 0.1, 0.05, 0.25, 0.05]);
  });

  test.each(deformerKinds)('%s at rest changes nothing, and its matrix says what it does to points', (kind) => {
    const frame = frameOf(withDeformer(kind, {}), 1);
    const p = Float64Array.of(0.1, 0.2, -0.15);
    deformPoints(frame, 0, p);
    for (const [i, v] of [0.1, 0.2, -0.15].entries()) expect(p[i]).toBeCloseTo(v, 12);
    expect(isAffine(frame, 0)).toBe(kind === 'squash');
  });

  test('deformers act one after another, in the order of their stack', () => {
    const ball = withDeformer('taper', { top: 0.5 });
    const twisted = { ...newDeformer(ball.members.at('b'), 'squash'), id: 'e' };
    const both = addDeformer.apply(ball, { id: 'b', deformer: twisted });
    const member = { ...both.members.at('b'), values: { ...both.members.at('b').values, 'deform.e.length': 0.5 } };
    const p = Float64Array.of(0.1, 0.25, 0);
    deformPoints(frameOf({ ...both, members: Table.of({ b: member }) }, 1), 0, p);
    expect(p[0]).toBeCloseTo(0.05 / Math.sqrt(0.5), 9);
    expect(p[1]).toBeCloseTo(0, 9);
  });
});

describe('how deep a form reaches', () => {
  const direction = fc.tuple(turn, turn, turn).filter((d) => Math.hypot(...d) > 0.1);
  test.each(simpleKinds.filter((k) => k !== 'steps' && isSolid(newMember(emptyShot('s', 'S'), { kind: k }))))(
    '%s: no point of it is deeper, and one is as deep',
    (kind) => {
      const member = newMember(emptyShot('s', 'S'), { kind });
      const lowest = lowestOf(member, Rigs.none);
      const points = surfacePoints(member, Rigs.none);
      fc.assert(
        fc.property(direction, ([x, y, z]) => {
          let least = Number.POSITIVE_INFINITY;
          for (let i = 0; i < points.length; i += 3)
            least = Math.min(least, x * points[i] + y * points[i + 1] + z * points[i + 2]);
          const depth = lowest(x, y, z);
          // A wedge is taken here by its box: its points may only be less deep.
          if (kind !== 'wedge') expect(least).toBeGreaterThanOrEqual(depth - 1e-9);
          if (kind !== 'wedge') expect(least - depth).toBeLessThan(0.02 * Math.hypot(x, y, z));
          else expect(depth).toBeGreaterThanOrEqual(least - 1e-9);
        }),
      );
    },
  );
});
