import type { Clip } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';

/** The clip of a rig whose keys are the shot's now; null for a rig that has none. */
export const clipAtWork = (shot: Shot, rig: string): Clip | null =>
  shot.clips.values().find((c) => c.rig === rig && c.kept === null) ?? null;

/** The clips of a rig, in the order of their names. */
export const clipsOf = (shot: Shot, rig: string): Clip[] =>
  shot.clips
    .values()
    .filter((c) => c.rig === rig)
    .sort((a, b) => a.name.localeCompare(b.name));
