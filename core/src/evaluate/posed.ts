import { looseStanding } from '../document/loose.ts';
import type { Shot } from '../document/shot.ts';

/**
 * A shot as somebody sees it who works at a frame: what is loose there stands in for the curves. Everywhere else, in stills, arcs, ghosts,
 * checks and movies, the curves have their way.
 */
export function posedAt(shot: Shot, frame: number): Shot {
  const standing = looseStanding(shot.loose, frame);
  if (standing.size === 0) return shot;
  return { ...shot, over: shot.over ? standing.withAll(shot.over.entries()) : standing };
}
