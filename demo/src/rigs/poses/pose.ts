import type { NewPose } from '@varrup/core';
import { rad } from '../make/parts.ts';

/** Channels of a pose as people say them: metres, degrees for turns and rolls, factors for the rest. */
export type Said = Readonly<Record<string, number>>;

const inDegrees = (name: string) => /\.turn\.|\.(heel|ball|toe|bank|open|askew|feelers)$/.test(name);

/** The same in the core's units. */
export const values = (said: Said): Record<string, number> =>
  Object.fromEntries(Object.entries(said).map(([name, v]) => [name, inDegrees(name) ? rad(v) : v]));

export const pose = (name: string, tags: readonly string[], said: Said): NewPose => ({
  name,
  tags: [...tags],
  values: values(said),
});

/** A pose whose channels not named are those of another: so that one pose put on after another leaves nothing of it. */
export const over = (rest: Said, said: Said): Said => ({ ...rest, ...said });
