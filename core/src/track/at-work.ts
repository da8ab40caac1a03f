import type { Shot } from '../document/shot.ts';

/** Whether one of a rig's clips is at work: its keys are the shot's own then, and the rig's tracks are silent while it is. */
export const clipAtWorkOf = (shot: Pick<Shot, 'clips'>, rig: string): boolean =>
  shot.clips.values().some((c) => c.rig === rig && c.kept === null);
