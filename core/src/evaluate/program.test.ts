import * as fc from 'fast-check';
import { mat4 } from 'gl-matrix';
import { describe, expect, test } from 'vitest';
import { smoothKey } from '../curve/key.ts';
import { emptyShot, type Shot } from '../document/shot.ts';
import { addMember, changeChannels, newMember, setKeys } from '../edit/index.ts';
import { anglesToQuaternion } from '../pose/angles.ts';
import { rotationOrders } from '../pose/rotation-order.ts';
import { Table } from '../table/table.ts';
import { castWithRigs, shot, time } from '../testing/arbitraries.ts';
import { randomEdits } from '../testing/edits.ts';
import type { Frame } from './frame.ts';
import { posedAt } from './posed.ts';
import { frameOf, Program } from './program.ts';
import { deformPoints, isDeformed, shapeMatrix } from './shape.ts';

const withBox = (s: Shot, id: string, parent: string | null, values: Record<string, number>) =>
  addMember.apply(s, { member: newMember(s, { kind: 'box', id, parent, values }) });

const worldOf = (s: Shot, id: string, at = 1) => {
  const frame = frameOf(s, at);
  const slot = frame.layout.slotOf.get(id)!;
  return [...frame.world.slice(slot * 16, slot * 16 + 16)];
};

/** What deformers make of a point of each member, and its matrix with those that keep straight lines straight. */
const shapesOf = (frame: Frame) =>
  frame.layout.ids.map((_, slot) => {
    const point = Float64Array.of(0.3, 0.7, -0.2);
    const matrix = new Float64Array(16);
    shapeMatrix(frame, slot, matrix);
    if (isDeformed(frame, slot)) deformPoints(frame, slot, point);
    return [...point, ...matrix];
  });

