import { changeChannels, frameOf, type Shot } from '@varrup/core';
import * as THREE from 'three';
import { describe, expect, test } from 'vitest';
import { craneShot } from '../../testing/arm.ts';
import type { Tool } from '../../view/tool.ts';
import { actingControls } from '../overlays/acting.ts';
import { controlLines } from '../overlays/control-forms.ts';
import { setMembers } from '../overlays/control-sets.ts';
import { DialDrag } from './dial-drag.ts';
import { Drag } from './dragging.ts';
import { handlePlace, type InHand } from './handle-place.ts';
import { isFree, toolFor } from './reach.ts';

const shot = craneShot();
const hand = (s: Shot, id: string, tool: Tool): InHand => ({
  shot: s,
  frame: frameOf(s, 1),
  picked: [id],
  tool: { tool, axes: 'world', about: 'own', snap: 'off', pivot: false, locks: { x: false, y: false, z: false } },
});

/** An eye on +Z that looks down the axis, without perspective. */
const eye = new THREE.OrthographicCamera(-5, 5, 5, -5, 0.1, 100);
eye.position.set(0, 0, 20);
eye.updateMatrixWorld();
const ray = (x: number, y: number) => new THREE.Ray(new THREE.Vector3(x, y, 20), new THREE.Vector3(0, 0, -1));

const pulled = (s: Shot, id: string, by: readonly [number, number], tool: 'move' | 'turn' = 'move') =>
  new Drag({ tool, axis: 'all' }, hand(s, id, tool), eye, ray(1.2, 2)).to(ray(1.2 + by[0], 2 + by[1]), false);

describe('a control under the hand', () => {
  test('moves in the plane one sees', () => {
    expect(pulled(shot, 'crane-hand', [-0.2, 0.3])).toEqual({ 'crane-hand.move.x': -0.2, 'crane-hand.move.y': 0.3 });
  });

  test('that is a hand goes no further than its arm reaches, and slides along the edge', () => {
    const far = pulled(shot, 'crane-hand', [3, 3]);
    const [x, y] = [1.2 + (far['crane-hand.move.x'] as number), far['crane-hand.move.y'] as number];
    expect(Math.hypot(x, y)).toBeCloseTo(2 * 0.994, 4);
    // It goes on the way it was pulled.
    expect(y / x).toBeCloseTo(3 / 4.2, 4);
    const moved = changeChannels.apply(shot, { frame: 1, values: far, autoKey: 'off' });
    const frame = frameOf(moved, 1);
    const rig = frame.layout.rigs[0];
    const end = (rig.joints + rig.compiled.jointAt.get('end')!) * 16 + 12;
    expect(frame.world[end]).toBeCloseTo(x, 4);
    expect(frame.world[end + 1]).toBeCloseTo(2 + y, 4);
  });

  test('that only turns gets the handles of turning, whatever tool is chosen, and no locked channel is written', () => {
    const place = handlePlace(hand(shot, 'crane-post', 'move'))!;
    expect(place.tool).toBe('turn');
    const turned = pulled(shot, 'crane-post', [-0.4, 1], 'turn');
    expect(Object.keys(turned).every((path) => path === 'crane-post.turn.y')).toBe(true);
  });

  test('stops at the limits its rig sets', () => {
    const grip = { tool: 'turn', axis: 'y' } as const;
    const above = new THREE.OrthographicCamera(-5, 5, 5, -5, 0.1, 100);
    above.position.set(0, 20, 0);
    above.up.set(0, 0, -1);
    above.lookAt(0, 0, 0);
    above.updateMatrixWorld();
    const down = (x: number, z: number) => new THREE.Ray(new THREE.Vector3(x, 20, z), new THREE.Vector3(0, -1, 0));
    const drag = new Drag(grip, hand(shot, 'crane-post', 'turn'), above, down(1, 0));
    expect(drag.to(down(0.9, -0.4), false)['crane-post.turn.y']).toBeCloseTo(Math.atan2(0.4, 0.9), 6);
    expect(drag.to(down(-0.2, -1), false)['crane-post.turn.y']).toBe(1);
  });

  test('that has dials alone is dragged by them: sideways the first, up the second, within their ranges', () => {
    const hook = shot.members.at('crane-hook');
    expect(toolFor(shot.rigs.controlOf(hook), 'move')).toBe('pick');
    const drag = DialDrag.of(shot, hook, frameOf(shot, 1), [100, 100])!;
    expect(drag.to([180, 100], false)).toEqual({ 'crane-hook.shut': 0.5 });
    expect(drag.to([100, 84], false)).toEqual({ 'crane-hook.tilt': 0.1 });
    expect(drag.to([900, 900], false)).toEqual({ 'crane-hook.shut': 1, 'crane-hook.tilt': -0.5 });
    expect(drag.to([180, 100], true)['crane-hook.shut']).toBeCloseTo(0.05, 12);
  });

  test('is free where its rig says so', () => {
    const of = (id: string) => shot.rigs.controlOf(shot.members.at(id));
    const hand = of('crane-hand');
    expect(isFree(hand, 'move', 'x') && isFree(hand, 'turn', 'z')).toBe(true);
    expect(isFree(hand, 'size', 'x')).toBe(false);
    expect(isFree(of('crane-post'), 'turn', 'x')).toBe(false);
    expect(isFree(of('crane'), 'size', 'x')).toBe(true);
  });
});

describe('the controls that are drawn', () => {
  test('are those that do something: a limb that reaches has no joints to turn, one turned by its joints no target', () => {
    const acting = (s: Shot) => {
      const frame = frameOf(s, 1);
      return [...actingControls(frame, frame.layout.rigs[0])].sort();
    };
    expect(acting(shot)).toEqual(['elbow', 'hand', 'hook', 'post']);
    const byJoints = changeChannels.apply(shot, { frame: 1, values: { 'crane-hand.reach': 0 }, autoKey: 'off' });
    expect(acting(byJoints)).toEqual(['endJoint', 'hook', 'lowerJoint', 'post', 'upperJoint']);
    const between = changeChannels.apply(shot, { frame: 1, values: { 'crane-hand.reach': 0.5 }, autoKey: 'off' });
    expect(acting(between)).toHaveLength(7);
  });

  test('differ in form by their side, and reach as far as the rig says', () => {
    const lines = (id: string) => controlLines(shot.rigs.controlOf(shot.members.at(id))!);
    const reach = (l: Float32Array) =>
      Math.max(...Array.from({ length: l.length / 3 }, (_, i) => Math.hypot(l[i * 3], l[i * 3 + 1], l[i * 3 + 2])));
    const [left, right, centre] = [lines('crane-hand'), lines('crane-hook'), lines('crane-post')];
    expect(right.length).toBeLessThan(left.length);
    expect(centre.length).toBeGreaterThan(left.length);
    expect(reach(left)).toBeCloseTo(0.1, 6);
    expect(reach(centre)).toBeCloseTo(0.3, 6);
  });

  test('are hidden by the sets they belong to', () => {
    expect(setMembers(shot, 'crane-arm')).toEqual(['crane-hand', 'crane-elbow']);
    expect(setMembers(shot, 'nobody')).toEqual([]);
  });
});
