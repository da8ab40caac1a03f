import type { finishes } from '../../rig/definition.ts';

export type Finish = (typeof finishes)[number];

/** What the parts of rigs are made of: how rough, 0 a mirror to 1 chalk, and how much of a metal. */
export const surfaces: Readonly<Record<Finish, { readonly roughness: number; readonly metalness: number }>> = {
  wood: { roughness: 0.62, metalness: 0 },
  felt: { roughness: 1, metalness: 0 },
  tin: { roughness: 0.42, metalness: 0.35 },
  ink: { roughness: 0.35, metalness: 0 },
};
