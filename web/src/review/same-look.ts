import type { NoteView } from '@varrup/core';

const near = (a: readonly number[], b: readonly number[]) => a.every((v, i) => Math.abs(v - b[i]) < 1e-3);

/** Whether two looks are one: both through the camera, or from one place at one point. What was drawn over the one fits the other then. */
export const sameLook = (a: NoteView, b: NoteView): boolean =>
  a.camera === b.camera && (a.camera || (near(a.eye, b.eye) && near(a.target, b.target)));
