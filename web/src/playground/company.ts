import type * as THREE from 'three';
import { z } from 'zod';

/**
 * How the motions of a file say they go about where they meet: what its maker has written beside them, read as a receiver reads it. Nothing here knows more of
 * it than stands in the file.
 */

const seconds = z.number().min(0).max(3_600);
const stretch = z.tuple([seconds, seconds]);

const CompanySchema = z.object({
  of: z.string(),
  repeats: z.boolean(),
  loop: stretch.nullable(),
  easeIn: seconds,
  easeOut: seconds,
  shape: z.enum(['soft', 'even']),
  rank: z.number(),
  plays: z.enum(['instead', 'onTop']),
  key: z.string().max(1).nullable(),
  part: z.record(z.string(), z.number().min(0).max(1)).nullable(),
  travel: z.object({ node: z.string(), metres: z.number() }).nullable(),
  turn: z.number().min(-20).max(20),
  feet: z.record(z.string(), z.array(stretch).max(64)),
  follows: z
    .array(z.object({ motion: z.string(), seconds, by: z.enum(['up', 'down', 'left', 'right', 'end']) }))
    .max(64),
});
export type Company = z.infer<typeof CompanySchema>;

/** A motion that says how it goes about. */
export interface Member {
  readonly clip: THREE.AnimationClip;
  readonly company: Company;
}

/** The motions of a file that say how they go about; what says it wrongly is left out as if it said nothing. */
export function membersOf(clips: readonly THREE.AnimationClip[]): Member[] {
  return clips.flatMap((clip) => {
    const read = CompanySchema.safeParse((clip.userData as { company?: unknown }).company);
    return read.success && clip.duration > 0 ? [{ clip, company: read.data }] : [];
  });
}

/** Whether a foot is on the ground at a time of a motion. */
function isDown({ company, clip }: Member, foot: string, time: number): boolean {
  const at = ((time % clip.duration) + clip.duration) % clip.duration;
  return (company.feet[foot] ?? []).some(
    ([from, to]) => (at >= from && at < to) || (company.repeats && at + clip.duration < to),
  );
}

/** In how many places round a motion is tried where another begins in step with it. */
const TRIED = 32;

/** Where in a motion one begins so that its feet are on the ground when those of another are. @param time where the other one is */
export function inStep(one: Member, time: number, other: Member): number {
  const share = time / one.clip.duration;
  const feet = Object.keys(one.company.feet).filter((foot) => other.company.feet[foot]);
  let [best, most] = [0, -1];
  for (let k = 0; k < TRIED; k++) {
    let agree = 0;
    for (const foot of feet)
      for (let s = 0; s < TRIED; s++) {
        const [a, b] = [(s / TRIED) * one.clip.duration, ((s + k) / TRIED) * other.clip.duration];
        if (isDown(one, foot, a) === isDown(other, foot, b)) agree++;
      }
    if (agree > most) [best, most] = [k / TRIED, agree];
  }
  return ((((share + best) % 1) + 1) % 1) * other.clip.duration;
}
