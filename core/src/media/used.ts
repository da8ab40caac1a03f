import type { Shot } from '../document/shot.ts';
import type { Rig } from '../rig/definition.ts';

/** The pictures a rig's bodies are painted with, by hash, each once. */
export const mediaOfRig = ({ meshes }: Rig): string[] => [
  ...new Set(meshes.flatMap(({ material }) => material?.picture?.media ?? [])),
];

/** The sounds a shot lays under its sheet that were brought in, by hash, each once. */
export const mediaOfSounds = ({ sounds }: Pick<Shot, 'sounds'>): string[] => [
  ...new Set(sounds.values().flatMap(({ sound }) => (typeof sound === 'string' ? [] : [sound.media]))),
];

/** All media a shot needs: its own, and those of the rigs it links. */
export const mediaOfShot = (shot: Shot): string[] => [
  ...new Set([...mediaOfSounds(shot), ...shot.rigs.list.flatMap(mediaOfRig)]),
];
