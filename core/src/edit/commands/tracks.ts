import type { Shot } from '../../document/shot.ts';
import { type ClipTrack, endOf } from '../../document/track.ts';
import { Refused } from '../../schema/refused.ts';
import { defineCommand } from '../edit.ts';

/** Tracks of rigs, and what is laid on them. */

/** Puts a track, or another version of one, to its rig. Its spans stand in the order in which they begin. */
export const putTrack = defineCommand<{ track: ClipTrack; does?: string }>({
  name: 'track.put',
  label: ({ track, does }, shot) => does ?? `${shot.tracks.has(track.id) ? 'change' : 'add'} the track ${track.name}`,
  apply(shot, { track }) {
    if (shot.members.get(track.rig)?.kind !== 'rig') throw new Refused('A track belongs to a rig of the cast.');
    for (const span of track.spans)
      if (shot.clips.get(span.clip)?.rig !== track.rig)
        throw new Refused(`A span of ${track.name} has no clip of its rig to play.`);
    const spans = [...track.spans].sort((a, b) => a.from - b.from || endOf(a) - endOf(b));
    const third = spans.find((span, i) => i > 1 && spans.slice(0, i - 1).some((s) => endOf(s) > span.from));
    if (third) throw new Refused(`At frame ${third.from} three spans of ${track.name} would lie over one another.`);
    return { ...shot, tracks: shot.tracks.with(track.id, { ...track, spans }) };
  },
});

/** Takes tracks away with all that is laid on them; the clips stay. */
export const removeTracks = defineCommand<{ ids: readonly string[] }>({
  name: 'track.remove',
  label: ({ ids }, shot: Shot) =>
    ids.length === 1 ? `take the track ${shot.tracks.get(ids[0])?.name ?? ''} away` : `take ${ids.length} tracks away`,
  apply: (shot, { ids }) => ({ ...shot, tracks: shot.tracks.withoutAll(ids) }),
});
