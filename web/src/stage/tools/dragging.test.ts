import {
  addMember,
  emptyShot,
  frameOf,
  lockMembers,
  newMember,
  type Quaternion,
  type Shot,
  setRotation,
} from '@varrup/core';
import * as THREE from 'three';
import { describe, expect, test } from 'vitest';
import type { ToolState } from '../../view/tool.ts';
import { Drag } from './dragging.ts';
import { handlePlace, type InHand } from './handle-place.ts';
import { snappingOf } from './snapping.ts';

const hand = (s: Shot, change: Partial<ToolState> = {}): InHand => ({
  shot: s,
  frame: frameOf(s, 1),
  picked: ['a'],
  tool: {
    tool: 'move',
    axes: 'world',
    about: 'own',
    snap: 'off',
    pivot: false,
    locks: { x: false, y: false, z: false },
    ...change,
  },
});

function stage(values: Record<string, number> = {}, parent: Record<string, number> = {}): Shot {
  let s = emptyShot('s1', 'Stage');
  s = addMember.apply(s, { member: newMember(s, { kind: 'box', id: 'p', values: parent }) });
  return addMember.apply(s, { member: newMember(s, { kind: 'box', id: 'a', parent: 'p', values }) });
}

/** An eye on +Z that looks down the axis, without perspective: a ray is a place on the picture. */
const eye = new THREE.OrthographicCamera(-5, 5, 5, -5, 0.1, 100);
eye.position.set(0, 0, 20);
eye.updateMatrixWorld();
const ray = (x: number, y: number) => new THREE.Ray(new THREE.Vector3(x, y, 20), new THREE.Vector3(0, 0, -1));

const drag = (
  s: Shot,
  grip: ConstructorParameters<typeof Drag>[0],
  change: Partial<ToolState>,
  from: [number, number],
  to: [number, number],
) => new Drag(grip, hand(s, change), eye, ray(...from)).to(ray(...to), false);

describe('a drag that goes to something', () => {
  /** A box on the ground at the left, half a metre wide, and the one in the hand. */
  function twoBoxes(): Shot {
    let s = emptyShot('s1', 'Stage');
    s = addMember.apply(s, { member: newMember(s, { kind: 'box', id: 'o', values: { 'move.x': -1 } }) });
    return addMember.apply(s, {
      member: newMember(s, { kind: 'box', id: 'a', values: { 'move.x': 0.53, 'move.y': 0.2 } }),
    });
  }
  const snapped = (
    grip: ConstructorParameters<typeof Drag>[0],
    snap: 'grid' | 'things',
    to: [number, number],
    free = false,
    fine = false,
  ) => {
    const moment = hand(twoBoxes(), { snap, tool: grip.tool });
    const snapping = snappingOf(snap, moment, eye, new THREE.Vector3());
    return new Drag(grip, moment, eye, ray(0, 0), snapping).to(ray(...to), fine, free);
  };

  test('to the grid ends on its steps, along an axis and freely; Ctrl and Shift hold it off', () => {
    expect(snapped({ tool: 'move', axis: 'x' }, 'grid', [0.23, 0])['a.move.x']).toBeCloseTo(0.8, 9);
    const freely = snapped({ tool: 'move', axis: 'all' }, 'grid', [0.23, 0.17]);
    expect(freely['a.move.x']).toBeCloseTo(0.8, 9);
    expect(freely['a.move.y']).toBeCloseTo(0.4, 9);
    expect(snapped({ tool: 'move', axis: 'x' }, 'grid', [0.23, 0], true)['a.move.x']).toBeCloseTo(0.76, 9);
    expect(snapped({ tool: 'move', axis: 'x' }, 'grid', [0.23, 0], false, true)['a.move.x']).toBeCloseTo(0.553, 9);
  });

  test('to things stands on the ground and lies against the other, to a hair', () => {
    expect(snapped({ tool: 'move', axis: 'y' }, 'things', [0, -0.13])['a.move.y']).toBeCloseTo(0, 9);
    // Its left side comes to the right side of the other: both are half a metre wide.
    expect(snapped({ tool: 'move', axis: 'x' }, 'things', [-0.9, 0])['a.move.x']).toBeCloseTo(-0.5, 5);
    // Far from anything it goes where the hand goes.
    expect(snapped({ tool: 'move', axis: 'x' }, 'things', [3.3, 0])['a.move.x']).toBeCloseTo(3.83, 9);
  });

  test('a size goes to where its face lies against the other; Ctrl holds it off', () => {
    // Its left face, a quarter of a metre from its pivot at 0.53, comes to the other's right one at -0.75.
    expect(snapped({ tool: 'size', axis: 'x' }, 'things', [-2.17, 0])['a.size.x']).toBeCloseTo(5.12, 9);
    expect(snapped({ tool: 'size', axis: 'x' }, 'things', [-2.17, 0], true)['a.size.x']).toBeCloseTo(
      1 + 2.17 / 0.53,
      4,
    );
    // Down onto the floor by its middle would take a pivot above; at its foot the top alone goes.
    const up = snapped({ tool: 'size', axis: 'y' }, 'things', [0, 0.31]);
    expect(Object.keys(up)).toEqual(['a.size.y']);
  });

  test('turns go by fifteen degrees, sizes by tenths', () => {
    const turned = snapped({ tool: 'turn', axis: 'z' }, 'grid', [0.4, 0.1]);
    const step = Math.PI / 12;
    for (const value of Object.values(turned))
      expect(Math.abs((value as number) / step - Math.round((value as number) / step))).toBeLessThan(1e-9);
    const sized = snapped({ tool: 'size', axis: 'all' }, 'grid', [0.13, 0.11]);
    for (const value of Object.values(sized))
      expect((value as number) * 10).toBeCloseTo(Math.round((value as number) * 10), 6);
  });
});

