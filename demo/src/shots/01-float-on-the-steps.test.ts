import {
  bounceTable,
  findingsOf,
  frameOf,
  gravityOf,
  kitOf,
  type NumberCurve,
  Program,
  parseShot,
  type Shot,
} from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { harbourRigs } from '../rigs/index.ts';
import { floatOnTheSteps, RADIUS } from './01-float-on-the-steps.ts';

const shot: Shot = floatOnTheSteps();
const rows = bounceTable(shot, 'float.move.y').flat();
const at = (frame: number) => {
  const f = frameOf(shot, frame);
  return { x: f.value('float', 'move.x')!, y: f.value('float', 'move.y')!, turn: f.value('float', 'turn.z')! };
};

describe('the float on the steps', () => {
  test('is a shot that Varrup reads, made of recipes it knows', () => {
    expect(parseShot(JSON.parse(JSON.stringify(shot)), harbourRigs()).ok).toBe(true);
    for (const recipe of shot.recipes.values()) expect(kitOf(recipe.kit)?.id).toBe(recipe.kit);
  });

  test('has nothing the checks would find', () => {
    expect(findingsOf(shot)).toEqual([]);
  });

  test('lands once on the quay and on each step, then on the floor, touching within a hundredth of a millimetre', () => {
    const ground = [0.8, 0.6, 0.4, 0.2, 0, 0, 0, 0, 0];
    expect(rows.map((r) => Math.round((r.contact.value - RADIUS) * 1e6) / 1e6)).toEqual(ground);
    for (const row of rows) expect(Math.abs(row.gap!)).toBeLessThan(1e-5);
  });

  test('falls under one gravity in every flight, and gives back what cork gives back', () => {
    const first = gravityOf(rows[0].contact.fall) * 24 * 24;
    for (const { gravity } of rows) if (gravity !== null) expect(gravity).toBeCloseTo(first, 6);
    for (const { contact } of rows.slice(0, -2)) {
      expect(contact.leave / -contact.arrive).toBeGreaterThan(0.5);
      expect(contact.leave / -contact.arrive).toBeLessThan(0.75);
    }
  });

  test('bounces lower and shorter every time on the floor', () => {
    const onFloor = rows.slice(4, -1);
    for (const row of onFloor) expect(row.ratio!).toBeLessThan(0.6);
    const times = onFloor.map((r) => r.framesUp! + r.framesDown!);
    for (let i = 1; i < times.length; i++) expect(times[i]).toBeLessThan(times[i - 1]);
  });

  test('never sinks into quay, crate, steps or floor, nor their edges', () => {
    const edges: [number, number][] = [
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
      if (f > 21) expect(y - RADIUS).toBeGreaterThan(groundAt(x) - 1e-6);
      for (const [cx, cy] of edges)
        if (x > cx || f > 21) expect(Math.hypot(x - cx, y - cy)).toBeGreaterThan(RADIUS - 1e-3);
    }
  });

  test('rolls without slipping and ends at rest', () => {
    for (let f = 100; f < 168; f++) {
      const { x, turn } = at(f);
      expect(turn - at(100).turn).toBeCloseTo(-(x - at(100).x) / RADIUS, 6);
    }
    expect(at(160)).toEqual(at(168));
  });

  test('is squashed at its landings, and heard at them', () => {
    const length = (frame: number) => frameOf(shot, frame).value('float', 'deform.speed.length')!;
    expect(length(rows[0].contact.frame)).toBeLessThan(0.85);
    expect(length(rows[0].contact.frame - 1)).toBeGreaterThan(1.05);
    expect(shot.sounds.values().map((s) => s.frame)).toEqual(rows.map((r) => r.contact.frame));
  });

  test('has its keys on whole frames', () => {
    for (const curve of shot.curves.values() as NumberCurve[]) {
      expect(curve.keys.filter((k) => !Number.isInteger(k.frame))).toEqual([]);
    }
  });
});
