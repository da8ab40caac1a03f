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

/** The pictures that lie on a shot's forms, by hash, each once. */
export const mediaOfMembers = ({ members }: Pick<Shot, 'members'>): string[] => [
  ...new Set(
    members.values().flatMap(({ material }) => (material?.cover?.is === 'picture' ? [material.cover.media] : [])),
  ),
];

/** What a shot has brought in for itself: its sounds, and the pictures on its forms. */
export const mediaOfOwn = (shot: Pick<Shot, 'sounds' | 'members'>): string[] => [
  ...new Set([...mediaOfSounds(shot), ...mediaOfMembers(shot)]),
];

/** All media a shot needs: its own, and those of the rigs it links. */
export const mediaOfShot = (shot: Shot): string[] => [
  ...new Set([...mediaOfOwn(shot), ...shot.rigs.list.flatMap(mediaOfRig)]),
];
