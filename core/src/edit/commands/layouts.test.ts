import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { emptyShot, type Shot } from '../../document/shot.ts';
import { frameOf } from '../../evaluate/program.ts';
import { rotationOrders } from '../../pose/rotation-order.ts';
import { changeChannels } from './change.ts';
import { alongWay, gridOf, mirrorCopy, ringOf, scattered, strewn } from './layouts.ts';
import { addMember, arrayMembers, newMember } from './members.ts';

const start = [0.4, 0.2, 1.5] as const;
function withBox(order: (typeof rotationOrders)[number] = 'zxy', rotation: 'angles' | 'orientation' = 'angles'): Shot {
  const values = {
    'move.x': start[0],
    'move.y': start[1],
    'move.z': start[2],
    'turn.x': 0.3,
    'turn.y': 0.5,
    'turn.z': -0.2,
  };
  const shot = emptyShot('s', 'S');
  return addMember.apply(shot, { member: { ...newMember(shot, { kind: 'box', id: 'b', values }), order, rotation } });
}

/** Where the copies of the box are, and which way their +Z looks, the original first. */
function standing(shot: Shot) {
  const frame = frameOf(shot, 1);
  return [...shot.members.keys()].map((id) => {
    const at = frame.layout.slotOf.get(id)! * 16;
    const w = frame.world;
    return { place: [w[at + 12], w[at + 13], w[at + 14]], ahead: [w[at + 8], w[at + 9], w[at + 10]] };
  });
}

const close = (a: readonly number[], b: readonly number[]) => {
  for (const [i, v] of a.entries()) expect(v).toBeCloseTo(b[i], 9);
};

