import { applyPatches, type Patch, type ShotDocument } from '@varrup/core';

/** A document with edits of the log applied, which fitted it when they were put there. */
export const replayed = <S extends ShotDocument>(document: S, edits: readonly { readonly patches: string }[]): S =>
  edits.reduce((now, { patches }) => applyPatches(now, JSON.parse(patches) as Patch[]), document);
