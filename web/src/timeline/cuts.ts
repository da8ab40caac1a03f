import { cameraAt, camerasOf, newId, putCut, type Shot } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { usePlayhead } from '../view/playhead.ts';

/** Cuts to a camera at the frame of now. */
export function cutTo(camera: string): void {
  const frame = Math.round(usePlayhead.getState().frame);
  useShot.getState().run(putCut, { cut: { id: newId(), frame, camera } });
}

/** Cuts to the camera that comes after the one that is seen, as they stand in the cast. */
export function cutToNext(shot: Shot): void {
  const cameras = camerasOf(shot).map((c) => c.id);
  const now = cameraAt(shot, Math.round(usePlayhead.getState().frame));
  if (cameras.length > 1) cutTo(cameras[(cameras.indexOf(now ?? '') + 1) % cameras.length]);
}
