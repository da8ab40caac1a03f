import type { Shot } from '../document/shot.ts';
import { type ClipSpan, type ClipTrack, endOf } from '../document/track.ts';
import type { Frame } from '../evaluate/frame.ts';
import { Program } from '../evaluate/program.ts';
import type { PlacedRig } from '../rig/placed.ts';
import { givenBy } from '../track/arrangement.ts';
import { CourseReader } from '../track/course.ts';
import { placeInClip } from '../track/marks.ts';
import { TOUCHES, WatchedCycle } from './cycles.ts';

/** How many crossings are tried at most. */
export const mostTried = (): number => PLACES.length * LENGTHS.length;

/** A way to go from one span over into the next, tried: where it begins, how long it takes, and what it does to the feet. */
export interface TriedCrossing {
  readonly from: number;
  readonly over: number;
  /** How far a foot that touches the ground goes over it at most, millimetres a frame. */
  readonly slide: number;
  /** How far a leg is drawn out at most, as a share of its length. */
  readonly reach: number;
  /** How hard a foot is pushed or stopped at most, as a multiple of the hardest in the two clips by themselves. */
  readonly rush: number;
  /** The sharpest corner in the way of a foot through the air, degrees. */
  readonly corner: number;
  /** The track as it is with it. */
  readonly track: ClipTrack;
}

/** How long crossings are that are tried, frames. */
const LENGTHS = [6, 8, 10, 12, 16, 20, 24];
/** Where round the cycle they begin, in sixths of it: the nearest first. */
const PLACES = [0, 1, -1, 2, -2, 3];

/**
 * Tries crossings from the span before one into it, round the place where it begins now: all lengths at several phases. Gives each as it is found, and null
 * between them where somebody else may have a turn.
 * @param id the span that is gone over into
 */
export function* triedCrossings(shot: Shot, track: ClipTrack, id: string): Generator<TriedCrossing | null> {
  const k = track.spans.findIndex((s) => s.id === id);
  const second = track.spans[k];
  const first = k > 0 ? asItIs(shot, track, k - 1) : undefined;
  const clip = first && shot.clips.get(first.clip);
  if (!first || !second || !clip) return;
  const alone = { ...shot, tracks: shot.tracks.with(track.id, { ...track, spans: [first, second], alone: true }) };
  const round = Math.max(1, Math.round((clip.cycles ? clip.length : 1) / first.speed));
  const tame = Math.max(1e-6, roughest(alone, track.rig, first, second));
  yield null;
  for (const place of PLACES) {
    const from = second.from + Math.round((place / PLACES.length) * round);
    for (const over of LENGTHS) {
      if (from < first.from + 2 || from + over > endOf(second) - 2) continue;
      const later = { ...second, from, length: endOf(second) - from };
      const spans = [{ ...first, length: from + over - first.from }, later];
      const before = track.spans[k - 1];
      const next = track.spans.with(k - 1, { ...before, length: from + over - before.from }).with(k, later);
      const tried = { ...alone, tracks: alone.tracks.with(track.id, { ...track, spans, alone: true }) };
      const { push, ...feet } = measured(tried, track.rig, from - 2, from + over + 2);
      yield { from, over, ...feet, rush: push / tame, track: { ...track, spans: next } };
      yield null;
    }
  }
}

/** A crossing shorter than this is sudden, however kind to the feet, frames. */
const SUDDEN = 12;

/** A span by itself as it is on its track once it has come in: in the phase that going in step has brought it to. */
function asItIs(shot: Shot, track: ClipTrack, k: number): ClipSpan {
  const [before, span] = [track.spans[k - 1], track.spans[k]];
  const from = Math.min(endOf(span) - 1, before ? Math.max(span.from, endOf(before)) : span.from);
  const into = placeInClip(shot, track, span.id, from);
  return span.time || into === null ? span : { ...span, from, length: endOf(span) - from, into };
}

/** Of several, the one that is kindest to the feet: that does not slide, draws no leg out, turns no corners and hurries least. Of two alike the first. */
export const kindest = (tried: readonly TriedCrossing[]): TriedCrossing | undefined =>
  [...tried].sort((a, b) => unkind(a) - unkind(b))[0];

/** In steps of a twentieth: what differs by less is alike. */
const unkind = ({ over, slide, reach, rush, corner }: TriedCrossing): number => {
  const sudden = Math.max(0, SUDDEN / over - 1) / 10;
  const hurt = Math.max(0, reach - 0.985) * 100 + Math.max(0, rush - 1) + Math.max(0, corner - 45) / 45;
  return Math.round((slide / 3 + hurt + sudden) * 20);
};

/** How hard feet are pushed at most where each of two spans has the body alone, over a round of each. */
function roughest(shot: Shot, rig: string, first: ClipSpan, second: ClipSpan): number {
  const alone = (span: ClipSpan) => {
    const clip = shot.clips.at(span.clip);
    const long = Math.min(span.length, Math.ceil(clip.length / span.speed));
    const [track] = shot.tracks.values().filter((t) => t.rig === rig && t.alone);
    const only = { ...shot, tracks: shot.tracks.with(track.id, { ...track, spans: [span] }) };
    return measured(only, rig, span.from, span.from + long).push;
  };
  return Math.max(alone(first), alone(second));
}

