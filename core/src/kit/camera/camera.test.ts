import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Recipe } from '../../document/recipe.ts';
import { emptyShot, type Shot } from '../../document/shot.ts';
import { addMember, newMember } from '../../edit/commands/members.ts';
import { changeChannels } from '../../edit/index.ts';
import { apart, type Vector } from '../../pose/vectors.ts';
import { lensOf } from '../../surface/lens.ts';
import { applyRecipe } from '../commands.ts';
import { cook } from '../recipe.ts';
import { placeAt, seenFrom, viewer } from './aim.ts';
import { wandering } from './hand-held.ts';

/** A camera six metres before a ball that goes to the right, four metres in the shot; and a way of three places. */
function stage(): Shot {
  let shot = emptyShot('s', 'S');
  const add = (
    id: string,
    kind: 'camera' | 'ball' | 'group',
    values: Record<string, number>,
    parent: string | null = null,
  ) => {
    shot = addMember.apply(shot, { member: { ...newMember(shot, { kind, values, parent }), id } });
  };
  add('cam', 'camera', { 'move.y': 1.2, 'move.z': 6 });
  add('ball', 'ball', { 'move.x': -2, 'move.y': 0.5 });
  add('way', 'group', {});
  add('a', 'ball', { 'move.x': -3, 'move.z': 3 }, 'way');
  add('b', 'ball', { 'move.x': 0, 'move.y': 2, 'move.z': 5 }, 'way');
  add('c', 'ball', { 'move.x': 3, 'move.z': 3 }, 'way');
  for (const [frame, x] of [
    [1, -2],
    [96, 2],
  ])
    shot = changeChannels.apply(shot, { frame, values: { 'ball.move.x': x }, autoKey: 'every' });
  return shot;
}

const recipe = (kit: string, settings: Recipe['settings']): Recipe => ({
  id: kit,
  kit,
  member: 'cam',
  settings,
  written: {},
});
const done = (kit: string, settings: Recipe['settings'] = {}): Shot => {
  const all = { from: 1, to: 96, whom: 'ball', ...settings };
  const made = cook(stage(), recipe(kit, all), false);
  if (made.problem) throw new Error(made.problem);
  return applyRecipe.apply(stage(), { recipe: recipe(kit, all), replace: true });
};
const frames = [1, 13, 40, 77, 96];

describe('a camera that follows', () => {
  it('has whom it follows in the middle of its picture, from side to side and in height', () => {
    const shot = done('follow', { late: 0, high: 0, every: 2 });
    const at = viewer(shot);
    for (const f of frames) {
      const frame = at(f);
      const [x, y, z] = seenFrom(frame, 'cam', placeAt(frame, 'ball')!);
      expect(Math.hypot(x, y) / z).toBeLessThan(0.004);
    }
  });

  it('looks where they were so many frames ago, and travels as far as it is to', () => {
    const at = viewer(done('follow', { late: 8, high: 0, every: 1, along: 100 }));
    const own = viewer(stage());
    const frame = at(60);
    const [x, y, z] = seenFrom(frame, 'cam', placeAt(own(52), 'ball')!);
    expect(Math.hypot(x, y) / z).toBeLessThan(1e-6);
    const [start, now] = [placeAt(own(-7), 'ball')!, placeAt(own(52), 'ball')!];
    expect(placeAt(frame, 'cam')![0]).toBeCloseTo(now[0] - start[0], 6);
  });
});

describe('a camera that orbits', () => {
  it('stays as far from whom it goes round as it was, and ends as many degrees on', () => {
    const shot = done('orbit', { by: 120, every: 4, high: 0, soft: false });
    const at = viewer(shot);
    const level = (f: number) => {
      const frame = at(f);
      const [c, b] = [placeAt(frame, 'cam')!, placeAt(frame, 'ball')!];
      return [c[0] - b[0], c[2] - b[2]] as const;
    };
    const first = level(1);
    for (const f of frames) expect(Math.hypot(...level(f)) / Math.hypot(...first)).toBeCloseTo(1, 2);
    const angle = ([x, z]: readonly [number, number]) => Math.atan2(x, z);
    const turned = ((angle(level(96)) - angle(first)) * 180) / Math.PI;
    expect(((turned % 360) + 360) % 360).toBeCloseTo(120, 6);
  });
});

