import type { Clip, Follow, Manner } from '../../document/clip.ts';
import type { Shot } from '../../document/shot.ts';
import { Refused } from '../../schema/refused.ts';
import { defineCommand } from '../edit.ts';

/** How a clip goes about where it meets others, and which others may come after it. Spans that are laid already stay as they are. */

const nameOf = (shot: Shot, id: string) => shot.clips.get(id)?.name ?? 'a clip';
const withClip = (shot: Shot, clip: Clip): Shot => ({ ...shot, clips: shot.clips.with(clip.id, clip) });

export const setManner = defineCommand<{ id: string; change: Partial<Manner> }>({
  name: 'clip.manner',
  label: ({ id }, shot) => `change how ${nameOf(shot, id)} goes about`,
  apply(shot, { id, change }) {
    const clip = shot.clips.get(id);
    if (!clip) return shot;
    const manner = { ...clip.manner, ...change };
    if (manner.loop && manner.loop.to > clip.length)
      throw new Refused(`${clip.name} has ${clip.length} frames: what repeats of it ends there at the latest.`);
    const other = shot.clips.values().find((c) => c.id !== id && c.rig === clip.rig && c.manner.key === manner.key);
    if (manner.key !== null && other) throw new Refused(`The key ${manner.key} starts ${other.name} already.`);
    return withClip(shot, { ...clip, manner });
  },
});

/** Lets a clip come after another, over some frames and by an arrow key or by the end of that one; null no longer does. */
export const setFollow = defineCommand<{ id: string; next: string; how: Follow | null }>({
  name: 'clip.follow',
  label: ({ id, next, how }, shot) =>
    how
      ? `let ${nameOf(shot, next)} follow ${nameOf(shot, id)}`
      : `${nameOf(shot, next)} no longer follows ${nameOf(shot, id)}`,
  apply(shot, { id, next, how }) {
    const [clip, other] = [shot.clips.get(id), shot.clips.get(next)];
    if (!clip || !other) return shot;
    if (clip.rig !== other.rig) throw new Refused('A clip is followed by clips of its own rig.');
    if (id === next) throw new Refused('A clip follows itself by repeating.');
    const { [next]: _, ...others } = clip.follows;
    const taken = how && Object.entries(others).find(([, f]) => f.by === how.by);
    if (taken) throw new Refused(`${wordsBy(how.by)} leads from ${clip.name} to ${nameOf(shot, taken[0])} already.`);
    return withClip(shot, { ...clip, follows: how ? { ...others, [next]: how } : others });
  },
});

const wordsBy = (by: Follow['by']): string => (by === 'end' ? 'Its end' : `The arrow ${by}`);
