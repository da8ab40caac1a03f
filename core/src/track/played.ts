import type { Clip } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { type ClipSpan, type ClipTrack, endOf } from '../document/track.ts';
import { easing, type SpanTime, Stretches, timeAlone } from './span-time.ts';

/** A span as it plays: what of its clip, and how much of it, at each frame of the shot. */
export class Played {
  readonly span: ClipSpan;
  readonly clip: Clip;
  /** The track it lies on. */
  readonly track: string;
  /** Whether it has the body in its own way: such ones say how far it gets, and where its feet are. */
  readonly carries: boolean;
  readonly end: number;
  readonly #time: SpanTime;
  /** Frames over which it comes in, and goes out. */
  readonly #in: number;
  readonly #out: number;

  constructor(
    { span, clip, track, hasBody }: { span: ClipSpan; clip: Clip; track: string; hasBody: boolean },
    time: SpanTime,
    easeIn: number,
    easeOut: number,
  ) {
    this.span = span;
    this.clip = clip;
    this.track = track;
    this.carries = hasBody && span.controls === null && span.how === 'instead';
    this.end = endOf(span);
    this.#time = time;
    this.#in = easeIn;
    this.#out = easeOut;
  }

  /** Whether it plays at a frame. */
  plays(frame: number): boolean {
    return frame >= this.span.from && frame < this.end;
  }

  /** How much of it there is, from 0 to 1, by its easing and its strength. */
  weight(frame: number): number {
    const { shape, strength, from } = this.span;
    const come = this.#in > 0 ? easing((frame - from) / this.#in, shape) : 1;
    const go = this.#out > 0 ? easing((this.end - frame) / this.#out, shape) : 1;
    return strength * this.#level(frame - from) * Math.min(come, go);
  }

