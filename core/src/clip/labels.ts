import { type Clip, type PoseLabel, stepPoses } from '../document/clip.ts';

/** What frames of a clip are called: no frame has two names. */

/** Of labels on the same frame the first. */
export const oneAFrame = (labels: readonly PoseLabel[]): PoseLabel[] =>
  labels.filter((l, i) => labels.findIndex((o) => o.frame === l.frame) === i);

/** The four poses of both steps of a cycle, at the fractions of the step they have in a plain walk, on whole frames. */
export const poseLabels = (length: number): PoseLabel[] =>
  oneAFrame(
    [0, 1].flatMap((step) =>
      stepPoses.map((pose, i) => ({ frame: Math.round(((step * 4 + i) * length) / 8) % length, pose })),
    ),
  );

/** The labels of a clip for another length; where two poses would come together all are put at their fractions anew. */
export function labelsFor({ labels, length }: Pick<Clip, 'labels' | 'length'>, wanted: number): PoseLabel[] {
  const moved = labels.map((l) => ({ ...l, frame: Math.round((l.frame * wanted) / length) % wanted }));
  return oneAFrame(moved).length === moved.length ? moved : poseLabels(wanted);
}
