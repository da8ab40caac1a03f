import { findingsOf, frameOf, Program, parseShot } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { harbourRigs } from '../rigs/index.ts';
import { gloveSigns } from '../rigs/poses/glove.ts';
import { handSignals } from './10-hand-signals.ts';

const shot = handSignals();
const program = new Program(shot);
const frame = program.createFrame();
const value = (control: string, channel: string, at: number) => {
  program.evaluate(at, frame);
  return frame.value(`glove-${control}`, channel)!;
};

/** How far the fingers are from a sign at a frame: the most any of their dials is off. */
function off(sign: keyof typeof gloveSigns, at: number): number {
  program.evaluate(at, frame);
  return Math.max(
    ...Object.entries(gloveSigns[sign]).map(([name, wanted]) => {
      const [control, dial] = name.split('.');
      return Math.abs(frame.value(`glove-${control}`, dial)! - wanted);
    }),
  );
}

describe('the hand signals', () => {
  test('are a shot that Varrup reads, and the checks find nothing', () => {
    expect(parseShot(JSON.parse(JSON.stringify(shot)), harbourRigs()).ok).toBe(true);
    expect(findingsOf(shot)).toEqual([]);
  });

  test.each([
    ['stop', 36],
    ['one', 88],
    ['two', 114],
    ['three', 140],
    ['good', 172],
  ] as const)('show %s long enough to be read, and go on living while they do', (sign, from) => {
    for (let f = from; f < from + 8; f++) expect([f, off(sign, f) < 0.09]).toEqual([f, true]);
    const alive = ['arm', 'palm'].some((c) =>
      ['turn.x', 'turn.z', 'move.y'].some((ch) => Math.abs(value(c, ch, from) - value(c, ch, from + 8)) > 1e-5),
    );
    expect(alive).toBe(true);
  });

  test('gather against each great move before it: the palm bends back before it goes up', () => {
    const [rest, gathered, up] = [15, 22, 27].map((f) => value('palm', 'turn.x', f));
    expect(gathered).toBeGreaterThan(rest);
    expect(up).toBeLessThan(rest);
  });

  test('go beyond the sign and settle: the stop overshoots by less than a fifth of its way', () => {
    const way = value('arm', 'turn.x', 36) - value('arm', 'turn.x', 1);
    const beyond = (value('arm', 'turn.x', 27) - value('arm', 'turn.x', 36)) / way;
    expect(beyond).toBeGreaterThan(0.05);
    expect(beyond).toBeLessThan(0.2);
  });

  test.each([74, 101, 127])('throw the number at %d from the wrist, and bend it against the arm', (at) => {
    const degrees = (v: number) => (v * 180) / Math.PI;
    const [before, thrown] = [at - 3, at + 1].map((f) => degrees(value('palm', 'turn.x', f)));
    expect(before - thrown).toBeGreaterThan(25);
    const leans = value('arm', 'turn.z', at + 8);
    expect(Math.abs(degrees(leans))).toBeGreaterThan(5);
    expect(Math.sign(value('palm', 'turn.z', at + 8))).toBe(-Math.sign(leans));
  });

  test('break from arm to fingers: each set of controls arrives later than what carries it', () => {
    const arrives = (control: string, channel: string) =>
      (shot.curves.at(`glove-${control}.${channel}`).keys as { frame: number }[])
        .map((k) => k.frame)
        .find((f) => f > 24)!;
    expect(arrives('arm', 'turn.x')).toBeLessThan(arrives('palm', 'turn.x'));
    expect(arrives('palm', 'turn.x')).toBeLessThan(arrives('fingers', 'fist'));
  });

  test('stand on the post all the time', () => {
    for (let f = 1; f <= 228; f++) {
      const now = frameOf(shot, f);
      expect(now.value('glove', 'move.y')).toBe(0.55);
    }
  });
});
