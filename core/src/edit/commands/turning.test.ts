import { describe, expect, test } from 'vitest';
import type { NumberCurve } from '../../curve/index.ts';
import { emptyShot, type Quaternion, type Shot } from '../../document/index.ts';
import { frameOf, Program } from '../../evaluate/program.ts';
import { anglesToQuaternion } from '../../pose/angles.ts';
import { quaternionAbout, quaternionBetween, quaternionMultiply } from '../../pose/quaternion.ts';
import { rotationOrders } from '../../pose/rotation-order.ts';
import { changeChannels } from './change.ts';
import { findFlips, unrollTurns } from './flips.ts';
import { addMember, newMember } from './members.ts';
import { setRotation, turnAt } from './rotation.ts';
import { type Point, placePivots, turnTogether } from './turning.ts';

const DEGREE = Math.PI / 180;
const angleBetween = (a: Quaternion, b: Quaternion) => {
  const q = quaternionBetween(a, b);
  return 2 * Math.atan2(Math.hypot(q[0], q[1], q[2]), Math.abs(q[3]));
};
const withBox = (s: Shot, id: string, values: Record<string, number> = {}, parent: string | null = null) =>
  addMember.apply(s, { member: newMember(s, { kind: 'box', id, values, parent }) });
const key = (s: Shot, frame: number, values: Record<string, number>) =>
  changeChannels.apply(s, { frame, values, autoKey: 'every' });
const matrix = (s: Shot, id: string, frame: number) => {
  const f = frameOf(s, frame);
  const slot = f.layout.slotOf.get(id)!;
  return [...f.world.slice(slot * 16, slot * 16 + 16)];
};

describe('changing how a member turns', () => {
  const tumbling = (rotation: 'angles' | 'orientation') => {
    let s = withBox(emptyShot('s1', 'Tumble'), 'b');
    for (const [frame, x, y, z] of [
      [1, 0, 0, 0],
      [9, 70, 20, -10],
      [17, 160, -35, 90],
      [30, 500, 0, 45],
    ]) {
      s = key(s, frame, { 'b.turn.x': x * DEGREE, 'b.turn.y': y * DEGREE, 'b.turn.z': z * DEGREE });
    }
    return rotation === 'angles' ? s : setRotation.apply(s, { id: 'b', rotation, order: 'zxy' });
  };

  test('never changes the motion: every order and orientation, there and back', () => {
    const s = tumbling('angles');
    for (const order of rotationOrders) {
      const there = setRotation.apply(s, { id: 'b', rotation: 'angles', order });
      const back = setRotation.apply(there, { id: 'b', rotation: 'orientation', order });
      for (let f = 1; f <= 30; f++) {
        expect(angleBetween(turnAt(s, 'b', f), turnAt(there, 'b', f)) / DEGREE).toBeLessThan(0.03);
        expect(angleBetween(turnAt(s, 'b', f), turnAt(back, 'b', f)) / DEGREE).toBeLessThan(0.06);
      }
    }
  });

  test('an orientation follows between frames too, forty degrees a frame', () => {
    const [s, there] = [tumbling('angles'), tumbling('orientation')];
    for (let f = 1; f <= 30; f += 0.25) {
      expect(angleBetween(turnAt(s, 'b', f), turnAt(there, 'b', f)) / DEGREE).toBeLessThan(0.5);
    }
  });

  test('keeps the keys there are, and what is added are breakdowns on whole frames', () => {
    const there = tumbling('orientation').curves.at('b.orientation');
    expect(there.keys.filter((k) => k.role === 'key').map((k) => k.frame)).toEqual([1, 9, 17, 30]);
    for (const k of there.keys) expect(Number.isInteger(k.frame)).toBe(true);
  });

  test('needs no breakdown where both ways take the same path', () => {
    let s = key(withBox(emptyShot('s1', 'Spin'), 'b'), 1, { 'b.turn.y': 0 });
    s = key(s, 9, { 'b.turn.y': 90 * DEGREE });
    const there = setRotation.apply(s, { id: 'b', rotation: 'orientation', order: 'zxy' });
    expect(there.curves.at('b.orientation').keys.map((k) => k.frame)).toEqual([1, 9]);
  });

  test('leaves one who is not animated where it was', () => {
    const s = withBox(emptyShot('s1', 'Still'), 'b', { 'turn.x': 1, 'turn.y': 0.4 });
    const there = setRotation.apply(s, { id: 'b', rotation: 'orientation', order: 'xyz' });
    expect(there.curves.toJSON()).toEqual({});
    expect(angleBetween(turnAt(s, 'b', 1), turnAt(there, 'b', 1))).toBeLessThan(1e-9);
  });
});