describe('a drag of a move handle', () => {
  test('along an axis changes that channel only', () => {
    expect(drag(stage(), { tool: 'move', axis: 'x' }, {}, [1, 0], [1.5, 0.7])).toEqual({ 'a.move.x': 0.5 });
  });

  test('of the middle moves in the plane one sees, but not along locked axes', () => {
    expect(drag(stage(), { tool: 'move', axis: 'all' }, {}, [0, 0], [0.5, 0.25])).toEqual({
      'a.move.x': 0.5,
      'a.move.y': 0.25,
    });
    const locked = { locks: { x: true, y: false, z: false } };
    expect(drag(stage(), { tool: 'move', axis: 'all' }, locked, [0, 0], [0.5, 0.25])).toEqual({ 'a.move.y': 0.25 });
  });

  test('within a turned and sized parent still goes where the hand goes', () => {
    const s = stage({}, { 'turn.z': Math.PI / 2, 'size.x': 2, 'size.y': 2, 'size.z': 2 });
    const values = drag(s, { tool: 'move', axis: 'x' }, {}, [0, 0], [1, 0]);
    expect(values['a.move.y']).toBeCloseTo(-0.5, 5);
    const along = drag(s, { tool: 'move', axis: 'y' }, { axes: 'parent' }, [0, 0], [-1, 0]);
    expect(along).toEqual({ 'a.move.y': 0.5 });
  });

  test('with Shift goes a tenth of the way', () => {
    const s = stage();
    const held = new Drag({ tool: 'move', axis: 'x' }, hand(s), eye, ray(0, 0));
    expect(held.to(ray(1, 0), true)).toEqual({ 'a.move.x': 0.1 });
  });

  test('carries everybody picked, but nobody twice and nobody locked', () => {
    const s = stage();
    const both = new Drag({ tool: 'move', axis: 'x' }, { ...hand(s), picked: ['a', 'p'] }, eye, ray(0, 0));
    expect(Object.keys(both.to(ray(1, 0), false))).toEqual(['p.move.x']);
    const locked = lockMembers.apply(s, { ids: ['a'], locked: true });
    expect(handlePlace(hand(locked))).toBeNull();
  });
});

describe('a drag of a turn handle', () => {
  test('turns by the angle the hand goes round', () => {
    const values = drag(stage(), { tool: 'turn', axis: 'z' }, { tool: 'turn' }, [1, 0], [0, 1]);
    expect(Object.keys(values)).toEqual(['a.turn.z']);
    expect(values['a.turn.z']).toBeCloseTo(Math.PI / 2, 9);
  });

  test('goes on past half a turn and more instead of jumping back', () => {
    const s = stage();
    const held = new Drag({ tool: 'turn', axis: 'z' }, hand(s, { tool: 'turn' }), eye, ray(1, 0));
    let last: Record<string, unknown> = {};
    for (let degrees = 0; degrees <= 500; degrees += 10) {
      const angle = (degrees * Math.PI) / 180;
      last = held.to(ray(Math.cos(angle), Math.sin(angle)), false);
    }
    expect(last['a.turn.z']).toBeCloseTo((500 * Math.PI) / 180, 6);
  });

  test('turns an orientation as a whole', () => {
    const s = setRotation.apply(stage(), { id: 'a', rotation: 'orientation', order: 'zxy' });
    const values = drag(s, { tool: 'turn', axis: 'z' }, { tool: 'turn' }, [1, 0], [0, 1]);
    const q = values['a.orientation'] as Quaternion;
    expect(q[2]).toBeCloseTo(Math.SQRT1_2, 9);
    expect(q[3]).toBeCloseTo(Math.SQRT1_2, 9);
  });

  test('about a world axis keeps to it in a turned parent', () => {
    const s = stage({}, { 'turn.y': 0.8, 'turn.x': 0.4 });
    const values = drag(s, { tool: 'turn', axis: 'z' }, { tool: 'turn' }, [1, 0], [0, 1]);
    const channels = Object.fromEntries(Object.entries(values).map(([path, v]) => [path.slice(2), v as number]));
    const turned = { ...s, members: s.members.with('a', { ...s.members.at('a'), values: channels }) };
    const matrix = (shot: Shot) => {
      const frame = frameOf(shot, 1);
      return new THREE.Matrix4().fromArray(frame.world, frame.layout.slotOf.get('a')! * 16);
    };
    const expected = new THREE.Matrix4().makeRotationZ(Math.PI / 2).multiply(matrix(s));
    matrix(turned).elements.forEach((v, i) => {
      expect(v).toBeCloseTo(expected.elements[i], 6);
    });
  });
});

describe('a drag of a size handle', () => {
  test('sizes along one axis by how much further out the hand is', () => {
    expect(drag(stage({ 'size.x': 3 }), { tool: 'size', axis: 'x' }, { tool: 'size' }, [1, 0], [1.5, 0])).toEqual({
      'a.size.x': 4.5,
    });
  });

  test('of the middle sizes all axes that are not locked, and never through zero', () => {
    const locks = { x: false, y: true, z: false };
    const values = drag(stage(), { tool: 'size', axis: 'all' }, { tool: 'size', locks }, [0, 0], [-9, -9]);
    expect(values).toEqual({ 'a.size.x': 0.01, 'a.size.z': 0.01 });
  });
});
