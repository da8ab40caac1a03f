import type { Clip } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { type ClipSpan, type ClipTrack, endOf, plainSpan } from '../document/track.ts';
import { newId } from '../schema/ids.ts';

/** Spans as a hand changes them: moved, trimmed, split, slid inside. Each gives the track as it is then. */

const withSpan = (track: ClipTrack, id: string, change: (span: ClipSpan) => ClipSpan): ClipTrack => ({
  ...track,
  spans: track.spans.map((span) => (span.id === id ? change(span) : span)),
});

/** A span as it begins: all of a clip once, or three rounds of what of it repeats, in the clip's own manner. */
export function newSpan(clip: Clip, from: number, wanted: Partial<ClipSpan> = {}): ClipSpan {
  const { rank: _, key: __, ...manner } = clip.manner;
  const { loop } = manner;
  const length = clip.cycles
    ? clip.length * 3
    : clip.length + (loop ? 2 * (Math.min(loop.to, clip.length) - loop.from) : 0);
  return {
    id: newId(),
    clip: clip.id,
    from: Math.round(from),
    length: Math.max(1, length),
    ...plainSpan,
    ...manner,
    ...wanted,
  };
}

/** A track as it begins, over all others of its rig. */
export function newTrack(shot: Shot, rig: string, spans: readonly ClipSpan[] = []): ClipTrack {
  const own = shot.tracks.values().filter((t) => t.rig === rig && !t.own);
  const rank = Math.max(0, ...own.map((t) => t.rank)) + 1;
  let n = own.length + 1;
  while (own.some((t) => t.name === `Track ${n}`)) n++;
  const plain = { muted: false, alone: false, locked: false, own: false };
  return { id: newId(), rig, name: `Track ${n}`, rank, ...plain, spans: [...spans] };
}

/** Another setting of a span. */
export const spanChanged = (track: ClipTrack, id: string, change: Partial<ClipSpan>): ClipTrack =>
  withSpan(track, id, (span) => ({ ...span, ...change }));

/** Lets a span begin on another frame; what it plays comes along. */
export const spanMoved = (track: ClipTrack, id: string, from: number): ClipTrack =>
  withSpan(track, id, (span) => ({ ...span, from: Math.round(from) }));

/** Points as they stand when the span begins so many frames later. */
const later = <P extends { readonly at: number }>(points: readonly P[], by: number): P[] =>
  points.map((p) => ({ ...p, at: p.at - by }));

/** A span that begins later or earlier; what it plays stays on its frames. A part that repeats begins where it is then. */
function begunAt(span: ClipSpan, from: number): ClipSpan {
  const by = from - span.from;
  return {
    ...span,
    from,
    length: span.length - by,
    into: span.into + by * span.speed,
    time: span.time && later(span.time, by),
    levels: later(span.levels, by),
  };
}

/** Lets a span begin or end on another frame; what it plays meanwhile stays on its frames. A span has a frame at least. */
export const spanTrimmed = (track: ClipTrack, id: string, side: 'start' | 'end', frame: number): ClipTrack =>
  withSpan(track, id, (span) => {
    const to = Math.round(frame);
    if (side === 'end') return { ...span, length: Math.max(1, to - span.from) };
    return begunAt(span, Math.min(to, endOf(span) - 1));
  });

/** Lets a span play other frames of its clip. @param by frames of the clip */
export const spanSlid = (track: ClipTrack, id: string, by: number): ClipTrack =>
  withSpan(track, id, (span) => ({
    ...span,
    into: span.into + by,
    time: span.time?.map((p) => ({ ...p, clip: p.clip + by })) ?? null,
  }));

/**
 * Two spans in place of one, of which the second goes on where the first ends; the track itself where the frame is not inside, or where a part of the clip
 * repeats: each half would want an end of its own.
 */
export function spanSplit(track: ClipTrack, id: string, frame: number, second: string): ClipTrack {
  const span = track.spans.find((s) => s.id === id);
  const at = Math.round(frame);
  if (!span || span.loop || at <= span.from || at >= endOf(span)) return track;
  const first = { ...span, length: at - span.from, easeOut: 0 };
  const rest = { ...begunAt(span, at), id: second, easeIn: 0 };
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

/** The track that stands for a rig's own keys, made where there is none yet. */
export const ownKeysTrack = (shot: Pick<Shot, 'tracks'>, rig: string): ClipTrack =>
  shot.tracks.values().find((t) => t.rig === rig && t.own) ?? {
    id: newId(),
    rig,
    name: 'Own keys',
    rank: 1e9,
    muted: false,
    alone: false,
    locked: false,
    own: true,
    spans: [],
  };
