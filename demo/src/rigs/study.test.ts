import {
  animatedPaths,
  clipAtWork,
  everydayPaths,
  frameOf,
  groupPaths,
  isPlaceIdle,
  keyFrames,
  poseRow,
  STUDY_SAMPLES,
  studiedPath,
  studiedValues,
  takeUpClip,
} from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { nightFerry } from '../index.ts';
import { shotWith } from './testing.ts';

const shot = takeUpClip.apply(nightFerry.shots().find((s) => s.name === '02 Porter crosses')!, { id: 'porter-walk' });
const clip = clipAtWork(shot, 'porter')!;

describe('a point of a walk, studied over one round', () => {
  const path = studiedPath(shot, clip, 'porter-hips');

  test('ends where it began, seen from the body', () => {
    expect(path).toHaveLength((clip.length * STUDY_SAMPLES + 1) * 3);
    for (let axis = 0; axis < 3; axis++) expect(path[path.length - 3 + axis]).toBeCloseTo(path[axis], 6);
  });

  test('has the height it has on the stage, and is as far forward whichever way the body faces', () => {
    const heights = studiedValues(path, 'height', clip, shot.rate);
    for (const at of [0, 3, 9, 17]) {
      const frame = frameOf(shot, clip.first + at);
      const y = (id: string) => frame.world[frame.layout.slotOf.get(id)! * 16 + 13];
      expect(heights[at * STUDY_SAMPLES]).toBeCloseTo(y('porter-hips') - y('porter'), 6);
    }
    const turned = { ...shot.members.at('porter'), values: { ...shot.members.at('porter').values, 'turn.y': 0.3 } };
    const elsewhere = studiedPath({ ...shot, members: shot.members.with('porter', turned) }, clip, 'porter-hips');
    expect(Math.max(...elsewhere.map((v, i) => Math.abs(v - path[i])))).toBeLessThan(1e-9);
  });

  test('goes as fast, on the average, as the clip travels', () => {
    // The hips sway and bob, so they go a little further than the body gets.
    const speeds = studiedValues(path, 'speed', clip, shot.rate);
    const mean = speeds.reduce((sum, v) => sum + v, 0) / speeds.length;
    const travel = (clip.travel / clip.length) * shot.rate;
    expect(mean).toBeGreaterThan(travel * 0.99);
    expect(mean).toBeLessThan(travel * 1.08);
  });

  test('is refused of somebody who is not there', () => {
    expect(() => studiedPath(shot, clip, 'nobody')).toThrow('nobody of porter is not in the shot.');
  });
});

describe('the row of poses of a walk', () => {
  test('has the poses of both steps in their order, and its beginning again at the end', () => {
    const row = poseRow(shot, ['porter-footL'])!;
    expect(row.poses.map((p) => p.pose)).toEqual([
      ...['contact', 'down', 'passing', 'up'],
      ...['contact', 'down', 'passing', 'up'],
      'contact',
    ]);
    expect(row.poses.at(-1)!.frame - row.poses[0].frame).toBe(clip.length);
  });

  test('shows the rig alone, where it stands, from its side', () => {
    const row = poseRow(shot, ['porter'])!;
    expect(row.shot.members.values().every((m) => m.id === 'porter' || m.parent === 'porter')).toBe(true);
    const at = (frame: number) => [...frameOf(row.shot, frame).world.subarray(0, 16)];
    expect(at(clip.first + clip.length / 2)).toEqual(at(clip.first));
    expect(poseRow(shot, ['crate'])).toBeNull();
  });
});

describe('what a way of keying means of a body', () => {
  const fresh = shotWith('porter');

  test('is its controls, without those that do nothing and without its own place while nobody has used it', () => {
    const paths = everydayPaths(fresh, ['porter']);
    expect(paths).toContain('porter-handL.move.x');
    expect(paths.filter((p) => p.startsWith('porter.'))).toEqual([]);
    // Of an arm that reaches, its joints do nothing.
    expect(paths).not.toContain('porter-armJointL.turn.x');
    expect(isPlaceIdle(fresh, 'porter')).toBe(true);
  });

  test('is one group alone where that is meant', () => {
    expect(groupPaths(fresh, ['porter-handL'], 'move')).toEqual(['x', 'y', 'z'].map((a) => `porter-handL.move.${a}`));
  });

  test('takes a rig’s keys for those of its controls', () => {
    expect(animatedPaths(shot, ['porter']).length).toBe(
      shot.curves.keys().filter((p) => p.startsWith('porter-')).length,
    );
    const frames = keyFrames(shot, ['porter']);
    expect(frames).toEqual([...frames].sort((a, b) => a - b));
    expect(frames[0]).toBe(clip.first);
  });
});