describe('turning about a shared pivot', () => {
  /** A board of 4 × 4 blocks, a tenth of a metre apart. */
  const board = () => {
    let s = emptyShot('s1', 'Board');
    for (let i = 0; i < 16; i++) {
      s = withBox(s, `k${i}`, { 'move.x': (i % 4) * 0.1 - 0.15, 'move.y': Math.floor(i / 4) * 0.1 + 0.4 });
    }
    return { ...s, range: { first: 1, last: 1000 }, play: { first: 1, last: 1000 } };
  };
  type Place = { at: Point; q: Quaternion };
  const rotate = (q: Quaternion, [x, y, z]: Point): Point => {
    const [a, b, c] = quaternionMultiply(quaternionMultiply(q, [x, y, z, 0]), [-q[0], -q[1], -q[2], q[3]]);
    return [a, b, c];
  };

  test('sixty random quarter turns of rows, columns and quarters are exact, and nobody leaves the circle on the way', () => {
    let seed = 7;
    const dice = (n: number) => {
      seed = (seed * 1103515245 + 12345) % 2147483648;
      return Math.floor((seed / 2147483648) * n);
    };
    let s: Shot = board();
    const places: Place[] = Array.from({ length: 16 }, (_, i) => ({
      at: [(i % 4) * 0.1 - 0.15, Math.floor(i / 4) * 0.1 + 0.4, 0],
      q: [0, 0, 0, 1],
    }));
    const expected: { frame: number; places: Place[] }[] = [];
    const circles: {
      id: string;
      from: number;
      to: number;
      pivot: Point;
      axis: Point;
      radius: number;
      along: number;
    }[] = [];
    for (let turn = 0; turn < 60; turn++) {
      const [from, to] = [1 + turn * 8, 9 + turn * 8];
      const axis: Point = (
        [
          [1, 0, 0],
          [0, 1, 0],
          [0, 0, 1],
        ] as const
      )[dice(3)];
      const angle = (dice(2) === 0 ? 1 : -1) * 90 * DEGREE;
      const [kind, n] = [dice(3), dice(4)];
      // Groups by where the blocks were at first: the same block belongs to another group at the next turn.
      const group = places
        .map((_, i) => i)
        .filter((i) => {
          const [column, row] = [i % 4, Math.floor(i / 4)];
          if (kind === 0) return row === n;
          if (kind === 1) return column === n;
          return Math.floor(column / 2) === n % 2 && Math.floor(row / 2) === Math.floor(n / 2);
        });
      const middle = [0, 1, 2].map((c) => group.reduce((sum, i) => sum + places[i].at[c], 0) / group.length);
      const pivot: Point = [middle[0], middle[1], middle[2]];
      s = turnTogether.apply(s, { ids: group.map((i) => `k${i}`), pivot, axis, angle, from, to });
      const by = quaternionAbout(axis, angle);
      for (const i of group) {
        const arm = places[i].at.map((v, c) => v - pivot[c]) as unknown as Point;
        const along = arm[0] * axis[0] + arm[1] * axis[1] + arm[2] * axis[2];
        circles.push({
          id: `k${i}`,
          from,
          to,
          pivot,
          axis,
          radius: Math.sqrt(Math.max(0, arm.reduce((t, v) => t + v * v, 0) - along * along)),
          along,
        });
        const swung = rotate(by, arm);
        places[i] = {
          at: [swung[0] + pivot[0], swung[1] + pivot[1], swung[2] + pivot[2]],
          q: quaternionMultiply(by, places[i].q),
        };
      }
      expected.push({ frame: to, places: [...places] });
    }
    const program = new Program(s);
    const frame = program.createFrame();
    const standing = (id: string): { at: Point; m: number[] } => {
      const slot = frame.layout.slotOf.get(id)!;
      const m = [...frame.world.slice(slot * 16, slot * 16 + 16)];
      return { at: [m[12], m[13], m[14]], m };
    };
    for (const moment of expected) {
      program.evaluate(moment.frame, frame);
      moment.places.forEach((place, i) => {
        const { at, m } = standing(`k${i}`);
        expect(Math.hypot(...at.map((v, c) => v - place.at[c]))).toBeLessThan(1e-5);
        for (const [column, axis] of (
          [
            [1, 0, 0],
            [0, 1, 0],
            [0, 0, 1],
          ] as Point[]
        ).entries()) {
          const turned = rotate(place.q, axis);
          const off = Math.hypot(...turned.map((v, c) => v - m[column * 4 + c]));
          expect(off / DEGREE).toBeLessThan(0.001);
        }
      });
    }
    for (const { id, from, to, pivot, axis, radius, along } of circles) {
      for (let f = from; f <= to; f += 0.25) {
        program.evaluate(f, frame);
        const arm = standing(id).at.map((v, c) => v - pivot[c]);
        const on = arm[0] * axis[0] + arm[1] * axis[1] + arm[2] * axis[2];
        const off = Math.sqrt(Math.max(0, arm.reduce((t, v) => t + v * v, 0) - on * on));
        expect(Math.abs(off - radius)).toBeLessThan(1e-5);
        expect(Math.abs(on - along)).toBeLessThan(1e-5);
      }
    }
  });

  test('goes a whole turn and more, evenly about one axis', () => {
    const s = turnTogether.apply(board(), {
      ids: ['k0'],
      pivot: [0, 0.4, 0],
      axis: [0, 0, 1],
      angle: 540 * DEGREE,
      from: 1,
      to: 41,
    });
    expect(matrix(s, 'k0', 41)[12]).toBeCloseTo(0.15, 9);
    for (let f = 1; f <= 41; f++)
      expect(Math.hypot(matrix(s, 'k0', f)[12], matrix(s, 'k0', f)[13] - 0.4)).toBeCloseTo(0.15, 9);
  });

  test('turns about an axis of the world whatever the parent does', () => {
    let s = withBox(emptyShot('s1', 'Tilted'), 'table', {
      'turn.z': 0.5,
      'move.x': 1,
      'size.x': 2,
      'size.y': 2,
      'size.z': 2,
    });
    s = withBox(s, 'cup', { 'move.x': 0.3 }, 'table');
    const before = matrix(s, 'cup', 1);
    const next = turnTogether.apply(s, {
      ids: ['cup'],
      pivot: [0, 1, 0],
      axis: [0, 1, 0],
      angle: 90 * DEGREE,
      from: 1,
      to: 9,
    });
    expect(matrix(next, 'cup', 1).map((v) => v.toFixed(9))).toEqual(before.map((v) => v.toFixed(9)));
    const after = matrix(next, 'cup', 9);
    expect([after[12], after[13], after[14]]).toEqual([
      expect.closeTo(before[14], 9),
      expect.closeTo(before[13], 9),
      expect.closeTo(-before[12], 9),
    ]);
  });

  test('what was moving before the turn gets there as it did, on every frame', () => {
    let s = key(withBox(emptyShot('s1', 'On the way'), 'b'), 1, { 'b.move.x': 0 });
    s = key(s, 11, { 'b.move.x': 2 });
    const next = turnTogether.apply(s, { ids: ['b'], pivot: [2, 1, 0], axis: [0, 0, 1], angle: 1, from: 11, to: 19 });
    for (let f = 1; f <= 11; f++) expect(matrix(next, 'b', f)[12]).toBeCloseTo(matrix(s, 'b', f)[12], 9);
  });

  test('what has next to no size keeps its pivot: to it every point is endlessly far away', () => {
    const s = withBox(emptyShot('s1', 'A speck'), 'b', { 'size.x': 1e-12, 'size.y': 1e-12, 'size.z': 1e-12 });
    const next = turnTogether.apply(s, { ids: ['b'], pivot: [3, 1, 0], axis: [0, 1, 0], angle: 1, from: 1, to: 9 });
    expect(next.curves.keys()).toEqual(['b.orientation']);
    expect(placePivots.apply(s, { ids: ['b'], pivot: [3, 1, 0], frame: 1 }).curves.toJSON()).toEqual({});
  });

  test('a pivot that is moved moves nothing', () => {
    const s = withBox(emptyShot('s1', 'Pivot'), 'b', { 'turn.y': 1, 'move.x': 3, 'size.y': 2 });
    const next = placePivots.apply(s, { ids: ['b'], pivot: [1, 2, 3], frame: 5 });
    for (const f of [1, 4, 5, 20]) {
      matrix(next, 'b', f).forEach((v, i) => {
        expect(v).toBeCloseTo(matrix(s, 'b', f)[i], 9);
      });
    }
  });
});

