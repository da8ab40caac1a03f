import type { Shot } from '../document/shot.ts';
import type { ClipTrack } from '../document/track.ts';
import { givenBy, tracksOf } from './arrangement.ts';
import { type Played, playedOf } from './played.ts';

/** Marks of a clip as they come along a span of it: frames of the shot. */

const playedAs = (shot: Shot, track: ClipTrack, id: string): Played | undefined =>
  playedOf(track, shot.clips).find((p) => p.span.id === id);

/** Where its clip is on every whole frame of a span and at its end, frames from the clip's beginning. */
function placesOf(played: Played): Float64Array {
  const { span, clip } = played;
  return Float64Array.from({ length: span.length + 1 }, (_, i) => {
    const frame = i < span.length ? span.from + i : played.end - 1e-9;
    return played.clipFrame(frame) - clip.first;
  });
}

/** Frames of the shot on which a span passes a place of its clip, forwards. What repeats passes it in every round. */
function passes({ clip, span }: Played, places: Float64Array, place: number): number[] {
  const out: number[] = [];
  for (let i = 0; i + 1 < places.length; i++) {
    const [a, b] = [places[i] - place, places[i + 1] - place];
    const n = clip.cycles ? Math.ceil(a / clip.length) * clip.length : 0;
    // It is passed between this frame and the next: where, as evenly as time goes.
    if (n >= a && n < b) out.push(span.from + i + (n - a) / (b - a));
  }
  return out;
}

/** Frames of the shot on which feet come down while a span plays, by the foot. */
export function footfallsOf(shot: Shot, track: ClipTrack, id: string): Record<string, number[]> {
  const played = playedAs(shot, track, id);
  if (!played) return {};
  const places = placesOf(played);
  const falls = (stances: readonly { readonly from: number }[]) =>
    stances.flatMap(({ from }) => passes(played, places, from)).sort((x, y) => x - y);
  return Object.fromEntries(Object.entries(played.clip.stances).map(([foot, stances]) => [foot, falls(stances)]));
}

/** Frames of the shot on which keys of its clip come, whichever channel has them. */
export function pegsOf(shot: Shot, track: ClipTrack, id: string): number[] {
  const played = playedAs(shot, track, id);
  if (!played) return [];
  const { clip } = played;
  const frames = new Set(
    Object.values(clip.kept?.curves ?? {}).flatMap((c) => c.keys.map((k) => k.frame - clip.first)),
  );
  // A cycle's last key is its first one again.
  if (clip.cycles && frames.has(0)) frames.delete(clip.length);
  const places = placesOf(played);
  return [...frames].flatMap((frame) => passes(played, places, frame)).sort((a, b) => a - b);
}

/** Which frame of its clip a span plays at a frame of the shot, from the clip's beginning; null where there is no such span. */
export function placeInClip(shot: Shot, track: ClipTrack, id: string, frame: number): number | null {
  const played = playedAs(shot, track, id);
  return played ? played.clipFrame(Math.min(frame, played.end - 1e-9)) - played.clip.first : null;
}

/**
 * The poses that tell of a rig on tracks: where spans begin and have come in, and the contacts of those that walk. Whole frames of the shot, each once; none
 * while its tracks are silent.
 */
export function posesOnTracks(shot: Shot, rig: string): { readonly frame: number; readonly word: string }[] {
  const given = givenBy(shot, rig);
  if (!given) return [];
  const found = new Map<number, string>();
  for (const track of tracksOf(shot, rig).filter((t) => !t.muted))
    for (const played of playedOf(track, shot.clips)) {
      const { clip, span, end } = played;
      const places = placesOf(played);
      const contacts = clip.labels.filter((l) => l.pose === 'contact').flatMap((l) => passes(played, places, l.frame));
      for (const frame of contacts) found.set(Math.round(frame), 'contact');
      for (const frame of [span.from, span.from + span.easeIn, end - 1])
        if (clip.labels.length === 0) found.set(frame, found.get(frame) ?? clip.name);
    }
  return [...found].map(([frame, word]) => ({ frame, word })).sort((a, b) => a.frame - b.frame);
}
