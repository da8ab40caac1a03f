import { type Choices, type FormatName, type Shot, usualChoices } from '@varrup/core';
import { create } from 'zustand';

/** What of a shot becomes motions, and whom of the cast they are of. */
export type What = 'play' | 'whole' | 'none';
export type Whom = 'everybody' | 'rigs' | 'picked';

/** How somebody wants to receive work: everything that can be said without a shot. */
export interface Wishes {
  readonly format: FormatName;
  readonly frames: What;
  /** Whether the clips go along, each as a motion. */
  readonly clips: boolean;
  readonly whom: Whom;
  readonly keys: Choices['keys'];
  /** Frames a second; null is the shot's. */
  readonly rate: number | null;
  readonly tolerance: Choices['tolerance'];
  readonly travel: Choices['travel'];
  readonly joints: Choices['joints'];
  readonly plainNames: boolean;
  readonly up: Choices['up'];
  readonly scale: number;
}

/** Somebody who receives work: remembered wishes under a name. */
export interface Recipient {
  readonly name: string;
  readonly wishes: Wishes;
}

const { keys, tolerance, travel, joints, plainNames, up, scale } = usualChoices;
export const usualWishes: Wishes = {
  format: 'glb',
  frames: 'play',
  clips: true,
  whom: 'everybody',
  rate: null,
  keys,
  tolerance,
  travel,
  joints,
  plainNames,
  up,
  scale,
};

/** Those who are there from the beginning. */
export const firstRecipients: readonly Recipient[] = [
  { name: 'the shot, shown', wishes: usualWishes },
  {
    name: 'a game, by clips',
    wishes: { ...usualWishes, frames: 'none', whom: 'rigs', travel: 'joint', joints: 'deforming' },
  },
  {
    name: 'another rig',
    wishes: { ...usualWishes, format: 'bvh', frames: 'play', clips: true, whom: 'everybody', rate: 30 },
  },
];

/** What one is about to hand on. */
export interface Wanted {
  readonly wishes: Wishes;
  /** The recipient the wishes are of; null once they have been changed. */
  readonly recipient: string | null;
  /** Clips that stay here. */
  readonly without: readonly string[];
  wish(change: Partial<Wishes>): void;
}

export const useWanted = create<Wanted>((set) => ({
  wishes: usualWishes,
  recipient: firstRecipients[0].name,
  without: [],
  wish: (change) => set(({ wishes }) => ({ wishes: { ...wishes, ...change }, recipient: null })),
}));

/** What is handed on of a shot by wishes. */
export function choicesOf(shot: Shot, wishes: Wishes, without: readonly string[], picked: readonly string[]): Choices {
  const { frames, clips: withClips, whom, rate, format: _, ...how } = wishes;
  const clips = withClips ? shot.clips.keys().filter((id) => !without.includes(id)) : [];
  const rigs = [...new Set(clips.map((id) => shot.clips.at(id).rig))];
  return {
    ...how,
    frames: frames === 'none' ? null : frames === 'play' ? shot.play : shot.range,
    clips,
    members: whom === 'everybody' ? null : whom === 'picked' ? bodies(shot, picked) : rigs,
    rate: rate ?? shot.rate,
  };
}

/** The members that are meant by what is picked: a control stands for its rig. */
function bodies(shot: Shot, picked: readonly string[]): string[] {
  const ids = picked.flatMap((id) => {
    const member = shot.members.get(id);
    return member?.kind === 'control' ? (member.parent ?? []) : id;
  });
  return [...new Set(ids)];
}