describe('a camera on rails', () => {
  it('goes as far as it is told as it looks, and keeps somebody as large by its lens', () => {
    const shot = done('dolly', { ahead: 2, whom: '', soft: false });
    const at = viewer(shot);
    expect(placeAt(at(96), 'cam')).toEqual([0, 1.2, 4]);
    const held = viewer(done('dolly', { ahead: 3, hold: true, high: 0, every: 2 }));
    const size = (f: number) => {
      const frame = held(f);
      return lensOf(frame.value('cam', 'view')!) / apart(placeAt(frame, 'cam')!, placeAt(frame, 'ball')!);
    };
    for (const f of frames) expect(size(f) / size(1)).toBeCloseTo(1, 2);
  });

  it('goes through the places of a way, at one speed', () => {
    const shot = done('dolly', { goes: 'way', way: 'way', whom: '', soft: false, every: 1 });
    const at = viewer(shot);
    const place = (f: number) => placeAt(at(f), 'cam')!;
    expect(apart(place(1), [-3, 0, 3])).toBeLessThan(1e-9);
    expect(apart(place(96), [3, 0, 3])).toBeLessThan(1e-6);
    const nearest = Math.min(...Array.from({ length: 96 }, (_, i) => apart(place(i + 1), [0, 2, 5])));
    expect(nearest).toBeLessThan(0.06);
    const steps = Array.from({ length: 95 }, (_, i) => apart(place(i + 1), place(i + 2)));
    expect(Math.max(...steps) / Math.min(...steps)).toBeLessThan(1.02);
  });
});

describe('a camera in a hand', () => {
  it('stays near what it does, is where it was at both ends, and the same for the same seed', () => {
    const shot = done('handHeld', { sway: 0.05, turns: 2, seed: 7 });
    const at = viewer(shot);
    const home: Vector = [0, 1.2, 6];
    let most = 0;
    for (let f = 1; f <= 96; f++) most = Math.max(most, apart(placeAt(at(f), 'cam')!, home));
    expect(most).toBeGreaterThan(0.01);
    expect(most).toBeLessThan(0.1);
    expect(apart(placeAt(at(1), 'cam')!, home)).toBeLessThan(1e-12);
    expect(apart(placeAt(at(96), 'cam')!, home)).toBeLessThan(1e-12);
    expect(done('handHeld', { sway: 0.05, turns: 2, seed: 7 }).curves).toEqual(shot.curves);
    expect(done('handHeld', { sway: 0.05, turns: 2, seed: 8 }).curves).not.toEqual(shot.curves);
  });

  it('wanders smoothly within its bounds', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9999 }), fc.double({ min: -50, max: 50, noNaN: true }), (seed, t) => {
        const w = wandering(seed);
        expect(Math.abs(w(t))).toBeLessThanOrEqual(1);
        expect(Math.abs(w(t + 1e-4) - w(t))).toBeLessThan(2e-3);
      }),
    );
  });
});

describe('a camera move', () => {
  it('says why it cannot be made', () => {
    const problem = (kit: string, settings: Recipe['settings'], shot = stage()) =>
      cook(shot, recipe(kit, settings), false).problem;
    expect(problem('follow', { whom: '' })).toBe('Say whom it is to follow.');
    expect(problem('orbit', { whom: 'ball', from: 9, to: 9 })).toContain('no frames');
    expect(problem('dolly', { goes: 'way', way: 'ball' })).toContain('two members or more');
    expect(problem('handHeld', { sway: 0, turns: 0 })).toContain('neither sways nor turns');
    expect(cook(stage(), { ...recipe('orbit', {}), member: 'ball' }, false).problem).toContain('Only a camera');
  });
});
