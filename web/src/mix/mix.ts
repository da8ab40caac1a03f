import {
  type Clip,
  type ClipSpan,
  type ClipTrack,
  layPose,
  moveSpan,
  newId,
  newSpan,
  newTrack,
  type PoseValues,
  plainSpan,
  putTrack,
  type Shot,
  spanChanged,
  spanSplit,
  takeUpClip,
  tracksOf,
} from '@varrup/core';
import { toast } from 'sonner';
import { create } from 'zustand';
import { run } from '../commands/now.ts';
import { usePlaces } from '../view/places.ts';
import { usePlayhead } from '../view/playhead.ts';

/** The span that is picked in the mix. */
export const useMix = create<{ readonly span: string | null }>(() => ({ span: null }));
/** Picks a span: its numbers come beside the stage. */
export function pickSpan(span: string | null): void {
  useMix.setState({ span });
  if (span) usePlaces.setState({ side: 'span' });
}

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
  const half = Math.round(shot.rate / 2);
  const { easeIn, easeOut } = clip.manner;
  const own = { easeIn: easeIn || half, easeOut: easeOut || half };
  const span = newSpan(clip, usePlayhead.getState().frame, own);
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

/** Lays a pose, held for a second, from the frame of now on: on the track of the picked span, or on a new one. */
export function layPoseHere(shot: Shot, rig: string, name: string, values: PoseValues): void {
  const own = spanOf(shot, useMix.getState().span)?.track;
  const onto = own?.rig === rig && !own.locked ? own : newTrack(shot, rig);
  const id = newId();
  const ends = onto.spans.map((s) => s.from + s.length);
  const from = Math.max(Math.round(usePlayhead.getState().frame), ...ends);
  const half = Math.round(shot.rate / 2);
  const span = {
    ...plainSpan,
    id: newId(),
    clip: id,
    from,
    length: Math.round(shot.rate),
    easeIn: half,
    easeOut: half,
  };
  run(layPose, { rig, id, name, values, track: { ...onto, spans: [...onto.spans, span] } });
  usePlaces.setState({ tab: 'mix' });
  pickSpan(span.id);
}

/** Takes hold of what a span plays at the frame of now: from then on its time goes through there. */
export function bendTime(track: ClipTrack, span: ClipSpan, place: number | null): void {
  const at = Math.round(usePlayhead.getState().frame) - span.from;
  if (place === null || at < 0 || at > span.length) {
    toast('Go to a frame of the span first: what it plays there is taken hold of.');
    return;
  }
  const ends = [0, span.length].map((end) => ({ at: end, clip: span.into + end * span.speed }));
  const others = (span.time ?? ends).filter((p) => p.at !== at);
  const time = [...others, { at, clip: place }].sort((a, b) => a.at - b.at);
  changeSpan(track, span, { time, loop: null }, 'bend the time of a span');
}

/** Keys the strength of a span at the frame of now, as it is there. */
export function keyStrength(track: ClipTrack, span: ClipSpan): void {
  const at = Math.round(usePlayhead.getState().frame) - span.from;
  if (at < 0 || at > span.length) {
    toast('Go to a frame of the span first: its strength is keyed there.');
    return;
  }
  const there = span.levels.findLast((p) => p.at <= at) ?? span.levels[0];
  const others = span.levels.filter((p) => p.at !== at);
  const levels = [...others, { at, share: there?.share ?? 1 }].sort((a, b) => a.at - b.at);
  changeSpan(track, span, { levels }, 'key the strength of a span');
}

/** A copy of a span behind the last one of its track. */
export function copySpan(track: ClipTrack, span: ClipSpan): void {
  const copy = { ...span, id: newId(), from: Math.max(...track.spans.map((s) => s.from + s.length)) };
  run(putTrack, { track: { ...track, spans: [...track.spans, copy] }, does: 'copy a span' });
  pickSpan(copy.id);
}

/** Puts a span onto another track of its rig, from a frame on. */
export function putOnTrack(from: ClipTrack, span: ClipSpan, to: ClipTrack, at = span.from): void {
  run(moveSpan, { span: span.id, from: from.id, to: to.id, at });
}

/** The track above or below one, as they are shown. */
export function trackBeside(shot: Shot, track: ClipTrack, by: 1 | -1): ClipTrack | undefined {
  const shown = tracksShown(shot, track.rig);
  return shown[shown.findIndex((t) => t.id === track.id) + by];
}

/** Takes the clip of a span up, to edit it. */
export const openClip = (span: ClipSpan): void => {
  run(takeUpClip, { id: span.clip });
};

/** The tracks of a rig as they are shown: the highest first. */
export const tracksShown = (shot: Shot, rig: string): ClipTrack[] =>
  tracksOf(shot, rig)
    .filter((t) => !t.own)
    .reverse();
