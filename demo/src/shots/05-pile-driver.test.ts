import { frameOf, Ground, Program, parseShot, type Shot } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { harbourRigs } from '../rigs/index.ts';
import { pileDriver, pileTops, strikes } from './05-pile-driver.ts';

const shot: Shot = pileDriver();
const program = new Program(shot);
const frame = program.createFrame();
const at = (time: number, member: string, channel: string) => {
  program.evaluate(time, frame);
  return frame.value(member, channel)!;
};

describe('the pile driver', () => {
  test('is a shot that Varrup reads', () => {
    expect(parseShot(JSON.parse(JSON.stringify(shot)), harbourRigs()).ok).toBe(true);
  });

  test('strikes the pile and drives it, and never comes through it', () => {
    const ground = new Ground(shot);
    strikes.forEach((strike, i) => {
      expect(at(strike, 'ram', 'move.y')).toBeCloseTo(pileTops[i + 1], 9);
      expect(at(strike, 'pile', 'move.y')).toBeCloseTo(pileTops[i + 1] - 3, 9);
      expect(at(strike - 1, 'pile', 'move.y')).toBeCloseTo(pileTops[i] - 3, 9);
    });
    for (let f = 1; f <= shot.range.last; f++) {
      program.evaluate(f, frame);
      const touch = ground.touch(frame, 'ram')!;
      expect(touch.gap, `frame ${f}`).toBeGreaterThan(-1e-3);
    }
  });

  test('is wound up slower than it falls', () => {
    for (const strike of strikes) {
      const speed = (time: number) => Math.abs(at(time + 0.5, 'ram', 'move.y') - at(time - 0.5, 'ram', 'move.y'));
      const up = Math.max(...Array.from({ length: 18 }, (_, i) => speed(strike - 30 + i)));
      expect(speed(strike - 1)).toBeGreaterThan(3 * up);
    }
  });

  test('settles: each swing of the barge after a blow is about half the one before', () => {
    const [first, second] = strikes;
    const extremes: number[] = [];
    for (let f = first + 7; f < second; f += 0.5) {
      const [a, b, c] = [f - 0.5, f, f + 0.5].map((t) => at(t, 'barge', 'turn.z'));
      if ((b - a) * (c - b) < 0) extremes.push(Math.abs(b));
    }
    expect(extremes.length).toBeGreaterThanOrEqual(3);
    for (let i = 1; i < extremes.length; i++) {
      expect(extremes[i] / extremes[i - 1]).toBeGreaterThan(0.4);
      expect(extremes[i] / extremes[i - 1]).toBeLessThan(0.6);
    }
  });

  test('keeps its rope from the ram to the head, and its drum turning with it', () => {
    for (const f of [1, 20, 35, 37, 50, 100]) {
      const now = frameOf(shot, f);
      const top = now.value('ram', 'move.y')! + 0.5 + now.value('rope', 'size.y')!;
      expect(top).toBeCloseTo(3.2, 9);
      expect(now.value('drum', 'turn.y')! * 0.17).toBeCloseTo(now.value('ram', 'move.y')!, 9);
    }
  });

  test('is heard at every blow', () => {
    for (const strike of strikes)
      expect(shot.sounds.values().filter((s) => s.sound === 'thud' && s.frame === strike)).toHaveLength(1);
  });
});
