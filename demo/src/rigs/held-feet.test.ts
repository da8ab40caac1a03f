import {
  addClip,
  type Clip,
  changeChannels,
  clipAtWork,
  findingsOf,
  footfallOf,
  holdFeet,
  type NumberCurve,
  newClip,
  perform,
  type Shot,
  valueAt,
} from '@varrup/core';
import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { shotWith } from './testing.ts';

const rad = (degrees: number) => (degrees * Math.PI) / 180;

/** How high the porter's foot control must be moved for its sole to touch the floor when it is pitched: heel or toe. */
function heightFor(pitch: number): number {
  const lowest = [-0.052, 0.19].map((z) => -0.085 * Math.cos(pitch) - z * Math.sin(pitch));
  return -Math.min(...lowest) - 0.085;
}

/** One pose of a step: which phase of 24, how far its foot is pitched, degrees, and how far it is off its straight way, metres. */
interface Pose {
  readonly at: number;
  readonly pitch: number;
  readonly off: number;
}

/** A walk of the porter with the poses keyed that are given; each foot is down for 14 frames of 24. */
function walk(poses: readonly Pose[], halves: Clip['halves'], stride = 1.3): Shot {
  let shot = shotWith('porter');
  shot = addClip.apply(shot, { clip: newClip(shot, 'porter', { id: 'walk', halves }) });
  for (const { at, pitch, off } of poses) {
    const values: Record<string, number> = { 'porter-hips.turn.y': 0.1 };
    for (const [foot, later] of [
      ['footR', 0],
      ['footL', 12],
    ] as const) {
      const phase = (at + later) % 24;
      const down = phase <= 14;
      const way = down ? (7 - phase) / 24 : (phase - 19) / 14;
      const own = down ? rad(pitch) : 0.2;
      values[`porter-${foot}.move.z`] = way * stride + (down ? off : 0);
      values[`porter-${foot}.move.y`] = (down ? 0 : 0.12) + heightFor(own);
      values[`porter-${foot}.turn.x`] = own;
    }
    shot = perform(shot, changeChannels, { frame: 1 + at, values, autoKey: 'every' })?.shot ?? shot;
  }
  return shot;
}

const clipOf = (shot: Shot) => clipAtWork(shot, 'porter')!;
const turnsOf = (shot: Shot, foot: string) =>
  ['x', 'y', 'z'].flatMap((axis) => (shot.curves.get(`porter-${foot}.turn.${axis}`) as NumberCurve)?.keys ?? []);

function held(shot: Shot): Shot | string {
  const seen = footfallOf(shot, clipOf(shot));
  if (typeof seen === 'string') return seen;
  return perform(shot, holdFeet, { id: 'walk', ...seen })!.shot;
}

const fourPoses = (pitches: readonly number[], offs = [0, 0, 0, 0]): Pose[] =>
  [0, 3, 6, 9].map((at, i) => ({ at, pitch: pitches[i], off: offs[i] }));

describe('feet held to the ground', () => {
  test('keep the pitch they were keyed with, and what touches the floor stands', () => {
    const shot = walk(fourPoses([-18, 0, -1, -3.2], [0.012, -0.02, 0.008, 0]), 'mirrored');
    expect(findingsOf(shot).some((f) => f.check === 'footSlides')).toBe(true);
    const done = held(shot) as Shot;
    const pitch = (frame: number) =>
      (valueAt(done.curves.get('porter-footR.turn.x') as NumberCurve, frame) * 180) / Math.PI;
    for (const [frame, degrees] of [
      [1, -18],
      [4, 0],
      [7, -1],
      [10, -3.2],
    ])
      expect(pitch(frame)).toBeCloseTo(degrees, 9);
    expect(findingsOf(done).filter((f) => ['footSlides', 'travelAndStride', 'belowFloor'].includes(f.check))).toEqual(
      [],
    );
    expect(Math.abs(clipOf(done).travel - 1.3)).toBeLessThan(0.13);
  });

  test('of 200 random walks, whole and half made, change no keyed turn by half a degree, and none that is no cycle is touched', () => {
    let [refused, whole] = [0, 0];
    fc.assert(
      fc.property(
        fc.array(fc.record({ pitch: fc.integer({ min: -20, max: 20 }), off: fc.integer({ min: -25, max: 25 }) }), {
          minLength: 4,
          maxLength: 4,
        }),
        fc.integer({ min: 0, max: 30 }),
        fc.boolean(),
        (poses, left, mirrored) => {
          // One in three is half made: of its poses some are missing.
          const isThere = (i: number) => left > 10 || ((left + 1) & (1 << i)) !== 0;
          const made = poses
            .map((p, i) => ({ at: i * 3, pitch: p.pitch, off: p.off / 1000 }))
            .filter((_, i) => isThere(i));
          const shot = walk(made, mirrored ? 'mirrored' : 'free');
          const done = held(shot);
          if (typeof done === 'string') {
            refused++;
            expect(done).toMatch(/^(No foot has a key between frames \d+ and \d+: .* missing|foot [LR] .*)\.$/);
            return;
          }
          whole++;
          for (const foot of ['footL', 'footR']) {
            const after = turnsOf(done, foot);
            for (const key of turnsOf(shot, foot))
              expect(after.some((k) => k.frame === key.frame && Math.abs(k.value - key.value) <= rad(0.5))).toBe(true);
          }
          // A heel that leaves the floor fast moves on a little while it is within the 3 mm that count as touching.
          for (const finding of findingsOf(done))
            if (finding.check === 'footSlides') expect(finding.value).toBeLessThan(1.5);
        },
      ),
      { numRuns: 200 },
    );
    expect(Math.min(refused, whole)).toBeGreaterThan(20);
  });

  test('are refused on half a step, with what is missing, and the checks of cycles wait until it is whole', () => {
    const begun = walk(fourPoses([-18, 0, 0, 10]).slice(0, 2), 'mirrored');
    expect(held(begun)).toBe('No foot has a key between frames 4 and 13: passing at 7 and up at 10 are missing.');
    const ofCycles = ['halvesDiffer', 'footSlides', 'seamHitch', 'travelAndStride', 'stiffHips', 'armWithLeg'];
    expect(findingsOf(begun).filter((f) => ofCycles.includes(f.check))).toEqual([]);
    const standing = addClip.apply(shotWith('porter'), {
      clip: newClip(shotWith('porter'), 'porter', { id: 'walk' }),
    });
    expect(held(standing)).toBe('foot L has no key yet.');
    let uneven = walk(
      [0, 3, 6, 9, 12, 15, 18, 21].map((at) => ({ at, pitch: 0, off: 0 })),
      'free',
    );
    expect(typeof held(uneven)).not.toBe('string');
    for (const key of (uneven.curves.get('porter-footL.move.z') as NumberCurve).keys) {
      const values = { 'porter-footL.move.z': key.value / 2 };
      uneven = changeChannels.apply(uneven, { frame: key.frame, values, autoKey: 'every' });
    }
    expect(held(uneven)).toMatch(
      /^foot R would carry the body 1\.\d+ m in a cycle and foot L 0\.\d+ m: pose them to the same stride\.$/,
    );
  });
});
