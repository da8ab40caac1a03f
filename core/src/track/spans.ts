import type { Clip } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { type ClipSpan, type ClipTrack, endOf } from '../document/track.ts';
import { newId } from '../schema/ids.ts';
import { playedOf } from './played.ts';

/** Spans as a hand changes them: moved, trimmed, split, slid inside. Each gives the track as it is then. */

const withSpan = (track: ClipTrack, id: string, change: (span: ClipSpan) => ClipSpan): ClipTrack => ({
  ...track,
  spans: track.spans.map((span) => (span.id === id ? change(span) : span)),
});

/** A span as it begins: all of a clip once, or three rounds of one that repeats. */
export function newSpan(clip: Clip, from: number, wanted: Partial<ClipSpan> = {}): ClipSpan {
  return {
    id: newId(),
    clip: clip.id,
    from: Math.round(from),
    length: clip.cycles ? clip.length * 3 : clip.length,
    into: 0,
    speed: 1,
    easeIn: 0,
    easeOut: 0,
    shape: 'soft',
    how: 'instead',
    strength: 1,
    inStep: true,
    controls: null,
    ...wanted,
  };
}

/** A track as it begins, over all others of its rig. */
export function newTrack(shot: Shot, rig: string, spans: readonly ClipSpan[] = []): ClipTrack {
  const own = shot.tracks.values().filter((t) => t.rig === rig);
  const rank = Math.max(0, ...own.map((t) => t.rank)) + 1;
  let n = own.length + 1;
  while (own.some((t) => t.name === `Track ${n}`)) n++;
  const plain = { muted: false, alone: false, locked: false };
  return { id: newId(), rig, name: `Track ${n}`, rank, ...plain, spans: [...spans] };
}

/** Another setting of a span. */
export const spanChanged = (track: ClipTrack, id: string, change: Partial<ClipSpan>): ClipTrack =>
  withSpan(track, id, (span) => ({ ...span, ...change }));

/** Lets a span begin on another frame; what it plays comes along. */
export const spanMoved = (track: ClipTrack, id: string, from: number): ClipTrack =>
  withSpan(track, id, (span) => ({ ...span, from: Math.round(from) }));

/** Lets a span begin or end on another frame; what it plays meanwhile stays on its frames. A span has a frame at least. */
export const spanTrimmed = (track: ClipTrack, id: string, side: 'start' | 'end', frame: number): ClipTrack =>
  withSpan(track, id, (span) => {
    const to = Math.round(frame);
    if (side === 'end') return { ...span, length: Math.max(1, to - span.from) };
    const from = Math.min(to, endOf(span) - 1);
    return { ...span, from, length: endOf(span) - from, into: span.into + (from - span.from) * span.speed };
  });

/** Lets a span play other frames of its clip. @param by frames of the clip */
export const spanSlid = (track: ClipTrack, id: string, by: number): ClipTrack =>
  withSpan(track, id, (span) => ({ ...span, into: span.into + by }));

/** Two spans in place of one, of which the second goes on where the first ends; the track itself where the frame is not inside. */
export function spanSplit(track: ClipTrack, id: string, frame: number, second: string): ClipTrack {
  const span = track.spans.find((s) => s.id === id);
  const at = Math.round(frame);
  if (!span || at <= span.from || at >= endOf(span)) return track;
  const first = { ...span, length: at - span.from, easeOut: 0 };
  const gone = (at - span.from) * span.speed;
  const rest = { ...span, id: second, from: at, length: endOf(span) - at, into: span.into + gone, easeIn: 0 };
  return { ...track, spans: track.spans.flatMap((s) => (s.id === id ? [first, rest] : [s])) };
}

/** Where two spans of a track lie over one another. */
export interface Crossing {
  readonly from: number;
  readonly to: number;
  readonly first: string;
  readonly second: string;
}

export function crossingsOf({ spans }: ClipTrack): Crossing[] {
  return spans.slice(1).flatMap((span, i): Crossing[] => {
    const before = spans[i];
    const to = Math.min(endOf(before), endOf(span));
    return to > span.from ? [{ from: span.from, to, first: before.id, second: span.id }] : [];
  });
}

/** Frames of the shot on which feet come down while a span plays, by the foot. */
export function footfallsOf(shot: Shot, track: ClipTrack, id: string): Record<string, number[]> {
  const played = playedOf(track, shot.clips).find((p) => p.span.id === id);
  if (!played) return {};
  const { clip, span, end } = played;
  const out: Record<string, number[]> = {};
  for (const [foot, stances] of Object.entries(clip.stances))
    for (const { from } of stances) {
      const falls: number[] = [];
      for (let f = span.from; f < end; f++) {
        const [a, b] = [played.clipFrame(f) - clip.first - from, played.clipFrame(f + 1) - clip.first - from];
        const n = clip.cycles ? Math.ceil(a / clip.length) * clip.length : 0;
        // It comes down between this frame and the next: where, as evenly as time goes.
        if (n >= a && n < b) falls.push(f + (n - a) / (b - a));
      }
      out[foot] = [...(out[foot] ?? []), ...falls].sort((x, y) => x - y);
    }
  return out;
}
