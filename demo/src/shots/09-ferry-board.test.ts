import { type Frame, Program, parseShot } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { SQUARES } from '../ferry-picture.ts';
import { harbourRigs } from '../rigs/index.ts';
import { BLOCKS, EACH, ferryBoard, turns } from './09-ferry-board.ts';

const shot = ferryBoard();
const program = new Program(shot);
const frame = program.createFrame();
const blocks = shot.members.values().filter((m) => m.kind === 'block');
const matrix = (f: Frame, id: string) => {
  const slot = f.layout.slotOf.get(id)!;
  return [...f.world.slice(slot * 16, slot * 16 + 16)];
};
const at = (time: number) => {
  program.evaluate(time, frame);
  return new Map(blocks.map((b) => [b.id, matrix(frame, b.id)]));
};

describe('the ferry board', () => {
  test('is a document like any other', () => {
    expect(parseShot(shot, harbourRigs())).toMatchObject({ ok: true });
    expect(blocks).toHaveLength(BLOCKS * BLOCKS);
    expect(SQUARES % BLOCKS).toBe(0);
  });

  test('shows the picture at the end: every block at home and upright, to 0.001 mm and 0.0001°', () => {
    const end = at(shot.play.last);
    for (const block of blocks) {
      const [, column, row] = block.id.split('-').map(Number);
      const m = end.get(block.id)!;
      const home = [(column - 1.5) * 0.226, 0.98 + (row - 1.5) * 0.226, 0];
      home.forEach((v, i) => {
        expect(Math.abs(m[12 + i] - v)).toBeLessThan(1e-6);
      });
      [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1].forEach((v, i) => {
        expect(Math.abs(m[i] - v)).toBeLessThan(1e-6);
      });
    }
  });

  test('begins scrambled: most blocks away from home or turned', () => {
    const [start, end] = [at(1), at(shot.play.last)];
    const away = blocks.filter((b) => start.get(b.id)!.some((v, i) => Math.abs(v - end.get(b.id)![i]) > 0.01));
    expect(away.length).toBeGreaterThanOrEqual(12);
  });

  test('turns about changing axes, one after another, evenly', () => {
    expect(turns).toHaveLength(12);
    expect(new Set(turns.map((t) => t.axis.join())).size).toBe(3);
    const starts = turns.map((_, i) => 19 + i * EACH);
    for (const start of starts) {
      const [rest, out] = [at(start), at(start + 10)];
      const moved = blocks.filter((b) => Math.abs(out.get(b.id)![14] - rest.get(b.id)![14]) > 0.05);
      expect(moved).toHaveLength(4);
    }
  });

  test('no block ever goes into another, on any quarter frame', () => {
    // Two cubes of 0.22 m that both stand square cannot touch at this distance; a turned one needs its half diagonal.
    for (let time = 1; time <= shot.play.last; time += 0.25) {
      const now = [...at(time).values()];
      for (let i = 0; i < now.length; i++) {
        for (let k = i + 1; k < now.length; k++) expect(apart(now[i], now[k])).toBe(true);
      }
    }
  });

  test('every key stands on a whole frame', () => {
    for (const curve of shot.curves.values()) {
      for (const key of curve.keys) expect(Number.isInteger(key.frame)).toBe(true);
    }
  });
});

/** Whether two cubes lie apart: some face direction or pair of edges keeps them apart (the separating axis theorem). */
function apart(a: readonly number[], b: readonly number[]): boolean {
  const half = 0.11;
  const gap = [a[12] - b[12], a[13] - b[13], a[14] - b[14]];
  if (Math.hypot(...gap) > 2 * half * Math.sqrt(3)) return true;
  const axes = (m: readonly number[]) => [0, 1, 2].map((c) => [m[c * 4], m[c * 4 + 1], m[c * 4 + 2]]);
  const [ua, ub] = [axes(a), axes(b)];
  const dot = (p: readonly number[], q: readonly number[]) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2];
  const crossed = ua.flatMap((p) =>
    ub.map((q) => [p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0]]),
  );
  return [...ua, ...ub, ...crossed].some((n) => {
    if (Math.hypot(...n) < 1e-6) return false;
    const reach = [...ua, ...ub].reduce((sum, u) => sum + half * Math.abs(dot(u, n)), 0);
    return Math.abs(dot(gap, n)) >= reach - 1e-9;
  });
}
