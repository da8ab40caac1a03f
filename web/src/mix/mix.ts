import {
  type Clip,
  type ClipSpan,
  type ClipTrack,
  newId,
  newSpan,
  newTrack,
  putTrack,
  type Shot,
  spanChanged,
  spanSplit,
  takeUpClip,
  tracksOf,
} from '@varrup/core';
import { create } from 'zustand';
import { run } from '../commands/now.ts';
import { usePlayhead } from '../view/playhead.ts';

/** The span that is picked in the mix. */
export const useMix = create<{ readonly span: string | null }>(() => ({ span: null }));
export const pickSpan = (span: string | null): void => useMix.setState({ span });

/** A span and its track, by the span's id. */
export function spanOf(shot: Shot, id: string | null): { track: ClipTrack; span: ClipSpan } | null {
  for (const track of shot.tracks.values()) {
    const span = track.spans.find((s) => s.id === id);
    if (span) return { track, span };
  }
  return null;
}

/** Lays a clip on a track from the frame of now on, or after what is there; without a track on a new one. */
export function layClip(shot: Shot, clip: Clip, onto: ClipTrack | null): void {
  const track = onto ?? newTrack(shot, clip.rig);
  const { frame } = usePlayhead.getState();
  const ends = track.spans.map((s) => s.from + s.length);
  const taken = track.spans.some((s) => frame >= s.from && frame < s.from + s.length);
  const span = newSpan(clip, taken ? Math.max(...ends) : frame);
  run(putTrack, { track: { ...track, spans: [...track.spans, span] }, does: `lay ${clip.name} on ${track.name}` });
  pickSpan(span.id);
}

/** The clip of a rig laid over what its other tracks say, on a track of its own that comes and goes within half a second. */
export function layOver(shot: Shot, clip: Clip): void {
  const ease = Math.round(shot.rate / 2);
  const span = newSpan(clip, usePlayhead.getState().frame, { easeIn: ease, easeOut: ease });
  run(putTrack, { track: newTrack(shot, clip.rig, [span]), does: `lay ${clip.name} over the rest` });
  pickSpan(span.id);
}

export const changeSpan = (track: ClipTrack, span: ClipSpan, change: Partial<ClipSpan>, does: string): void => {
  run(putTrack, { track: spanChanged(track, span.id, change), does });
};

export function removeSpan(track: ClipTrack, span: ClipSpan): void {
  run(putTrack, { track: { ...track, spans: track.spans.filter((s) => s.id !== span.id) }, does: 'take a span away' });
}

export function splitSpan(track: ClipTrack, span: ClipSpan): void {
  const second = newId();
  const split = spanSplit(track, span.id, usePlayhead.getState().frame, second);
  if (split === track) return;
  run(putTrack, { track: split, does: 'split a span' });
  pickSpan(second);
}

/** A copy of a span behind the last one of its track. */
export function copySpan(track: ClipTrack, span: ClipSpan): void {
  const copy = { ...span, id: newId(), from: Math.max(...track.spans.map((s) => s.from + s.length)) };
  run(putTrack, { track: { ...track, spans: [...track.spans, copy] }, does: 'copy a span' });
  pickSpan(copy.id);
}

/** Takes the clip of a span up, to edit it. */
export const openClip = (span: ClipSpan): void => {
  run(takeUpClip, { id: span.clip });
};

/** The tracks of a rig as they are shown: the highest first. */
export const tracksShown = (shot: Shot, rig: string): ClipTrack[] => tracksOf(shot, rig).reverse();