  /** The share of its strength that it has a number of frames after its beginning. */
  #level(at: number): number {
    const { levels, shape } = this.span;
    const i = levels.findIndex((p) => p.at >= at);
    if (i < 0) return levels[levels.length - 1]?.share ?? 1;
    if (i === 0) return levels[0].share;
    const [a, b] = [levels[i - 1], levels[i]];
    return a.share + (b.share - a.share) * easing((at - a.at) / (b.at - a.at), shape);
  }

  /** Frames of the shot on which its weight or its time begin to go another way. */
  get turns(): number[] {
    const { from, levels } = this.span;
    const own = [from, from + this.#in, this.end - this.#out, this.end];
    const bent = [...levels.map((p) => from + p.at), ...this.#time.turns];
    return [...own, ...bent.filter((f) => f > from && f < this.end)];
  }

  /** Whether all of it is there throughout two frames, at one speed. */
  isEven(from: number, to: number): boolean {
    const { span } = this;
    if (span.strength < 1 || from < span.from + this.#in || to > this.end - this.#out) return false;
    if (span.levels.length > 0 && this.#level((from + to) / 2 - span.from) < 1) return false;
    return this.#time.isEven(from, to);
  }

  /** Whether it plays the same frames of the same clip as another span, throughout two frames. */
  isAlike(other: Played, from: number, to: number): boolean {
    if (this.clip !== other.clip) return false;
    return [from, (2 * from + to) / 3, (from + 2 * to) / 3, to - 1e-9].every(
      (f) => Math.abs(this.clipFrame(f) - other.clipFrame(f)) < 1e-9,
    );
  }

  /** Which frame of the shot's old time the clip is read at: where its keys stand. */
  clipFrame(frame: number): number {
    return this.clip.first + this.#time.at(frame);
  }

  /** Frames of the clip to a frame of the shot. */
  speed(frame: number): number {
    return this.#time.speed(frame);
  }

  /** By how much it has turned its body at a frame, radians: it begins and ends softly. */
  turned(frame: number): number {
    const u = Math.min(1, Math.max(0, (frame - this.span.from) / this.span.length));
    return this.span.turn * u * u * (3 - 2 * u);
  }

  /** How fast it turns its body, radians a frame. */
  turning(frame: number): number {
    const u = Math.min(1, Math.max(0, (frame - this.span.from) / this.span.length));
    return (this.span.turn * 6 * u * (1 - u)) / this.span.length;
  }

  /** How fast its body gets on, metres a frame of the shot. */
  travel(frame: number): number {
    const { clip } = this;
    if (clip.travel === 0) return 0;
    const at = this.clipFrame(frame) - clip.first;
    return clip.cycles || (at >= 0 && at < clip.length) ? (clip.travel / clip.length) * this.speed(frame) : 0;
  }
}

/**
 * The spans of a track as they play: neighbours that overlap go over into each other, in step where that is wanted.
 * @param hasBody whether a clip has the whole body in its own way, and not a wave of a hand alone
 */
export function playedOf(
  track: ClipTrack,
  clips: Shot['clips'],
  hasBody: (clip: Clip) => boolean = () => true,
): Played[] {
  const spans = track.spans
    .filter((s) => clips.get(s.clip)?.rig === track.rig)
    .sort((a, b) => a.from - b.from || a.id.localeCompare(b.id));
  const out: Played[] = [];
  /** Where each span is in its clip when it comes in: further than told where it goes on in step. */
  let begins = spans[0]?.into ?? 0;
  spans.forEach((span, i) => {
    const clip = clips.at(span.clip);
    const [before, next] = [spans[i - 1], spans[i + 1]];
    const over = before ? Math.max(0, Math.min(endOf(before), endOf(span)) - span.from) : 0;
    const under = next ? Math.max(0, Math.min(endOf(span), endOf(next)) - next.from) : 0;
    const stepIn = over > 0 && steps(clips, before, span);
    const stepOut = under > 0 && steps(clips, span, next);
    let time: SpanTime;
    let there = 0;
    if (stepIn || stepOut) {
      const steps = new Stretches(span.from, begins);
      if (stepIn) steps.go(span.from + over, pace(clips, before) * clip.length, span.speed, span.shape);
      steps.go(Math.max(steps.frame, stepOut ? next.from : endOf(span)), span.speed);
      there = steps.place;
      if (stepOut) steps.go(endOf(span), span.speed, pace(clips, next) * clip.length, next.shape);
      time = steps;
    } else time = timeAlone(span, clip, begins);
    const what = { span, clip, track: track.id, hasBody: hasBody(clip) };
    out.push(new Played(what, time, over || span.easeIn, under > 0 ? 0 : span.easeOut));
    if (next)
      begins = stepOut ? onFrames(inStepWith(clip, there, clips.at(next.clip)), clips, span, next, under) : next.into;
  });
  return out;
}

/** A place to begin in step at, moved by less than half a frame so that once the crossing is over the clip's keys are on whole frames. */
function onFrames(begins: number, clips: Shot['clips'], before: ClipSpan, span: ClipSpan, over: number): number {
  const settled = begins + ((pace(clips, before) * clips.at(span.clip).length + span.speed) / 2) * over;
  return begins + Math.round(settled) - settled;
}

/** Whether a span goes on in step with the one before it: both repeat, and neither has a time of its own. */
const steps = (clips: Shot['clips'], a: ClipSpan, b: ClipSpan): boolean =>
  b.inStep && [a, b].every((s) => clips.at(s.clip).cycles && !s.time && !s.loop);

/** Rounds of its clip to a frame of the shot. */
const pace = (clips: Shot['clips'], span: ClipSpan): number => span.speed / clips.at(span.clip).length;

/** How many places round a cycle are tried. */
const TRIED = 48;

/**
 * Where in a clip one begins so that its feet are down when those of another are: the place of all round it at which they agree most, and of
 * several the one nearest to the same share of the round.
 * @param at where the other one is, frames from its beginning
 */
export const inStepWith = (one: Clip, at: number, other: Clip): number =>
  (at / one.length + shiftTo(one, other)) * other.length;

/** By how much of a round one clip must be ahead of another, found once for the two. */
const shifts = new WeakMap<Clip, WeakMap<Clip, number>>();

function shiftTo(one: Clip, other: Clip): number {
  const own = shifts.get(one) ?? new WeakMap<Clip, number>();
  shifts.set(one, own);
  const known = own.get(other);
  if (known !== undefined) return known;
  const [mine, theirs] = [downRound(one), downRound(other)];
  const feet = [...mine.keys()].filter((foot) => theirs.has(foot));
  let [best, most] = [0, Number.NEGATIVE_INFINITY];
  for (let k = 0; k < TRIED; k++) {
    const shift = k <= TRIED / 2 ? k : k - TRIED;
    let agree = -Math.abs(shift / TRIED) * 0.01;
    for (const foot of feet) {
      const [a, b] = [mine.get(foot)!, theirs.get(foot)!];
      for (let s = 0; s < TRIED; s++) if (a[s] === b[(s + k) % TRIED]) agree++;
    }
    if (agree > most) [best, most] = [shift / TRIED, agree];
  }
  own.set(other, best);
  return best;
}

/** When each foot of a clip is down, at even places all round it. */
const downRound = (clip: Clip): Map<string, boolean[]> =>
  new Map(
    Object.keys(clip.stances).map((foot) => [
      foot,
      Array.from({ length: TRIED }, (_, s) => isDown(clip, foot, s / TRIED)),
    ]),
  );

/** Whether a foot is down at a share of a clip's round. */
export function isDown({ stances, length }: Clip, foot: string, share: number): boolean {
  const at = (share - Math.floor(share)) * length;
  return (stances[foot] ?? []).some(({ from, to }) => (at >= from && at < to) || at + length < to);
}
