import { describe, expect, test } from 'vitest';
import { Clock, type Playhead } from './playhead.ts';

const timing = { rate: 24, play: { first: 1, last: 48 } };
const how = (change: Partial<Playhead> = {}) => ({
  speed: 1,
  ending: 'loop' as const,
  pace: 'real' as const,
  ...change,
});

/** Runs a clock at a screen's rate for some seconds, and gives every frame shown. */
function run(seconds: number, screen: number, change: Partial<Playhead> = {}, from = 1) {
  const clock = new Clock(from);
  const shown: number[] = [];
  let dropped = 0;
  for (let tick = 0; tick <= seconds * screen; tick++) {
    const next = clock.next((tick * 1000) / screen, timing, how(change));
    shown.push(next.frame);
    dropped = next.dropped;
    if (next.ended) break;
  }
  return { shown, dropped };
}

describe('playing', () => {
  test('shows a second of frames in a second and does not drift over a minute', () => {
    expect(run(1, 60).shown.at(-1)).toBe(25);
    expect(run(60, 60).shown.at(-1)).toBe(1 + ((60 * 24) % 48));
    expect(run(60.5, 59.94).shown.at(-1)).toBeGreaterThanOrEqual(12);
  });

  test('keeps time over a minute of a screen that comes early, late and in gaps', () => {
    const clock = new Clock(1);
    let now = 0;
    let seed = 1;
    for (let tick = 0; now < 60_000; tick++) {
      seed = (seed * 16807) % 2147483647;
      now += 4 + (seed % 40) + (tick % 97 === 0 ? 400 : 0);
      const { frame } = clock.next(now, timing, how());
      // The first tick starts the count.
      if (tick === 0) clock.next(now, timing, how());
      else expect(frame).toBeGreaterThanOrEqual(1);
    }
    const began = 4 + ((16807 % 2147483647) % 40) + 400;
    const due = Math.floor(((now - began) * 24) / 1000 + 1e-6);
    expect(clock.next(now, timing, how()).frame).toBe(1 + (due % 48));
  });

  test('loops without a hitch, swings without showing an end twice, and stops at the end once', () => {
    expect(new Set(run(4, 60).shown)).toEqual(new Set(Array.from({ length: 48 }, (_, i) => i + 1)));
    const swing = run(4, 240, { ending: 'swing' }).shown.filter((f, i, all) => f !== all[i - 1]);
    expect(swing.slice(45, 51)).toEqual([46, 47, 48, 47, 46, 45]);
    expect(run(10, 60, { ending: 'once' }).shown.at(-1)).toBe(48);
    expect(run(10, 60, { ending: 'once' }, 48).shown[0]).toBe(1);
  });

  test('at half and at double speed', () => {
    expect(run(1, 60, { speed: 0.5 }).shown.at(-1)).toBe(13);
    expect(run(0.5, 60, { speed: 2 }).shown.at(-1)).toBe(25);
  });

  test('says how many frames it left out where the screen is too slow', () => {
    expect(run(3, 60).dropped).toBe(0);
    const slow = run(3, 8);
    expect(slow.dropped).toBeGreaterThanOrEqual(14);
    expect(slow.shown.at(-1)).toBe(1 + ((3 * 24) % 48));
  });

  test('of every frame leaves none out, however slow the screen', () => {
    const { shown, dropped } = run(5, 8, { pace: 'every' });
    expect(shown.slice(0, 40)).toEqual(Array.from({ length: 40 }, (_, i) => i + 1));
    expect(dropped).toBe(0);
  });
});
