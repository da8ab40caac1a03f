import { isSealed } from '../clip/circle.ts';
import { controlsOf } from '../document/casting.ts';
import { splitPath } from '../document/channels.ts';
import type { Clip } from '../document/clip.ts';
import { curvesOf } from '../document/paths.ts';
import type { Shot } from '../document/shot.ts';

interface ClipProblem {
  readonly path: readonly string[];
  readonly sentence: string;
}

/** What is wrong with the clips of a shot. */
export function clipProblems(shot: Shot): ClipProblem[] {
  const atWork = new Map<string, Clip>();
  return shot.clips.values().flatMap((clip): ClipProblem[] => {
    const path = ['clips', clip.id];
    if (shot.members.get(clip.rig)?.kind !== 'rig')
      return [{ path: [...path, 'rig'], sentence: `names "${clip.rig}", which is no rig of the cast` }];
    if (clip.kept) {
      const stray = Object.keys(clip.kept.curves).find((p) => !isOfRig(shot, clip.rig, p));
      if (stray) return [{ path: [...path, 'kept', 'curves', stray], sentence: 'is not a channel of its rig' }];
      const nobodys = Object.values(clip.kept.recipes).find((r) => !shot.members.has(r.member));
      return nobodys
        ? [
            {
              path: [...path, 'kept', 'recipes', nobodys.id, 'member'],
              sentence: `names "${nobodys.member}", who is not in the cast`,
            },
          ]
        : [];
    }
    const other = atWork.get(clip.rig);
    if (other)
      return [{ path, sentence: `is at work together with "${other.name}", and a rig does one clip at a time` }];
    atWork.set(clip.rig, clip);
    if (!clip.cycles) return [];
    const torn = curvesOf(shot, controlsOf(shot, clip.rig)).find(([, c]) => !isSealed(c, clip));
    return torn
      ? [{ path: ['curves', torn[0]], sentence: `does not close at the seam of the clip "${clip.name}"` }]
      : [];
  });
}

function isOfRig(shot: Shot, rig: string, path: string): boolean {
  const member = shot.members.get(splitPath(path).member);
  return member?.kind === 'control' && member.parent === rig;
}
