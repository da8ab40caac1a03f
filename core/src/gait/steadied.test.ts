import { describe, expect, test } from 'vitest';
import { compose, multiply } from '../pose/affine.ts';
import { type Angles, anglesToQuaternion, quaternionToAngles } from '../pose/angles.ts';
import { type Motion, steadied } from './steadied.ts';

const FRAMES = 24;
const q = new Float64Array(4);

/** A head that nods, turns and rises, on a chest that turns and goes along. */
function walkingHead(): Motion & { readonly turns: Angles[]; readonly places: number[][] } {
  const world = new Float64Array(FRAMES * 16);
  const space = new Float64Array(FRAMES * 16);
  const turns: Angles[] = [];
  const places: number[][] = [];
  for (let f = 0; f < FRAMES; f++) {
    const wave = (n: number, late = 0) => Math.sin((2 * Math.PI * (n * f + late)) / FRAMES);
    const turn: Angles = [0.1 * wave(2) + 0.05, 0.3 * wave(1, 3), 0.08 * wave(1)];
    const place = [0.03 * wave(1), 1.5 + 0.02 * wave(2), 0.1];
    q.set(anglesToQuaternion(turn, 'xyz'));
    compose(world, f * 16, q, 0, 1, place[0], place[1], place[2]);
    q.set(anglesToQuaternion([0.2, 0.4 * wave(1), 0], 'xyz'));
    compose(space, f * 16, q, 0, 1, 0.05 * wave(1), 1.2, 0);
    turns.push(turn);
    places.push(place);
  }
  return { frames: FRAMES, world, space, turns, places };
}

/** How the head stands on the stage with the channels it was given. */
function stands(motion: Motion, channels: Float64Array, f: number): { turn: Angles; place: number[] } {
  const local = new Float64Array(16);
  const out = new Float64Array(16);
  const [x, y, z, rx, ry, rz] = channels.subarray(f * 6, f * 6 + 6);
  q.set(anglesToQuaternion([rx, ry, rz], 'xyz'));
  compose(local, 0, q, 0, 1, x, y, z);
  multiply(out, 0, motion.space, f * 16, local, 0);
  const trace = [out[0], out[5], out[10]];
  const w = Math.sqrt(Math.max(0, 1 + trace[0] + trace[1] + trace[2])) / 2;
  const turn = quaternionToAngles(
    [(out[6] - out[9]) / (4 * w), (out[8] - out[2]) / (4 * w), (out[1] - out[4]) / (4 * w), w],
    'xyz',
    [0, 0, 0],
  );
  return { turn, place: [out[12], out[13], out[14]] };
}

const mean = (list: readonly number[]) => list.reduce((s, v) => s + v / list.length, 0);

describe('a head held steady', () => {
  test.each([0, 0.25, 1])('moves and turns by %s of what it did, about where it was on the whole', (share) => {
    const motion = walkingHead();
    const held = steadied(motion, share, 'both', 'xyz');
    for (let f = 0; f < FRAMES; f++) {
      const { turn, place } = stands(motion, held, f);
      for (let c = 0; c < 3; c++) {
        const [turned, placed] = [mean(motion.turns.map((t) => t[c])), mean(motion.places.map((p) => p[c]))];
        expect(turn[c]).toBeCloseTo(turned + (motion.turns[f][c] - turned) * share, 9);
        expect(place[c]).toBeCloseTo(placed + (motion.places[f][c] - placed) * share, 9);
      }
    }
  });

  test('keeps to what is asked for: facing alone, or place alone', () => {
    const motion = walkingHead();
    const facing = steadied(motion, 0, 'facing', 'xyz');
    const place = steadied(motion, 0, 'place', 'xyz');
    for (let f = 0; f < FRAMES; f++) {
      expect(stands(motion, facing, f).place[1]).toBeCloseTo(motion.places[f][1], 9);
      expect(stands(motion, place, f).turn[1]).toBeCloseTo(motion.turns[f][1], 9);
      expect(stands(motion, place, f).place[1]).toBeCloseTo(mean(motion.places.map((p) => p[1])), 9);
    }
  });

  test('faces where it is told to', () => {
    const motion = walkingHead();
    const held = steadied(motion, 0, 'facing', 'xyz', [0.1, -0.2, 0]);
    for (let f = 0; f < FRAMES; f++) {
      const { turn } = stands(motion, held, f);
      for (const [c, v] of [0.1, -0.2, 0].entries()) expect(turn[c]).toBeCloseTo(v, 9);
    }
  });
});
