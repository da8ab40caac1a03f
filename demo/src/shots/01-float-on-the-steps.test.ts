import { frameOf, type NumberCurve, Program, parseShot, type Shot } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { floatOnTheSteps, GRAVITY, landings, RADIUS } from './01-float-on-the-steps.ts';

const shot: Shot = floatOnTheSteps();
const at = (frame: number) => {
  const f = frameOf(shot, frame);
  return { x: f.value('float', 'move.x')!, y: f.value('float', 'move.y')!, turn: f.value('float', 'turn.z')! };
};
const flights = landings.slice(1).map((to, i) => ({ from: landings[i], to, frames: to.frame - landings[i].frame }));

describe('the float on the steps', () => {
  test('is a shot that Varrup reads', () => {
    expect(parseShot(JSON.parse(JSON.stringify(shot))).ok).toBe(true);
  });

  test('touches the ground at every landing, to a hundredth of a millimetre', () => {
    for (const { frame, ground, x } of landings) {
      expect(Math.abs(at(frame).y - RADIUS - ground)).toBeLessThan(1e-5);
      expect(at(frame).x).toBeCloseTo(x, 9);
    }
  });

  test('falls under one gravity in every flight', () => {
    for (const { from, to } of flights) {
      for (let f = from.frame + 0.5; f + 0.5 <= to.frame; f += 0.25) {
        const second = (at(f + 0.25).y - 2 * at(f).y + at(f - 0.25).y) / 0.0625;
        expect(second).toBeCloseTo(-GRAVITY, 9);
      }
    }
  });

  test('bounces lower and shorter every time, and lands sharply', () => {
    const onFloor = flights.slice(4);
    const heights = onFloor.map(({ from, frames }) => at(from.frame + frames / 2).y - RADIUS);
    for (let i = 1; i < heights.length; i++) expect(heights[i] / heights[i - 1]).toBeLessThan(0.5);
    for (let i = 1; i < flights.length; i++) expect(flights[i].frames).toBeLessThan(flights[i - 1].frames);
    for (const { from } of flights) {
      const down = at(from.frame - 1e-4).y - at(from.frame).y;
      const up = at(from.frame + 1e-4).y - at(from.frame).y;
      expect(down / 1e-4).toBeGreaterThan(GRAVITY / 2);
      // What the cork gives back of its speed: about 0.65.
      expect(up / down).toBeGreaterThan(0.5);
      expect(up / down).toBeLessThan(0.72);
    }
  });

  test('never sinks into quay, crate, steps or floor', () => {
    const corners: [number, number][] = [
      [-1.71, 1.6516],
      [-0.5, 0.8],
      [0, 0.6],
      [0.5, 0.4],
      [1, 0.2],
    ];
    const groundAt = (x: number) => (x < -0.5 ? 0.8 : x < 0 ? 0.6 : x < 0.5 ? 0.4 : x < 1 ? 0.2 : 0);
    const program = new Program(shot);
    const frame = program.createFrame();
    for (let f = 1; f <= 168; f += 0.125) {
      program.evaluate(f, frame);
      const x = frame.value('float', 'move.x')!;
      const y = frame.value('float', 'move.y')!;
      if (f > 19) expect(y - RADIUS).toBeGreaterThan(groundAt(x) - 1e-6);
      for (const [cx, cy] of corners)
        if (x > cx || f > 19) expect(Math.hypot(x - cx, y - cy)).toBeGreaterThan(RADIUS - 1e-3);
    }
  });

  test('rolls without slipping and ends at rest', () => {
    for (let f = 95; f < 168; f++) {
      const { x, turn } = at(f);
      expect(turn - at(95).turn).toBeCloseTo(-(x - at(95).x) / RADIUS, 6);
    }
    expect(at(160)).toEqual(at(168));
  });

  test('has its keys on whole frames', () => {
    for (const curve of Object.values(shot.curves) as NumberCurve[]) {
      expect(curve.keys.filter((k) => !Number.isInteger(k.frame))).toEqual([]);
    }
  });
});
