import { boardFrames, cameraRuns, findingsOf, footageSpan, frameOf, panelRuns, parseShot } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { harbourRigs } from '../rigs/index.ts';
import { jointPlace } from '../rigs/testing.ts';
import { heaveBlocked, heaveTheSack } from './04-heave-the-sack.ts';

const shot = heaveTheSack();
const at = (frame: number, joint: string, rig = 'porter') => jointPlace(frameOf(shot, frame), rig, joint);

describe('the sack that is heaved', () => {
  test('is a shot that Varrup reads, and the checks find nothing', () => {
    const parsed = parseShot(JSON.parse(JSON.stringify({ ...shot, rigs: undefined })), harbourRigs());
    expect(parsed).toMatchObject({ ok: true });
    expect(findingsOf(shot)).toEqual([]);
    expect(parseShot(JSON.parse(JSON.stringify({ ...heaveBlocked(), rigs: undefined })), harbourRigs()).ok).toBe(true);
  });

  test('planted feet stand to half a millimetre: the left one always, the right one but for its step', () => {
    const still = (joint: string, first: number, last: number) => {
      const [x, , z] = at(first, joint);
      for (let f = first; f <= last; f++) {
        const [nx, , nz] = at(f, joint);
        expect([f, Math.hypot(nx - x, nz - z) < 5e-4]).toEqual([f, true]);
      }
    };
    still('toesL', 1, 80);
    still('toesR', 1, 67);
    still('footR', 93, 200);
  });

  test('is gathered against the throw, longer than it, and driven from the foot up', () => {
    const forward = (frame: number) => at(frame, 'hips')[0];
    expect(forward(66)).toBeLessThan(forward(46) - 0.15);
    expect(at(66, 'hips')[1]).toBeLessThan(at(46, 'hips')[1] - 0.08);
    /** The frame in which a joint has first gone so far from where it was gathered. */
    const off = (joint: string, rig = 'porter') => {
      const from = at(66, joint, rig);
      for (let f = 67; ; f++) if (Math.hypot(...at(f, joint, rig).map((v, i) => v - from[i])) > 0.1) return f;
    };
    expect(off('hips')).toBeLessThanOrEqual(off('chest'));
    expect(off('chest')).toBeLessThanOrEqual(off('tip', 'boathook'));
    expect(off('hips')).toBeLessThan(off('tip', 'boathook'));
  });

  test('flies as it must: what it loses of its speed from frame to frame is gravity', () => {
    const high = (frame: number) => frameOf(shot, frame).value('sack', 'move.y')!;
    for (let f = 82; f <= 95; f++) {
      const bent = high(f + 1) - 2 * high(f) + high(f - 1);
      expect(-bent * 24 * 24).toBeCloseTo(9.81, 3);
    }
  });

  test('both hands are on the pole until the left one leaves it', () => {
    for (const f of [1, 29, 66, 74, 80, 91, 110, 120]) {
      const [grip, tip] = [at(f, 'grip', 'boathook'), at(f, 'tip', 'boathook')];
      for (const hand of f < 122 ? ['handL', 'handR'] : ['handR']) {
        const p = at(f, hand);
        const along = tip.map((v, i) => v - grip[i]);
        const length = Math.hypot(...along);
        const t = along.reduce((sum, v, i) => sum + v * (p[i] - grip[i]), 0) / length ** 2;
        const off = Math.hypot(...along.map((v, i) => p[i] - grip[i] - v * t));
        expect([f, hand, off < 0.02]).toEqual([f, hand, true]);
      }
    }
    expect(at(140, 'handL')[1]).toBeGreaterThan(at(140, 'head')[1]);
  });
});

describe('what it was planned by', () => {
  test('the board is as long as the shot, each panel has a drawing, and the reference begins with it', () => {
    expect(boardFrames(shot)).toBe(200);
    for (const { panel } of panelRuns(shot)) expect(shot.strokes.values().some((s) => s.on === panel.id)).toBe(true);
    expect(footageSpan(shot.footage.values()[0], 24).first).toBe(1);
    expect(cameraRuns(shot).length).toBe(1);
  });

  test('notes are open, done and dropped, on frames of the shot', () => {
    expect(
      shot.notes
        .values()
        .map((n) => n.state)
        .sort(),
    ).toEqual(['done', 'done', 'dropped', 'open']);
    for (const { first, last } of shot.notes.values()) expect([first >= 1, last <= 200]).toEqual([true, true]);
  });
});
