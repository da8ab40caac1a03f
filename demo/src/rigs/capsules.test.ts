import { frameOf, StandingCapsules } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { jointPlace, shotWith, withValues } from './testing.ts';

/** How deep a place is in a rig. */
function deepest(shot: ReturnType<typeof shotWith>, rig: string, [x, y, z]: readonly number[]): number {
  const frame = frameOf(shot, 1);
  const capsules = new StandingCapsules(frame.layout.rigAt.get(frame.layout.slotOf.get(rig)!)!);
  capsules.stand(frame);
  return capsules.depth(x, y, z);
}

describe('what a body fills', () => {
  const porter = shotWith('porter');
  const middle = jointPlace(frameOf(porter, 1), 'porter', 'chest');

  test('has the middle of the chest deep in it, and the air around it outside', () => {
    expect(deepest(porter, 'porter', middle)).toBeGreaterThan(0.08);
    for (const [dx, dy, dz] of [
      [0, 0, 0.4],
      [0, 0, -0.4],
      [0, 0.9, 0],
      [1, 0, 0],
    ])
      expect(deepest(porter, 'porter', [middle[0] + dx, middle[1] + dy, middle[2] + dz])).toBeLessThan(0);
  });

  test('goes along with the body, and grows with it', () => {
    const moved = withValues(porter, { 'porter.move.x': 2, 'porter.turn.y': 1 });
    const there = jointPlace(frameOf(moved, 1), 'porter', 'chest');
    expect(deepest(moved, 'porter', there)).toBeCloseTo(deepest(porter, 'porter', middle), 9);
    expect(deepest(moved, 'porter', middle)).toBeLessThan(0);
    const size = Object.fromEntries(['x', 'y', 'z'].map((a) => [`porter.size.${a}`, 2]));
    const large = withValues(porter, size);
    expect(deepest(large, 'porter', jointPlace(frameOf(large, 1), 'porter', 'chest'))).toBeCloseTo(
      2 * deepest(porter, 'porter', middle),
      9,
    );
  });
});
