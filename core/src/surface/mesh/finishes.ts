import type { finishes, RigMesh } from '../../rig/definition.ts';

export type Finish = (typeof finishes)[number];

/** What the parts of rigs are made of: how rough, 0 a mirror to 1 chalk, and how much of a metal. */
export const surfaces: Readonly<Record<Finish, { readonly roughness: number; readonly metalness: number }>> = {
  wood: { roughness: 0.62, metalness: 0 },
  felt: { roughness: 1, metalness: 0 },
  tin: { roughness: 0.42, metalness: 0.35 },
  ink: { roughness: 0.35, metalness: 0 },
};

/** What a surface is like, whatever its colour. */
export interface Surface {
  readonly roughness: number;
  readonly metalness: number;
  readonly bothSides: boolean;
  /** The picture its colour is multiplied with, and whether it is cut out where that is clear. */
  readonly picture: { readonly media: string; readonly cutOut: boolean } | null;
}

/** What a mesh of a rig is made of. */
export function surfaceOf({ finish, material }: Pick<RigMesh, 'finish' | 'material'>): Surface {
  if (!material) return { ...surfaces[finish], bothSides: false, picture: null };
  const { roughness, metalness, bothSides, picture } = material;
  return {
    roughness,
    metalness,
    bothSides,
    picture: picture ? { media: picture.media, cutOut: picture.cutOut } : null,
  };
}

/** The same text for surfaces that are the same. */
export const surfaceKey = ({ roughness, metalness, bothSides, picture }: Surface): string =>
  `${roughness} ${metalness} ${bothSides} ${picture ? `${picture.media} ${picture.cutOut}` : ''}`;
