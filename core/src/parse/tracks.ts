import type { Shot } from '../document/shot.ts';

interface TrackProblem {
  readonly path: readonly string[];
  readonly sentence: string;
}

/** What is wrong with the tracks of a shot. */
export function trackProblems(shot: Shot): TrackProblem[] {
  const withOwn = new Set<string>();
  return shot.tracks.values().flatMap((track): TrackProblem[] => {
    const path = ['tracks', track.id];
    if (shot.members.get(track.rig)?.kind !== 'rig')
      return [{ path: [...path, 'rig'], sentence: `names "${track.rig}", which is no rig of the cast` }];
    if (track.own) {
      if (withOwn.has(track.rig))
        return [{ path, sentence: 'stands for own keys of a rig that has such a one already' }];
      withOwn.add(track.rig);
      if (track.spans.length > 0)
        return [{ path: [...path, 'spans'], sentence: 'must be none: it stands for own keys' }];
    }
    const isOurs = (id: string) => shot.clips.get(id)?.rig === track.rig;
    return track.spans.flatMap((span, i): TrackProblem[] => {
      const at = [...path, 'spans', String(i)];
      if (!isOurs(span.clip))
        return [{ path: [...at, 'clip'], sentence: `names "${span.clip}", which is no clip of its rig` }];
      return span.base.clip === null || isOurs(span.base.clip)
        ? []
        : [{ path: [...at, 'base', 'clip'], sentence: `names "${span.base.clip}", which is no clip of its rig` }];
    });
  });
}
