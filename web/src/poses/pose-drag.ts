import { putPose } from '@varrup/core';
import { z } from 'zod';
import { useShot } from '../shot/shot-store.ts';

/** What a pose of the book is while it is dragged. */
export const POSE_TYPE = 'application/x-varrup-pose';

const DraggedSchema = z.object({
  rig: z.string(),
  name: z.string(),
  values: z.record(z.string(), z.union([z.number(), z.tuple([z.number(), z.number(), z.number(), z.number()])])),
  only: z.array(z.string()).optional(),
});

/** Keys a pose that was dropped on a frame. @returns whether it was one */
export function dropPose(data: DataTransfer, frame: number): boolean {
  const text = data.getData(POSE_TYPE);
  if (text === '') return false;
  const parsed = DraggedSchema.safeParse(JSON.parse(text));
  const { shot, run } = useShot.getState();
  if (!parsed.success || shot?.members.get(parsed.data.rig)?.kind !== 'rig') return false;
  const { rig, name, values, only } = parsed.data;
  run(putPose, { rig, pose: values, name, frame, share: 1, only: only && new Set(only), key: true, autoKey: 'off' });
  return true;
}
