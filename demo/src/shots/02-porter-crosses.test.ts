import { CurveReader, clipAtWork, findingsOf, type NumberCurve, Program, type Shot } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { jointPlace } from '../rigs/testing.ts';
import { porterCrosses } from './02-porter-crosses.ts';

const shot = porterCrosses();
const program = new Program(shot);
const numbers = program.createFrame();
const at = (frame: number) => {
  program.evaluate(frame, numbers);
  return numbers;
};
/** Where a joint is through some frames. */
const wayOf = (rig: string, joint: string, from: number, to: number) =>
  Array.from({ length: to - from + 1 }, (_, i) => jointPlace(at(from + i), rig, joint));

describe('the porter who crosses the quay', () => {
  test('has nothing the checks would find', () => {
    expect(findingsOf(shot)).toEqual([]);
  });

  test('gets across: three metres and more, straight, while the other one stays in place', () => {
    const hips = wayOf('porter', 'hips', 1, 97);
    expect(hips.at(-1)![0] - hips[0][0]).toBeGreaterThan(3);
    const place = wayOf('in-place', 'hips', 1, 97);
    expect(Math.max(...place.map((p) => p[0])) - Math.min(...place.map((p) => p[0]))).toBeLessThan(0.05);
  });

  test('puts his weight down after each contact and rises over the standing leg', () => {
    const heights = wayOf('in-place', 'hips', 1, 24).map((p) => p[1]);
    const low = heights.indexOf(Math.min(...heights.slice(0, 12)));
    const high = heights.indexOf(Math.max(...heights.slice(0, 12)));
    expect(low).toBeGreaterThanOrEqual(2);
    expect(low).toBeLessThanOrEqual(4);
    expect(high).toBeGreaterThanOrEqual(8);
    expect(high).toBeLessThanOrEqual(11);
  });

  test('stands first and last, hails as he goes with the hand over his head, and walks on under it', () => {
    const hips = wayOf('porter', 'hips', 1, 120).map((p) => p[0]);
    const gone = (from: number, to: number) => hips[to - 1] - hips[from - 1];
    expect(Math.abs(gone(1, 10))).toBeLessThan(0.02);
    expect(Math.abs(gone(108, 120))).toBeLessThan(0.02);
    for (let f = 30; f < 80; f += 10) expect(gone(f, f + 10)).toBeGreaterThan(0.3);
    const over = (f: number) => jointPlace(at(f), 'porter', 'handR')[1] - jointPlace(at(f), 'porter', 'head')[1];
    const raised = Array.from({ length: 120 }, (_, i) => over(i + 1) > 0);
    expect(raised.indexOf(true)).toBeGreaterThan(22);
    expect(raised.lastIndexOf(true)).toBeLessThan(72);
    expect(raised.filter((is) => is).length).toBeGreaterThan(24);
  });

  test('swings each arm against the leg of its side, and lets the hand come last', () => {
    const forward = (joint: string) => wayOf('in-place', joint, 1, 24).map((p) => p[0]);
    const peak = (line: number[]) => line.indexOf(Math.max(...line));
    const apart = (a: number, b: number) => Math.min((((a - b) % 24) + 24) % 24, (((b - a) % 24) + 24) % 24);
    expect(apart(peak(forward('handL')), peak(forward('footL')))).toBeGreaterThan(7);
    const turned = (joint: string) => {
      const reader = new CurveReader(shot.curves.get(`in-place-${joint}.turn.x`) as NumberCurve);
      // Forward is a turn below zero.
      return Array.from({ length: 24 }, (_, i) => -reader.at(1 + i));
    };
    const [arm, forearm, hand] = ['armJointL', 'forearmJointL', 'handJointL'].map((j) => peak(turned(j)));
    const behind = (a: number, b: number) => (b - a + 24) % 24;
    expect(behind(arm, forearm)).toBe(2);
    expect(behind(forearm, hand)).toBe(2);
  });

  test('the old one is slower, lower and steadier on the ground', () => {
    const speed = (s: Shot, rig: string) => {
      const { travel, length } = clipAtWork(s, rig)!;
      return travel / length;
    };
    expect(speed(shot, 'old')).toBeLessThan(speed(shot, 'in-place') * 0.55);
    const down = (rig: string) => {
      const { stances, length } = clipAtWork(shot, rig)!;
      return (stances.footL[0].to - stances.footL[0].from) / length;
    };
    expect(down('old')).toBeGreaterThan(down('in-place'));
    const head = (rig: string) => Math.max(...wayOf(rig, 'head', 1, 36).map((p) => p[1]));
    expect(head('old')).toBeLessThan(head('porter'));
  });
});
