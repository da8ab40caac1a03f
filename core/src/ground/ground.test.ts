import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Shot } from '../document/index.ts';
import { addDeformer, addMember, newDeformer, newMember } from '../edit/index.ts';
import { frameOf } from '../evaluate/index.ts';
import { Table } from '../table/table.ts';
import { ball, RADIUS, shotWith, slope, stairs } from '../testing/sets.ts';
import { Ground, movingMembers } from './ground.ts';
import { wayPoint } from './way-over.ts';

const touch = (shot: Shot, id = 'ball', time = 1) => new Ground(shot).touch(frameOf(shot, time), id)!;
const place = (v: number) => fc.integer({ min: -v * 100, max: v * 100 }).map((n) => n / 100);

describe('the ground', () => {
  test('is the floor of the stage where there is nothing else', () => {
    fc.assert(
      fc.property(place(9), place(9), fc.integer({ min: -10, max: 300 }), (x, z, cm) => {
        const found = touch(shotWith(ball({ 'move.x': x, 'move.z': z, 'move.y': cm / 100 })));
        expect(found.gap).toBeCloseTo(cm / 100 - RADIUS, 9);
        expect(found.member).toBeNull();
      }),
    );
  });

  test('is the tread one stands over, on any step', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 3 }),
        fc.integer({ min: 5, max: 45 }),
        fc.integer({ min: -3, max: 8 }),
        (step, cm, up) => {
          const x = step * 0.5 + cm / 100;
          const tread = 0.8 - step * 0.2;
          const shot = shotWith(stairs, ball({ 'move.x': x, 'move.y': tread + RADIUS + up / 100 }));
          const found = touch(shot);
          expect(found.gap).toBeCloseTo(up / 100, 9);
          expect(found.member).toBe('stairs');
        },
      ),
    );
  });

  test('on a slope is measured along its normal, however the ball is turned and sized', () => {
    fc.assert(
      fc.property(place(3), fc.integer({ min: 0, max: 30 }), (turn, mm) => {
        const along = Math.hypot(8, 2);
        const [nx, ny] = [2 / along, 8 / along];
        const middle = { x: 2, y: 1 };
        const away = RADIUS + mm / 1000;
        const shot = shotWith(
          slope,
          ball({ 'move.x': middle.x + nx * away, 'move.y': middle.y + ny * away, 'turn.z': turn, 'turn.x': turn }),
        );
        const found = touch(shot);
        expect(found.gap).toBeCloseTo(mm / 1000, 9);
        expect(found.normal[0]).toBeCloseTo(nx, 9);
      }),
    );
  });

  test('may move, and may not be what one carries or is carried by', () => {
    const lift = { kind: 'box' as const, id: 'lift', name: 'Lift', shape: { width: 2, height: 0.2, depth: 2 } };
    const hat = {
      kind: 'box' as const,
      id: 'hat',
      name: 'Hat',
      parent: 'ball',
      shape: { width: 1, height: 0.1, depth: 1 },
    };
    const key = (frame: number, value: number) => ({
      frame,
      value,
      in: { kind: 'linear' as const },
      out: { kind: 'linear' as const },
      joined: false,
      role: 'key' as const,
    });
    const still = shotWith(lift, ball({ 'move.y': 1 }), hat);
    const shot: Shot = {
      ...still,
      curves: Table.of({
        'lift.move.y': { type: 'number', keys: [key(1, 0), key(11, 0.5)], before: 'hold', after: 'hold' },
      }),
    };
    expect(touch(shot, 'ball', 1).gap).toBeCloseTo(0.6, 9);
    expect(touch(shot, 'ball', 11).gap).toBeCloseTo(0.1, 9);
    const ground = new Ground(shot);
    // Asked for one frame after another it goes along.
    const found = [1, 6, 11].map((time) => ground.touch(frameOf(shot, time), 'ball')!.gap);
    [0.6, 0.35, 0.1].forEach((gap, i) => {
      expect(found[i]).toBeCloseTo(gap, 9);
    });
    expect(touch(shot, 'hat', 1).member).not.toBe('ball');
    expect([...movingMembers(shot)]).toEqual(['lift']);
  });

  test('is met by a bent form at its deepest point', () => {
    let shot = shotWith({
      kind: 'cylinder',
      id: 'post',
      name: 'Post',
      shape: { radius: 0.1, height: 1 },
      values: { 'move.y': 0.5 },
    });
    const deformer = newDeformer(shot.members.at('post'), 'bend');
    shot = addDeformer.apply(shot, { id: 'post', deformer });
    // Bent by half a turn its top hangs down as deep as its foot stands; by more it comes deeper.
    const bent = (angle: number): Shot => ({
      ...shot,
      members: Table.of({
        post: { ...shot.members.at('post'), values: { 'move.y': 0.5, [`deform.${deformer.id}.angle`]: angle } },
      }),
    });
    expect(touch(bent(0.3), 'post').gap).toBeCloseTo(0.5, 2);
    expect(touch(bent(Math.PI * 1.3), 'post').gap).toBeLessThan(0.3);
  });

  test('is nothing for what has no body', () => {
    const shot = addMember.apply(shotWith(), { member: newMember(shotWith(), { kind: 'group', id: 'g' }) });
    expect(new Ground(shot).touch(frameOf(shot, 1), 'g')).toBeNull();
  });

  test('says where a form would come to lie, on the highest ground below', () => {
    const shot = shotWith(stairs, ball({ 'move.y': 3 }));
    const ground = new Ground(shot);
    const frame = frameOf(shot, 1);
    expect(ground.landing(frame, 'ball', 0.25, 0, 3)).toMatchObject({ member: 'stairs' });
    expect(ground.landing(frame, 'ball', 0.25, 0, 3).y).toBeCloseTo(0.8 + RADIUS, 9);
    expect(ground.landing(frame, 'ball', 1.75, 0, 3).y).toBeCloseTo(0.2 + RADIUS, 9);
    expect(ground.landing(frame, 'ball', 5, 0, 3).y).toBeCloseTo(RADIUS, 9);
    // What is above is not fallen on.
    expect(ground.landing(frame, 'ball', 0.25, 0, 0.5).y).toBeCloseTo(RADIUS, 9);
  });
});

describe('a point of a way', () => {
  test('stands on the step before it, and under a roof', () => {
    const shot = shotWith(stairs);
    const at = (x: number, under: number) => wayPoint(shot, x, 0, under, 1)[1];
    expect(at(-5, 0)).toBe(0);
    // The lowest tread is a step up from the floor, the highest is a roof from down there.
    expect(at(1.75, 0)).toBeCloseTo(0.2, 9);
    expect(at(0.25, 0)).toBe(0);
    expect(at(0.25, 0.6)).toBeCloseTo(0.8, 9);
  });
});