interface Measured {
  readonly slide: number;
  readonly reach: number;
  readonly push: number;
  readonly corner: number;
}

/** What the feet of a rig do between two frames. */
function measured(shot: Shot, rig: string, from: number, to: number): Measured {
  const given = givenBy(shot, rig);
  const program = new Program(shot);
  const frame = program.createFrame();
  const placed = placedIn(frame, rig);
  const none: Measured = { slide: 0, reach: 0, push: 0, corner: 0 };
  if (!given || !placed) return none;
  const watched = new WatchedCycle(shot, placed, rig, { first: from, length: to - from, clip: null });
  for (let i = 0; i <= to - from; i++) {
    program.evaluate(from + i, frame);
    watched.note(frame, i);
  }
  onStage(watched, new CourseReader(given.course));
  return watched.feet.reduce(
    (most, foot) => ({
      slide: Math.max(most.slide, slideOf(foot.points) * 1000),
      reach: Math.max(most.reach, reachOf(watched, foot.limb)),
      push: Math.max(most.push, pushOf(foot.points)),
      corner: Math.max(most.corner, cornerOf(foot.points)),
    }),
    none,
  );
}

/** Puts what was noted of feet, as the body sees them, to where they are on the stage. */
function onStage({ feet, first }: WatchedCycle, course: CourseReader): void {
  for (const { points } of feet)
    for (let at = 0; at < points.length; at += 3) {
      const [x, z] = course.toStage(first + Math.floor(at / 9), [points[at], points[at + 2]]);
      points[at] = x;
      points[at + 2] = z;
    }
}

function placedIn(frame: Frame, rig: string): PlacedRig | undefined {
  const slot = frame.layout.slotOf.get(rig);
  return slot === undefined ? undefined : frame.layout.rigAt.get(slot);
}

/** How far heel, ball or toe goes over the ground at most from a frame on which it touches it to the next. */
function slideOf(points: Float64Array): number {
  let most = 0;
  for (let i = 0; i * 9 + 9 < points.length; i++)
    for (const c of [0, 3, 6]) {
      const [a, b] = [i * 9 + c, i * 9 + 9 + c];
      if (points[a + 1] > TOUCHES / 3 || points[b + 1] > TOUCHES / 3) continue;
      most = Math.max(most, Math.hypot(points[b] - points[a], points[b + 2] - points[a + 2]));
    }
  return most;
}

/** The hardest push of the ball of a foot, metres a frame a frame. */
function pushOf(points: Float64Array): number {
  let most = 0;
  for (let i = 1; i * 9 + 9 < points.length; i++) {
    const bent = (c: number) => points[(i + 1) * 9 + 3 + c] - 2 * points[i * 9 + 3 + c] + points[(i - 1) * 9 + 3 + c];
    most = Math.max(most, Math.hypot(bent(0), bent(1), bent(2)));
  }
  return most;
}

/** A foot lower than this is not in the air, and one that gets on less in a frame turns no corner; metres. */
const [IN_THE_AIR, GETS_ON] = [5e-3, 1.5e-2];

/** The sharpest corner of the way of the ball of a foot while it is in the air, degrees. */
function cornerOf(points: Float64Array): number {
  let most = 0;
  for (let i = 1; i * 9 + 9 < points.length; i++) {
    const [a, b, c] = [i * 9 - 6, i * 9 + 3, i * 9 + 12];
    if (Math.min(points[a + 1], points[b + 1], points[c + 1]) < IN_THE_AIR) continue;
    const step = (from: number, to: number) =>
      [points[to] - points[from], points[to + 1] - points[from + 1], points[to + 2] - points[from + 2]] as const;
    const [u, v] = [step(a, b), step(b, c)];
    const [m, n] = [Math.hypot(...u), Math.hypot(...v)];
    if (Math.min(m, n) < GETS_ON) continue;
    const dot = u[0] * v[0] + u[1] * v[1] + u[2] * v[2];
    most = Math.max(most, (Math.acos(Math.min(1, Math.max(-1, dot / (m * n)))) * 180) / Math.PI);
  }
  return most;
}

function reachOf(watched: WatchedCycle, limb: WatchedCycle['feet'][number]['limb']): number {
  const { jointAt, rig } = watched.placed.compiled;
  const [upper, lower, end] = [limb.upper, limb.lower, limb.end].map((id) => jointAt.get(id)! * 3);
  const { joints } = watched;
  const apart = (at: number, a: number, b: number) =>
    Math.hypot(
      joints[at + a] - joints[at + b],
      joints[at + a + 1] - joints[at + b + 1],
      joints[at + a + 2] - joints[at + b + 2],
    );
  let most = 0;
  for (let at = 0; at < joints.length; at += rig.joints.length * 3)
    most = Math.max(most, apart(at, upper, end) / (apart(at, upper, lower) + apart(at, lower, end)));
  return most;
}
