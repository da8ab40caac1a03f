import type { Shot } from '../../document/shot.ts';
import { movingJoints, shareOf } from '../../track/part-edge.ts';
import type { MotionCompany } from '../scene/scene.ts';
import type { Choices } from './choices.ts';
import type { PlannedNode } from './plan.ts';
import type { Run } from './runs.ts';

/**
 * How the motion of a clip goes about where it meets others, in the receiver's words: seconds, and names of nodes and motions.
 * @param motions the names that the motions of clips have come to, by the clips' ids
 */
export function companyOf(
  { shot, rig, clip }: Run,
  planned: readonly PlannedNode[],
  { travel }: Choices,
  motions: ReadonlyMap<string, string>,
): MotionCompany | null {
  const own = clip === null ? undefined : shot.clips.get(clip);
  if (!own || rig === null) return null;
  const seconds = (frames: number) => frames / shot.rate;
  const { easeIn, easeOut, shape, rank, how, loop, key } = own.manner;
  // The first of its nodes is the rig itself.
  const itself = planned.find((p) => p.member === rig);
  const carrier = travel === 'joint' ? planned.find((p) => p.member === rig && carries(p)) : itself;
  if (!itself) return null;
  return {
    of: itself.node.name,
    repeats: own.cycles,
    loop: loop && [seconds(loop.from), seconds(Math.min(loop.to, own.length))],
    easeIn: seconds(easeIn),
    easeOut: seconds(easeOut),
    shape,
    rank,
    plays: how,
    key,
    part: partOf(shot, rig, own.manner, planned),
    travel: carrier && own.travel !== 0 ? { node: carrier.node.name, metres: own.travel } : null,
    turn: own.manner.turn,
    feet: Object.fromEntries(
      Object.entries(own.stances).map(([foot, stances]) => [
        foot,
        stances.map(({ from, to }) => [seconds(from), seconds(to)] as const),
      ]),
    ),
    follows: Object.entries(own.follows).flatMap(([id, { over, by }]) => {
      const motion = motions.get(id);
      return motion === undefined ? [] : [{ motion, seconds: seconds(over), by }];
    }),
  };
}

/** The joint of its own that carries a rig's travel: it stands for nothing, and goes with clips. */
const carries = ({ is, inClips }: PlannedNode): boolean => is === null && inClips;

/** How much of a motion each node of the part that it moves has; null where it moves the whole body. */
function partOf(
  shot: Shot,
  rig: string,
  manner: Parameters<typeof shareOf>[0],
  planned: readonly PlannedNode[],
): Record<string, number> | null {
  const member = shot.members.get(rig);
  const found = member?.kind === 'rig' ? shot.rigs.find(member.shape)?.rig : undefined;
  if (manner.controls === null || !found) return null;
  const movers = movingJoints(found);
  const above = new Map(found.joints.map((j) => [j.id, j.parent]));
  const shares = planned.flatMap(({ node, member: of, is }): [string, number][] => {
    if (of !== rig || !is || is.joint === null) return [];
    // What nobody moves by itself goes with what it hangs on.
    let joint: string | null | undefined = is.joint;
    while (joint && !movers.has(joint)) joint = above.get(joint);
    const share = joint ? shareOf(manner, movers.get(joint)!, found) : 0;
    return share > 0 ? [[node.name, share]] : [];
  });
  return Object.fromEntries(shares);
}
