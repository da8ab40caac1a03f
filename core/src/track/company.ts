import type { Clip, Follow } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { type ClipSpan, type ClipTrack, endOf, plainSpan } from '../document/track.ts';

/**
 * Clips tried in company, as a game would play them: one has the body and gives way to those that may follow it, others come and go over it by keys of the
 * keyboard. What was pressed when makes tracks; so the same evaluation plays them, and what was tried can be kept.
 */

/** What was pressed, and on which frame. */
export interface Pressed {
  readonly frame: number;
  /** A key of the keyboard, or an arrow. */
  readonly press: { readonly key: string } | { readonly arrow: Exclude<Follow['by'], 'end'> };
}

/** A trial: who has the body at its beginning, and what was pressed since. */
export interface Company {
  readonly rig: string;
  /** The clip that has the body first; null is standing at rest. */
  readonly base: string | null;
  /** The frame it begins on. */
  readonly from: number;
  readonly pressed: readonly Pressed[];
}

/** Whether a clip goes on until it is stopped. */
const goesOn = ({ cycles, manner }: Clip): boolean => cycles || manner.loop !== null;

/** The tracks of a trial, laid out up to a frame. The lowest has the body; over it one for each clip that a key has started. */
export function companyTracks(shot: Shot, company: Company, until: number): ClipTrack[] {
  const base = baseSpans(shot, company, until);
  const over = shot.clips
    .values()
    .filter((clip) => clip.rig === company.rig && clip.manner.key !== null)
    .sort((a, b) => a.manner.rank - b.manner.rank || a.id.localeCompare(b.id))
    .map((clip) => [clip, overSpans(clip, company, until)] as const)
    .filter(([, spans]) => spans.length > 0);
  const track = (name: string, id: string, rank: number, spans: ClipSpan[]): ClipTrack => ({
    id,
    rig: company.rig,
    name,
    rank,
    muted: false,
    alone: false,
    locked: false,
    own: false,
    spans,
  });
  const lowest = base.length > 0 ? [track('Body', `${company.rig.slice(0, 24)}-tried`, 0, base)] : [];
  return [...lowest, ...over.map(([clip, spans], i) => track(clip.name, `${clip.id.slice(0, 24)}-over`, i + 1, spans))];
}

/** Who has the body, one after another: by arrows, and by the end of those that end. */
function baseSpans(shot: Shot, { base, from, pressed }: Company, until: number): ClipSpan[] {
  const spans: ClipSpan[] = [];
  /** When the last one has come in: before it no other comes. */
  let settled = from;
  const enter = (clip: Clip, at: number, over: number) => {
    const last = spans[spans.length - 1];
    if (last) spans[spans.length - 1] = { ...last, length: at + over - last.from };
    const { loop, shape } = clip.manner;
    const length = Math.max(1, goesOn(clip) ? until - at : clip.length);
    // Who goes on and on would go round in circles: only what ends turns.
    const turn = goesOn(clip) ? 0 : clip.manner.turn;
    spans.push({ ...plainSpan, id: `b${spans.length}`, clip: clip.id, from: at, length, loop, shape, turn });
    settled = at + over;
  };
  const now = (): Clip | undefined => shot.clips.get(spans[spans.length - 1]?.clip ?? '');
  const follower = (by: Follow['by']) => {
    const [id, how] = Object.entries(now()?.follows ?? {}).find(([, f]) => f.by === by) ?? [];
    const clip = id === undefined ? undefined : shot.clips.get(id);
    return clip && how ? { clip, how } : null;
  };
  /** Lets clips that end by themselves give way, up to a frame. */
  const goOn = (frame: number) => {
    for (let guard = 0; guard < 1_000; guard++) {
      const clip = now();
      const next = follower('end');
      if (!clip || goesOn(clip) || !next) return;
      const end = endOf(spans[spans.length - 1]);
      const at = Math.max(settled, end - next.how.over);
      if (at > frame) return;
      enter(next.clip, at, Math.max(0, Math.min(next.how.over, end - at)));
    }
  };
  const first = base === null ? undefined : shot.clips.get(base);
  if (!first) return [];
  enter(first, from, 0);
  for (const { frame, press } of pressed) {
    if (!('arrow' in press)) continue;
    goOn(frame);
    const next = follower(press.arrow);
    if (next) enter(next.clip, Math.max(settled, frame), next.how.over);
  }
  goOn(until);
  return spans;
}

/** A clip that a key starts, and stops where it does not end by itself. */
function overSpans(clip: Clip, { pressed }: Company, until: number): ClipSpan[] {
  const { key, rank: _, ...manner } = clip.manner;
  const spans: ClipSpan[] = [];
  for (const { frame, press } of pressed) {
    if (!('key' in press) || press.key !== key) continue;
    const last = spans[spans.length - 1];
    if (last && endOf(last) > frame && !isLeaving(last, clip, frame, until)) {
      spans[spans.length - 1] = { ...last, length: Math.max(1, leftAt(last, clip, frame) - last.from) };
      continue;
    }
    // Where it has not gone yet it is gone when the new one begins.
    if (last && endOf(last) > frame) spans[spans.length - 1] = { ...last, length: Math.max(1, frame - last.from) };
    const id = `${clip.id.slice(0, 20)}-${spans.length}`;
    spans.push({ ...plainSpan, ...manner, id, clip: clip.id, from: frame, length: openLength(clip, until - frame) });
  }
  return spans;
}

/** How long a span is that nobody has stopped: whole rounds of what repeats, beyond a number of frames. */
function openLength({ cycles, length, manner: { loop } }: Clip, beyond: number): number {
  if (!loop) return cycles ? Math.max(1, beyond) : length;
  const round = Math.min(loop.to, length) - loop.from;
  return length + Math.max(0, Math.ceil((beyond - length) / round)) * round;
}

/** Whether a span is on its way out already at a frame. */
const isLeaving = (span: ClipSpan, clip: Clip, frame: number, until: number): boolean =>
  goesOn(clip) ? endOf(span) < until : frame > endOf(span) - span.easeOut;

/** When a span is gone that is stopped at a frame: after the round it is in and its end, or as soon as it has eased out. */
function leftAt(span: ClipSpan, { length }: Clip, frame: number): number {
  const { loop, from } = span;
  if (!loop) return Math.min(endOf(span), frame + Math.max(1, span.easeOut));
  const high = Math.min(loop.to, length);
  const rounds = Math.max(0, Math.ceil((frame - from - high) / (high - loop.from)));
  return from + high + rounds * (high - loop.from) + (length - high);
}