describe('flips', () => {
  const turns = (...keys: [number, number, number, number][]) =>
    keys.reduce(
      (s, [frame, x, y, z]) =>
        key(s, frame, { 'b.turn.x': x * DEGREE, 'b.turn.y': y * DEGREE, 'b.turn.z': z * DEGREE }),
      withBox(emptyShot('s1', 'Flips'), 'b'),
    );
  const degrees = (s: Shot, c: string) =>
    (s.curves.get(`b.turn.${c}`) as NumberCurve).keys.map((k) => Math.round(k.value / DEGREE));

  test('an angle that jumps by nearly a whole turn is found and unrolled, with all that follows', () => {
    const s = turns([1, 0, 170, 0], [5, 0, -178, 0], [9, 0, -150, 0]);
    expect(findFlips(s, ['b'])).toMatchObject([{ member: 'b', from: 1, to: 5 }]);
    const next = unrollTurns.apply(s, { ids: ['b'] });
    expect(degrees(next, 'y')).toEqual([170, 182, 210]);
    expect(findFlips(next, ['b'])).toEqual([]);
  });

  test('a triple that says nearly the same with three other angles is a flip too', () => {
    const s = turns([1, 10, 80, 5], [5, 192, 96, 187]);
    const order = s.members.at('b').order;
    const same = anglesToQuaternion([192 * DEGREE, 96 * DEGREE, 187 * DEGREE], order);
    const next = unrollTurns.apply(s, { ids: ['b'] });
    expect(angleBetween(turnAt(next, 'b', 5), same) / DEGREE).toBeLessThan(1e-6);
    if (findFlips(s, ['b']).length > 0) expect(findFlips(next, ['b'])).toEqual([]);
  });

  test('a fast roll among turns as fast is no flip, and a jump among slow ones is', () => {
    const roll = turns([1, 0, 0, 0], [11, 0, 0, -250], [25, 0, 0, -608], [39, 0, 0, -950]);
    expect(findFlips(roll, ['b'])).toEqual([]);
    const jump = turns([1, 0, 0, 0], [11, 0, 0, -9], [25, 0, 0, -367], [39, 0, 0, -380]);
    expect(findFlips(jump, ['b'])).toMatchObject([{ from: 11, to: 25 }]);
  });

  test('a spin somebody meant is no flip: a whole turn, or half of one', () => {
    expect(findFlips(turns([1, 0, 0, 0], [25, 0, 360, 0], [49, 0, 720, 0]), ['b'])).toEqual([]);
    expect(findFlips(turns([1, 0, 0, 0], [25, 0, 180, 0]), ['b'])).toEqual([]);
    const s = turns([1, 0, 0, 0], [25, 0, 360, 0]);
    expect(unrollTurns.apply(s, { ids: ['b'] })).toBe(s);
  });
});
