import type { Shot } from '../document/shot.ts';
import { givenBy, tracksOf } from './arrangement.ts';
import { playedOf } from './played.ts';

/**
 * Which spans a rig's body is moved by at a frame, in people's words, the topmost first: “Walk on Track 1”, “Walk and Trot on Track 1”. Null for who
 * is no part of a rig, and where none of its tracks plays.
 * @param member a rig or one of its controls
 */
export function spansMoving(shot: Shot, member: string, frame: number): string | null {
  if (shot.tracks.size === 0) return null;
  const found = shot.members.get(member);
  const rig = found?.kind === 'control' ? found.parent : member;
  if (rig === null || !givenBy(shot, rig)) return null;
  const tracks = tracksOf(shot, rig).filter((t) => !t.muted);
  const alone = tracks.some((t) => t.alone);
  const words = tracks.reverse().flatMap((track) => {
    const heard = !alone || track.alone ? playedOf(track, shot.clips).filter((p) => p.plays(frame)) : [];
    const control = found?.kind === 'control' ? found.shape.control : null;
    const own = heard.filter(({ span }) => span.controls === null || !control || span.controls.includes(control));
    return own.length > 0 ? [`${own.map((p) => p.clip.name).join(' and ')} on ${track.name}`] : [];
  });
  return words.length > 0 ? words.join(', ') : null;
}
