import { bend } from './bend.ts';
import { squash } from './squash.ts';
import { taper } from './taper.ts';
import { twist } from './twist.ts';

/** Every deformer, in the order of the menu. */
export const deformers = { squash, bend, twist, taper } as const;

export type DeformerKind = keyof typeof deformers;
export const deformerKinds = Object.keys(deformers) as DeformerKind[];
