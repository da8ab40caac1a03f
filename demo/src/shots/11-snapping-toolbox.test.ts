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
    const bites = frames.filter((_, i) => open[i] > 50 && open[i + 1] <= 50 && open[i] > open[i + 1]);
    expect(bites).toHaveLength(2);
    for (const f of bites) expect(Math.min(...open.slice(f - first, f - first + 7))).toBeLessThan(3);
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

  test('stands on its feet: none of them moves', () => {
    for (const foot of ['foreFootL', 'foreFootR', 'hindFootL', 'hindFootR']) {
      expect(shot.curves.keys().filter((p) => p.startsWith(`toolbox-${foot}.`))).toEqual([]);
    }
  });
});
