import {
  addClip,
  type Clip,
  type ClipSpan,
  type ClipTrack,
  type Frame,
  frameOf,
  layByClip,
  type NumberCurve,
  newClip,
  Program,
  perform,
  plainSpan,
  putTrack,
  type Shot,
  valueAt,
} from '@varrup/core';
import { gaitSettings, withGait } from '../walking.ts';
import { jointMatrix, shotWith } from './testing.ts';

/** For tests: a goat with a walk, a trot and a bound, one that stands, and tracks to lay them on. */

/** What a trot has more of than a walk. */
const lively = { cadence: 10, stride: 68, bob: 4.4, spring: 50, lift: 17, tail: 16 };

export const FLAT = { kind: 'flat' } as const;

/** A goat with a walk, a trot and a bound, all laid by. */
export const goat = ((): Shot => {
  let shot = shotWith('goat');
  for (const pattern of ['walk', 'trot', 'bound']) {
    const settings = gaitSettings(shot, 'goat', { pattern }, pattern === 'trot' ? lively : {});
    shot = addClip.apply(shot, { clip: newClip(shot, 'goat', { id: pattern, name: pattern }) });
    shot = withGait(shot, 'goat', { name: pattern, settings, travelling: true });
  }
  shot = laidBy(shot);
  // One that stands as the walk does on its first frame, and never moves.
  const walk = shot.clips.at('walk');
  const curves = Object.entries(walk.kept!.curves).map(([path, curve]) => {
    const value = valueAt(curve as NumberCurve, walk.first + 3);
    const key = { frame: walk.first, value, in: FLAT, out: FLAT, joined: true, role: 'key' as const };
    const only: NumberCurve = { type: 'number', keys: [key], before: 'hold', after: 'hold' };
    return [path, only] as const;
  });
  const kept = { curves: Object.fromEntries(curves), recipes: {} };
  const still: Clip = { ...walk, id: 'still', name: 'still', travel: 0, travelling: false, stances: {}, kept };
  return { ...shot, clips: shot.clips.with('still', still) };
})();

export function laidBy(shot: Shot): Shot {
  const work = shot.clips.values().find((c) => c.kept === null);
  return work ? perform(shot, layByClip, { id: work.id })!.shot : shot;
}

export const clipCalled = (shot: Shot, name: string): Clip => shot.clips.values().find((c) => c.name === name)!;

export const span = (shot: Shot, name: string, more: Partial<ClipSpan>): ClipSpan => ({
  id: `${name}${more.from ?? 1}`,
  clip: clipCalled(shot, name).id,
  from: 1,
  length: 48,
  ...plainSpan,
  ...more,
});

export const track = (spans: readonly ClipSpan[], more: Partial<ClipTrack> = {}): ClipTrack => ({
  id: 'body',
  rig: 'goat',
  name: 'Body',
  rank: 1,
  muted: false,
  alone: false,
  locked: false,
  own: false,
  spans: [...spans],
  ...more,
});

export const laid = (shot: Shot, ...tracks: ClipTrack[]): Shot =>
  tracks.reduce((s, t) => perform(s, putTrack, { track: t })!.shot, shot);

/** All matrices of a shot at some frames. */
export function worlds(shot: Shot, frames: readonly number[]): Float64Array[] {
  const program = new Program(shot);
  const frame = program.createFrame();
  return frames.map((f) => {
    program.evaluate(f, frame);
    return frame.world.slice();
  });
}

export function farthest(a: readonly Float64Array[], b: readonly Float64Array[]): number {
  let most = 0;
  a.forEach((m, i) => {
    if (m.length !== b[i].length) throw new Error('The two are not the same cast.');
    for (let k = 0; k < m.length; k++) most = Math.max(most, Math.abs(m[k] - b[i][k]));
  });
  return most;
}

/** Where the heel and the toe of each hoof are, three numbers each. */
function hooves(frame: Frame): number[][] {
  const placed = frame.layout.rigAt.get(frame.layout.slotOf.get('goat')!)!;
  const { feet, joints } = placed.compiled.rig;
  const rest = restOf(placed.compiled.rig.id);
  return feet.map((foot) => {
    const { id } = joints.find((j) => j.by?.kind === 'foot' && j.by.foot === foot.id)!;
    const [m, r] = [jointMatrix(frame, 'goat', id), jointMatrix(rest, 'goat', id)];
    return [foot.heel, foot.toe].flatMap((at) => {
      const d = at.map((v, c) => v - r[12 + c]);
      const own = [0, 4, 8].map((c) => r[c] * d[0] + r[c + 1] * d[1] + r[c + 2] * d[2]);
      return [0, 1, 2].map((c) => m[12 + c] + m[c] * own[0] + m[4 + c] * own[1] + m[8 + c] * own[2]);
    });
  });
}
/** Lower than this it touches the floor, metres: not yet where it only comes down or begins to lift. */
const TOUCH = 1e-3;
let rest: Frame | null = null;
function restOf(rig: string): Frame {
  rest ??= frameOf(shotWith(rig), 1);
  return rest;
}

/** How far what touches the floor in one frame and in the next goes over it at most, mm; and how deep anything is in it. */
export function slides(shot: Shot, first: number, last: number): { slide: number; at: number; deep: number } {
  const program = new Program(shot);
  const frame = program.createFrame();
  let before: number[][] | null = null;
  let [slide, at, deep] = [0, 0, 0];
  for (let f = first; f <= last; f++) {
    program.evaluate(f, frame);
    const now = hooves(frame);
    now.forEach((points, i) => {
      for (const p of [0, 3]) {
        deep = Math.max(deep, -points[p + 1] * 1000);
        const old = before?.[i];
        if (!old || old[p + 1] > TOUCH || points[p + 1] > TOUCH) continue;
        const gone = Math.hypot(points[p] - old[p], points[p + 2] - old[p + 2]) * 1000;
        if (gone > slide) [slide, at] = [gone, f];
      }
    });
    before = now;
  }
  return { slide, at, deep };
}