describe('copies', () => {
  test.each([...rotationOrders.map((o) => [o, 'angles'] as const), ['zxy', 'orientation'] as const])(
    'stand in a ring, all of them as far from its middle, each turned on as the ring goes (%s, %s)',
    (order, rotation) => {
      const shot = withBox(order, rotation);
      const [count, radius] = [7, 2];
      const made = arrayMembers.apply(shot, {
        ids: ['b'],
        copies: ringOf(shot, ['b'], { count, radius, turned: true }),
      });
      const all = standing(made);
      expect(all).toHaveLength(count);
      const middle = [start[0], start[1], start[2] - radius];
      all.forEach(({ place, ahead }, i) => {
        expect(Math.hypot(...place.map((v, c) => v - middle[c]))).toBeCloseTo(radius, 9);
        const angle = (i * 2 * Math.PI) / count;
        const [c, s] = [Math.cos(angle), Math.sin(angle)];
        const [x, y, z] = all[0].ahead;
        close(ahead, [c * x + s * z, y, c * z - s * x]);
      });
    },
  );

  test('that are keyed are turned with all their keys', () => {
    const keyed = changeChannels.apply(withBox(), { frame: 9, values: { 'b.turn.y': 1.2 }, autoKey: 'every' });
    const copies = ringOf(keyed, ['b'], { count: 2, radius: 1, turned: true });
    const made = arrayMembers.apply(keyed, { ids: ['b'], copies });
    const curve = made.curves.at(`${copies[0].ids.b}.turn.y`);
    expect(curve.type === 'number' && curve.keys.map((k) => k.value)).toEqual([1.2 + Math.PI]);
  });

  test.each(['x', 'z'] as const)('are mirror images across %s, with their keys, and what hangs on them', (axis) => {
    let shot = withBox();
    const child = {
      kind: 'wedge' as const,
      id: 'c',
      parent: 'b',
      values: { 'move.x': 0.7, 'turn.x': 0.2, 'turn.z': 0.9 },
    };
    shot = addMember.apply(shot, { member: newMember(shot, child) });
    shot = changeChannels.apply(shot, { frame: 1, values: { 'b.turn.y': 0.5, 'b.move.x': 0.4 }, autoKey: 'every' });
    shot = changeChannels.apply(shot, { frame: 9, values: { 'b.turn.y': 1.1, 'b.move.x': 2 }, autoKey: 'every' });
    const [copy] = mirrorCopy(shot, ['b'], axis);
    const made = arrayMembers.apply(shot, { ids: ['b'], copies: [copy] });
    const at = axis === 'x' ? 0 : 2;
    for (const time of [1, 4.3, 9]) {
      const frame = frameOf(made, time);
      const world = (id: string) => frame.world.subarray(frame.layout.slotOf.get(id)! * 16).subarray(0, 16);
      // Corners of the wedge, which is not its own image: each has one in the mirror that is just there.
      const corners = [-0.2, 0.2].flatMap((z) => [
        [-0.2, 0, z],
        [0.2, 0, z],
        [-0.2, 0.3, z],
      ]);
      const through = (m: Float64Array, p: number[]) =>
        [0, 1, 2].map((r) => m[r] * p[0] + m[4 + r] * p[1] + m[8 + r] * p[2] + m[12 + r]);
      const image = corners.map((p) => through(world('c'), p).map((v, c) => (c === at ? -v : v)));
      const there = corners.map((p) => through(world(copy.ids.c), p));
      for (const p of image)
        expect(Math.min(...there.map((q) => Math.hypot(...q.map((v, c) => v - p[c]))))).toBeLessThan(1e-9);
    }
  });

  test('stand in a grid', () => {
    const shot = withBox();
    const made = arrayMembers.apply(shot, { ids: ['b'], copies: gridOf(shot, ['b'], [2, 1, 2], [1, 0, 3]) });
    const offsets = standing(made).map(({ place }) => place.map((v, c) => Math.round(v - start[c])).join(' '));
    expect(offsets).toEqual(['0 0 0', '1 0 0', '0 0 3', '1 0 3']);
  });

  test('are strewn within reach, never nearer than wanted, the same for the same number', () => {
    const shot = withBox();
    const strewing = fc.record({
      count: fc.integer({ min: 1, max: 60 }),
      radius: fc.double({ min: 0.1, max: 20, noNaN: true }),
      apart: fc.double({ min: 0, max: 3, noNaN: true }),
      turned: fc.boolean(),
      seed: fc.integer({ min: 0, max: 1e6 }),
    });
    fc.assert(
      fc.property(strewing, (how) => {
        const copies = strewn(shot, ['b'], how);
        const places = [[0, 0, 0] as const, ...copies.map((c) => c.offset)];
        expect(copies.length).toBeLessThanOrEqual(how.count);
        for (const [i, a] of places.entries()) {
          expect(Math.hypot(a[0], a[2])).toBeLessThanOrEqual(how.radius + 1e-9);
          for (const b of places.slice(i + 1))
            expect(Math.hypot(a[0] - b[0], a[2] - b[2])).toBeGreaterThanOrEqual(how.apart);
        }
        expect(strewn(shot, ['b'], how).map((c) => [c.offset, c.turn])).toEqual(copies.map((c) => [c.offset, c.turn]));
      }),
    );
    // Where there is room for all, all are there.
    expect(strewn(shot, ['b'], { count: 40, radius: 10, apart: 0.5, turned: true, seed: 1 })).toHaveLength(40);
  });
});

