import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptyShot, type Shot } from '../../document/shot.ts';
import { frameOf } from '../../evaluate/program.ts';
import { rotationOrders } from '../../pose/rotation-order.ts';
import { changeChannels } from './change.ts';
import { addMember, newMember } from './members.ts';
import { inOwnSpace, inWorld, jointBetween, pivotPoints, setPivots } from './pivot.ts';

/** A box that is turned and sized, under a group that is too. */
function turned(order: (typeof rotationOrders)[number], rotation: 'angles' | 'orientation'): Shot {
  let shot = emptyShot('s', 'S');
  const group = newMember(shot, { kind: 'group', id: 'g', values: { 'move.x': 1, 'turn.y': 0.7, 'size.x': 1.5 } });
  shot = addMember.apply(shot, { member: group });
  const values = { 'move.x': 0.4, 'move.y': 0.2, 'turn.x': 0.3, 'turn.z': -0.9, 'size.y': 2, 'pivot.y': 0.25 };
  const box = { ...newMember(shot, { kind: 'box', id: 'b', parent: 'g', values }), order, rotation };
  const orientation = [0.1, 0.4, -0.2, 0.9] as const;
  shot = addMember.apply(shot, { member: rotation === 'orientation' ? { ...box, orientation } : box });
  return shot;
}
const matrix = (shot: Shot, frame = 1) => {
  const now = frameOf(shot, frame);
  const at = now.layout.slotOf.get('b')! * 16;
  return [...now.world.subarray(at, at + 16)];
};

const same = (a: readonly number[], b: readonly number[]) => {
  for (const [i, v] of a.entries()) expect(Math.abs(v - b[i])).toBeLessThan(1e-9);
};

describe('a pivot that is set', () => {
  it('leaves the thing where it is to a billionth of a metre, and turns it about the new place from then on', () => {
    const place = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -5, max: 5, noNaN: true }))) as fc.Arbitrary<
      [number, number, number]
    >;
    fc.assert(
      fc.property(
        fc.constantFrom(...rotationOrders),
        fc.constantFrom('angles', 'orientation'),
        place,
        (order, rotation, pivot) => {
          const shot = turned(order, rotation as 'angles');
          const after = setPivots.apply(shot, { pivots: { b: pivot }, frame: 1 });
          same(matrix(after), matrix(shot));
          const was = inWorld(frameOf(after, 1), 'b', pivot);
          const spun = changeChannels.apply(after, {
            frame: 1,
            values: rotation === 'angles' ? { 'b.turn.y': 1.1, 'b.size.x': 3 } : { 'b.orientation': [0, 0, 1, 0] },
            autoKey: 'off',
          });
          same(inWorld(frameOf(spun, 1), 'b', pivot), was);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('leaves it on its way where its move is keyed, and is refused where its turn is', () => {
    let shot = turned('zxy', 'angles');
    for (const [frame, x] of [
      [1, 0],
      [40, 3],
    ])
      shot = changeChannels.apply(shot, { frame, values: { 'b.move.x': x, 'b.move.y': x / 2 }, autoKey: 'every' });
    const after = setPivots.apply(shot, { pivots: { b: [0.3, -1, 0.2] }, frame: 7 });
    for (const f of [1, 13, 27, 40]) same(matrix(after, f), matrix(shot, f));
    const turning = changeChannels.apply(shot, { frame: 1, values: { 'b.turn.x': 1 }, autoKey: 'every' });
    expect(() => setPivots.apply(turning, { pivots: { b: [0, 0, 0] }, frame: 1 })).toThrow(
      'with another pivot it would move',
    );
    expect(() => setPivots.apply(shot, { pivots: { b: [0, Number.NaN, 0] }, frame: 1 })).toThrow('not a number');
  });
});

describe('places for a pivot', () => {
  it('are the corners, edges, faces and the middle of a box', () => {
    const shot = turned('zxy', 'angles');
    const points = pivotPoints(shot, 'b');
    expect(points).toHaveLength(27);
    expect(points).toContainEqual([0, 0.25, 0]);
    expect(points).toContainEqual([-0.25, 0, 0.25]);
  });

  it('are where two things meet: in what they share, or half way between', () => {
    let shot = emptyShot('s', 'S');
    const put = (id: string, x: number, y: number) => {
      shot = addMember.apply(shot, {
        member: newMember(shot, { kind: 'box', id, values: { 'move.x': x, 'move.y': y } }),
      });
    };
    put('a', 0, 0);
    put('b', 0.5, 0.25);
    put('c', 2, 0);
    const frame = frameOf(shot, 1);
    expect(jointBetween(shot, frame, 'a', 'b')).toEqual([0.25, 0.375, 0]);
    expect(jointBetween(shot, frame, 'a', 'c')).toEqual([1, 0.25, 0]);
    expect(inOwnSpace(frame, 'b', [0.5, 0.25, 0])).toEqual([0, 0, 0]);
  });
});
