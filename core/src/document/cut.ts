import { z } from 'zod';
import { IdSchema } from '../schema/ids.ts';
import { FRAMES } from '../schema/numbers.ts';
import type { Member } from './member.ts';
import type { Shot } from './shot.ts';

/** From a frame on the shot is seen through a camera, until the next cut. */
export const CutSchema = z.strictObject({
  id: IdSchema,
  frame: z.number().int().min(FRAMES.first).max(FRAMES.last),
  /** A member; where it is no camera that is there any more, the cut counts for nothing. */
  camera: IdSchema,
});
export type Cut = z.infer<typeof CutSchema>;

/** The cameras of a shot, first in the cast first. */
export const camerasOf = ({ members }: Pick<Shot, 'members'>): Extract<Member, { kind: 'camera' }>[] =>
  members
    .values()
    .filter((m): m is Extract<Member, { kind: 'camera' }> => m.kind === 'camera')
    .sort((a, b) => a.rank - b.rank);

/** The cuts of a shot to cameras that are there, in the order of their frames; of two on one frame the last one put there counts. */
export function cutsOf({ cuts, members }: Pick<Shot, 'cuts' | 'members'>): Cut[] {
  const there = cuts.values().filter((cut) => members.get(cut.camera)?.kind === 'camera');
  return there.sort((a, b) => a.frame - b.frame);
}

/** A run of frames that is seen through one camera. `cut` is null for the run before the first cut. */
export interface CameraRun {
  readonly first: number;
  /** The last frame of it; infinity for the last run. */
  readonly last: number;
  readonly camera: string;
  readonly cut: string | null;
}

/** Through which camera each frame of a shot is seen: the first one's before the first cut. Empty without a camera. */
export function cameraRuns(shot: Pick<Shot, 'cuts' | 'members'>): CameraRun[] {
  const [first] = camerasOf(shot);
  if (!first) return [];
  const cuts = cutsOf(shot);
  const starts = [{ frame: Number.NEGATIVE_INFINITY, camera: first.id, id: null }, ...cuts];
  return starts
    .map(({ frame, camera, id }, i) => ({
      first: frame,
      last: i + 1 < starts.length ? starts[i + 1].frame - 1 : Number.POSITIVE_INFINITY,
      camera,
      cut: id,
    }))
    .filter((run) => run.last >= run.first);
}

/** The camera a frame is seen through; null where there is none. Between two frames it is still the one before's. */
export function cameraAt(shot: Pick<Shot, 'cuts' | 'members'>, frame: number): string | null {
  let at: string | null = null;
  for (const run of cameraRuns(shot)) if (run.first <= frame + 1e-9) at = run.camera;
  return at;
}
