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

/** The pictures that lie under the drawings of a board, by hash, each once. */
export const mediaOfPanels = ({ panels }: Pick<Shot, 'panels'>): string[] => [
  ...new Set(panels.values().flatMap(({ picture }) => (picture === null ? [] : [picture]))),
];

/** The footage pinned to a shot, by hash, each once. */
export const mediaOfFootage = ({ footage }: Pick<Shot, 'footage'>): string[] => [
  ...new Set(footage.values().flatMap(({ media, pictures }) => [media, ...pictures])),
];

/** The parts of a shot that name media. */
const holders = ['sounds', 'members', 'panels', 'footage'] as const;
type Holders = Pick<Shot, (typeof holders)[number]>;

/** What a shot has brought in for itself: its sounds, the pictures on its forms and under its drawings, and its footage. */
export const mediaOfOwn = (shot: Holders): string[] => [
  ...new Set([...mediaOfSounds(shot), ...mediaOfMembers(shot), ...mediaOfPanels(shot), ...mediaOfFootage(shot)]),
];

/** Whether what names media is the same in two states of a shot. */
export const sameMedia = (before: Holders, after: Holders): boolean =>
  holders.every((part) => before[part] === after[part]);

/** All media a shot needs: its own, and those of the rigs it links. */
export const mediaOfShot = (shot: Shot): string[] => [
  ...new Set([...mediaOfOwn(shot), ...shot.rigs.list.flatMap(mediaOfRig)]),
];
