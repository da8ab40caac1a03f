import type { Clip } from '../../document/clip.ts';
import type { Shot } from '../../document/shot.ts';
import { takeUpClip } from '../../edit/commands/clips.ts';
import { Program } from '../../evaluate/program.ts';
import type { Choices } from './choices.ts';

/** Something that becomes a motion: the shot over some frames, or a clip of a rig. */
export interface Run {
  readonly name: string;
  /** The shot as it is then: the clip at work, and rigs in place where they are to be. */
  readonly shot: Shot;
  readonly program: Program;
  /** Frames, both ends included. */
  readonly first: number;
  readonly last: number;
  /** The rig whose clip it is; null where it is the whole shot. */
  readonly rig: string | null;
  /** Which clip it is; null where it is the whole shot. */
  readonly clip: string | null;
}

/** What is made of a shot. Where rigs are to stay in place, clips do not travel. */
export function runsOf(shot: Shot, { frames, clips, travel }: Choices): Run[] {
  const runs: Run[] = [];
  if (frames) {
    const shown = travel === 'none' ? inPlace(shot) : shot;
    // Its number is for the order of shots; many receivers take no name that begins with one.
    const name = shot.name.replace(/^[\d\s.-]+(?=\p{L})/u, '');
    runs.push({ name, shot: shown, program: new Program(shown), ...frames, rig: null, clip: null });
  }
  for (const id of clips) {
    const clip = shot.clips.get(id);
    if (!clip) continue;
    const at = doing(shot, clip, travel !== 'none');
    const span = { first: clip.first, last: clip.first + clip.length };
    const alike = clips.filter((other) => shot.clips.get(other)?.name === clip.name).length > 1;
    const name = alike ? `${shot.members.get(clip.rig)?.name} ${clip.name}` : clip.name;
    runs.push({ name, shot: at, program: new Program(at), ...span, rig: clip.rig, clip: id });
  }
  return runs;
}

/** A shot in which a rig does a clip, straight ahead: the way it may be laid along belongs to the shot. */
function doing(shot: Shot, clip: Clip, travels: boolean): Shot {
  const at = takeUpClip.apply(shot, { id: clip.id });
  const own = { ...at.clips.at(clip.id), travelling: travels && clip.travel !== 0, way: null };
  return { ...at, clips: at.clips.with(clip.id, own) };
}

function inPlace(shot: Shot): Shot {
  const still = shot.clips.values().map((clip) => [clip.id, { ...clip, travelling: false }] as const);
  return { ...shot, clips: shot.clips.withAll(still) };
}