describe('a frame', () => {
  test('places a member by move · pivot · turn · size · pivot⁻¹, within its parent', () => {
    let s = emptyShot('s1', 'Two boxes');
    const a = { 'move.x': 1, 'move.y': 2, 'turn.y': 0.7, 'size.x': 2, 'pivot.x': 0.5 };
    const b = { 'move.z': -3, 'turn.x': 0.2, 'turn.z': -1.3, 'size.y': 0.5, 'pivot.y': 1, 'pivot.z': 0.25 };
    s = withBox(s, 'a', null, a);
    s = withBox(s, 'b', 'a', b);
    const matrix = (v: Record<string, number>) => {
      const get = (g: string, zero: number) =>
        ['x', 'y', 'z'].map((c) => v[`${g}.${c}`] ?? zero) as [number, number, number];
      const m = new Float64Array(16) as unknown as mat4;
      const pivot = get('pivot', 0);
      mat4.fromTranslation(m, get('move', 0));
      mat4.translate(m, m, pivot);
      const turned = mat4.fromQuat(new Float64Array(16) as unknown as mat4, [
        ...anglesToQuaternion(get('turn', 0), 'zxy'),
      ]);
      mat4.multiply(m, m, turned);
      mat4.scale(m, m, get('size', 1));
      mat4.translate(m, m, [-pivot[0], -pivot[1], -pivot[2]]);
      return m;
    };
    const expected = mat4.multiply(new Float64Array(16) as unknown as mat4, matrix(a), matrix(b));
    worldOf(s, 'b').forEach((v, i) => {
      expect(v).toBeCloseTo(expected[i], 12);
    });
  });

  test.each(rotationOrders)('turns by %s as the same angles do as an orientation', (order) => {
    const s = withBox(emptyShot('s1', 'Turned'), 'a', null, { 'turn.x': 0.4, 'turn.y': -1.1, 'turn.z': 2.3 });
    const byAngles = { ...s, members: s.members.with('a', { ...s.members.at('a'), order }) };
    const orientation = anglesToQuaternion([0.4, -1.1, 2.3], order);
    const byOrientation = {
      ...s,
      members: s.members.with('a', { ...s.members.at('a'), rotation: 'orientation' as const, orientation }),
    };
    worldOf(byAngles, 'a').forEach((v, i) => {
      expect(v).toBeCloseTo(worldOf(byOrientation, 'a')[i], 12);
    });
  });

  test('does not depend on the frames evaluated before it', () => {
    fc.assert(
      fc.property(shot, fc.array(time, { minLength: 1 }), (s, times) => {
        const program = new Program(s);
        const frame = program.createFrame();
        for (const t of times) {
          program.evaluate(t, frame);
          expect(frame.world).toEqual(afresh(s, t).world);
        }
      }),
    );
  });

  function afresh(s: Shot, at: number) {
    const program = new Program(s);
    const frame = program.createFrame();
    program.evaluate(at, frame);
    return frame;
  }

  test('after any edits equals that of a program compiled afresh', () => {
    fc.assert(
      fc.property(castWithRigs, randomEdits, time, (start, edits, time) => {
        const program = new Program(start);
        let frame = program.createFrame();
        let current = start;
        for (const edit of edits) {
          current = edit(current);
          program.update(current);
          if (frame.layout !== program.layout) frame = program.createFrame();
          program.evaluate(time, frame);
          // As it moves, whatever is loose at that very frame.
          const fresh = afresh(current, time);
          expect(frame.layout.ids).toEqual(fresh.layout.ids);
          // Tracks that have just changed are read there and then, and are what their curves say, to what those may be off.
          fresh.values.forEach((v, i) => {
            if (Math.abs(frame.values[i] - v) > 2e-3) expect([i, frame.values[i]]).toEqual([i, v]);
          });
          program.settle();
          program.evaluate(time, frame);
          expect(frame.values).toEqual(fresh.values);
          expect(frame.orientations).toEqual(fresh.orientations);
          expect(frame.world).toEqual(fresh.world);
          expect(shapesOf(frame)).toEqual(shapesOf(fresh));
        }
      }),
      { numRuns: 300 },
    );
  });

  test('shows a loose value in place of the curve on its own frame, until it is keyed', () => {
    let s = withBox(emptyShot('s1', 'Loose'), 'a', null, {});
    s = {
      ...s,
      curves: Table.of({
        'a.move.y': { type: 'number', keys: [smoothKey(1, 0), smoothKey(9, 8)], before: 'hold', after: 'hold' },
      }),
    };
    s = changeChannels.apply(s, { frame: 5, values: { 'a.move.y': 3 }, autoKey: 'off' });
    expect([1, 5, 9].map((f) => frameOf(s, f).value('a', 'move.y'))).toEqual([0, 3, 8]);
    // Who looks at the motion and does not work at a frame sees the curve alone.
    const program = new Program(s);
    const frame = program.createFrame();
    program.evaluate(5, frame);
    expect(frame.value('a', 'move.y')).toBe(4);
    // One program goes from frame to frame as somebody works.
    const seen = [4, 5, 6, 5].map((f) => {
      program.update(posedAt(s, f));
      program.evaluate(f, frame);
      return frame.value('a', 'move.y');
    });
    expect([seen[1], seen[3]]).toEqual([3, 3]);
    expect(seen[0]! + seen[2]!).toBeCloseTo(8, 9);
    s = setKeys.apply(s, { frame: 5, paths: ['a.move.y'] });
    expect([1, 5, 9].map((f) => frameOf(s, f).value('a', 'move.y'))).toEqual([0, 3, 8]);
  });

  test('hides what hangs on something hidden', () => {
    let s = withBox(emptyShot('s1', 'Hidden'), 'a', null, { visible: 0 });
    s = withBox(s, 'b', 'a', {});
    const frame = frameOf(s, 1);
    expect(frame.isVisible(frame.layout.slotOf.get('b')!)).toBe(false);
  });

  test('of another layout is refused rather than written past its end', () => {
    const s = withBox(emptyShot('s1', 'One'), 'a', null, {});
    const program = new Program(s);
    const frame = program.createFrame();
    program.update(withBox(s, 'b', null, {}));
    expect(() => program.evaluate(1, frame)).toThrow(/another layout/);
  });
});
