import { findingsOf, Program, parseShot } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { harbourRigs } from '../rigs/index.ts';
import { snappingToolbox } from './11-snapping-toolbox.ts';

const shot = snappingToolbox();
const program = new Program(shot);
const frame = program.createFrame();
const { first, last } = shot.play;
const frames = Array.from({ length: last - first + 1 }, (_, i) => first + i);
const values = (member: string, channel: string) =>
  frames.map((f) => {
    program.evaluate(f, frame);
    return frame.value(member, channel)!;
  });
const degrees = (v: number) => (v * 180) / Math.PI;

describe('the snapping toolbox', () => {
  test('is a shot that Varrup reads, and the checks find nothing', () => {
    expect(parseShot(JSON.parse(JSON.stringify(shot)), harbourRigs()).ok).toBe(true);
    expect(findingsOf(shot)).toEqual([]);
  });

  test('bites twice: wide open, and shut within six frames', () => {
    const open = values('toolbox-lid', 'open').map(degrees);
    const bites = frames.filter((_, i) => open[i] > 40 && open[i + 1] <= 40);
    expect(bites).toHaveLength(2);
    for (const f of bites) expect(Math.min(...open.slice(f - first, f - first + 7))).toBeLessThan(4);
  });

  test('keeps its volume while it is drawn up and squashed', () => {
    const [x, y, z] = ['x', 'y', 'z'].map((a) => values('toolbox-body', `size.${a}`));
    frames.forEach((f, i) => {
      expect([f, Math.abs(x[i] * y[i] * z[i] - 1) < 0.03]).toEqual([f, true]);
    });
  });

  test('wags its key by a wave that closes with the shot, the key later than the chain, and not in its sleep', () => {
    const [chain, key] = [values('toolbox-chain', 'turn.y'), values('toolbox-chainTip', 'turn.y')];
    expect(Math.abs(chain[0])).toBeLessThan(1e-9);
    expect(Math.abs(chain[chain.length - 1])).toBeLessThan(1e-9);
    expect(Math.max(...chain.slice(0, 24).map(Math.abs))).toBe(0);
    const swings = (v: number[]) =>
      v.flatMap((x, i) => (i > 0 && Math.sign(x) !== Math.sign(v[i - 1]) && x !== 0 ? [i] : []));
    const [own, later] = [swings(chain.slice(46, 78)), swings(key.slice(46, 78))];
    expect(own.length).toBeGreaterThanOrEqual(4);
    expect(later[1] - own.findLast((f) => f <= later[1])!).toBe(2);
    expect(degrees(Math.max(...chain))).toBeGreaterThan(20);
  });

  test('springs from its hind feet, which stay where they are; the forefeet step only when they are off the floor', () => {
    for (const foot of ['hindFootL', 'hindFootR']) {
      for (const channel of ['move.x', 'move.y', 'move.z']) {
        expect(new Set(values(`toolbox-${foot}`, channel)).size).toBe(1);
      }
    }
    for (const foot of ['foreFootL', 'foreFootR']) {
      const [up, along] = [values(`toolbox-${foot}`, 'move.y'), values(`toolbox-${foot}`, 'move.z')];
      expect(Math.max(...along) - Math.min(...along)).toBeGreaterThan(0.04);
      const slides = frames.filter(
        (_, i) => i > 0 && up[i] + up[i - 1] < 1e-9 && Math.abs(along[i] - along[i - 1]) > 5e-4,
      );
      expect(slides).toEqual([]);
    }
  });

  test('drags the crate only while the teeth have the tag, and keeps the tag: its lower end stays between them', () => {
    const moved = values('edge', 'move.x');
    expect(new Set(moved.slice(0, 128)).size).toBe(1);
    expect(Math.abs(moved[133] - moved[127])).toBeGreaterThan(0.03);
    const [y, z, turn] = ['move.y', 'move.z', 'turn.x'].map((c) => values('tag', c).slice(127));
    const ends = turn.map((a, i) => [y[i] + 0.14 * Math.cos(a), z[i] + 0.14 * Math.sin(a)]);
    for (const [up, ahead] of ends) expect(Math.hypot(up - ends[0][0], ahead - ends[0][1])).toBeLessThan(0.002);
    // It hangs out of the mouth in the end, and not up as it hung from the nail.
    expect(Math.abs(turn.at(-1)! - turn[0])).toBeGreaterThan(1);
  });
});