describe('copies along a way', () => {
  const withWay = () => {
    let shot = addMember.apply(withBox('yxz'), {
      member: newMember(emptyShot('s', 'S'), { kind: 'group', id: 'way' }),
    });
    for (const [id, x, z] of [
      ['p1', -2, 0],
      ['p2', 0, 3],
      ['p3', 4, 3],
    ] as const)
      shot = addMember.apply(shot, {
        member: newMember(shot, { kind: 'ball', id, parent: 'way', values: { 'move.x': x, 'move.z': z } }),
      });
    return shot;
  };

  test('stand evenly from its first place to its last, and go along it', () => {
    const shot = withWay();
    const copies = alongWay(shot, ['b'], { way: 'way', count: 9, turned: true, frame: frameOf(shot, 1) });
    expect(copies).toHaveLength(9);
    const frame = frameOf(shot, 1);
    const home = frame.layout.slotOf.get('b')! * 16 + 12;
    const at = copies.map(({ offset }) => [0, 1, 2].map((c) => frame.world[home + c] + offset[c]));
    close(at[0], [-2, 0, 0]);
    close(at[8], [4, 0, 3]);
    const steps = at.slice(1).map((p, i) => Math.hypot(p[0] - at[i][0], p[2] - at[i][2]));
    expect(Math.max(...steps) / Math.min(...steps)).toBeLessThan(1.06);
    for (const [i, { turn }] of copies.entries()) {
      const [from, to] = [at[Math.max(0, i - 1)], at[Math.min(8, i + 1)]];
      const heading = Math.atan2(to[0] - from[0], to[2] - from[2]);
      expect(Math.abs(Math.sin((heading - turn) / 2))).toBeLessThan(0.3);
    }
  });

  test('are refused without one', () => {
    const shot = withBox();
    const frame = frameOf(shot, 1);
    expect(() => alongWay(shot, ['b'], { way: 'b', count: 3, turned: true, frame })).toThrow('two members or more');
  });
});

describe('copies scattered over a surface', () => {
  const hill = (): Shot => {
    const shot = withBox();
    const member = newMember(shot, {
      kind: 'ball',
      id: 'hill',
      shape: { radius: 3 },
      values: { 'move.x': 1, 'turn.z': 0.4 },
    });
    return addMember.apply(shot, { member });
  };
  const how = { over: 'hill', count: 40, apart: 0.4, steep: 60, square: true, turned: true, seed: 3 };

  test('stand on it, square to it, as far apart as wanted, and the same for the same seed', () => {
    const shot = hill();
    const frame = frameOf(shot, 1);
    const copies = scattered(shot, ['b'], { ...how, frame });
    expect(copies.length).toBe(40);
    const placed = arrayMembers.apply(shot, { ids: ['b'], copies });
    const now = frameOf(placed, 1);
    const seen = copies.map(({ ids }) => {
      const at = now.layout.slotOf.get(ids.b)! * 16;
      return { place: [...now.world.subarray(at + 12, at + 15)], up: [...now.world.subarray(at + 4, at + 7)] };
    });
    seen.forEach(({ place }, i) => {
      const out = [place[0] - 1, place[1], place[2]];
      // A ball is drawn with facets.
      expect(Math.hypot(...out) / 3).toBeGreaterThan(0.95);
      expect(Math.hypot(...out) / 3).toBeLessThan(1.001);
      // No steeper than sixty degrees, but for the facet it lies on.
      expect(out[1] / 3).toBeGreaterThan(0.44);
      for (const other of seen.slice(0, i))
        expect(Math.hypot(...place.map((v, c) => v - other.place[c]))).toBeGreaterThanOrEqual(0.4 - 1e-9);
      // What was its own up leans as the surface does: by the same turn for all that stands as it does.
      expect(Math.hypot(...copies[i].lean!)).toBeCloseTo(1, 12);
    });
    const again = scattered(shot, ['b'], { ...how, frame });
    expect(again.map((c) => c.offset)).toEqual(copies.map((c) => c.offset));
  });

  test('are as many as there is room for, and refused where there is nothing to stand on', () => {
    const shot = hill();
    const frame = frameOf(shot, 1);
    expect(scattered(shot, ['b'], { ...how, apart: 2.5, frame }).length).toBeLessThan(12);
    expect(() => scattered(shot, ['b'], { ...how, over: 'nobody', frame })).toThrow('Say over whose surface');
    expect(() => scattered(shot, ['b'], { ...how, steep: 0, frame })).toThrow('as level as that');
  });
});
