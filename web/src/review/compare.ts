import { documentOf, type Shot, suggested } from '@varrup/core';
import { toast } from 'sonner';
import { create } from 'zustand';
import { api } from '../api/client.ts';
import { picturesOfShot } from '../media/textures.ts';
import { linked } from '../shot/linked.ts';
import { useShot } from '../shot/shot-store.ts';

/** What the shot is looked at beside: another state of it, another shot, or what somebody suggests. */
export type With =
  | { readonly is: 'opened' }
  | { readonly is: 'lately'; readonly revision: number }
  | { readonly is: 'version'; readonly id: string; readonly name: string }
  | { readonly is: 'shot'; readonly id: string; readonly name: string }
  | { readonly is: 'suggestion'; readonly id: string };

export const compareModes = ['pair', 'wipe', 'over', 'difference'] as const;
export type CompareMode = (typeof compareModes)[number];

export interface Compare {
  readonly with: With | null;
  /** The other one, once it has come; for a suggestion the shot as it would be. */
  readonly other: Shot | null;
  readonly mode: CompareMode;
  /** Where the picture changes over, as a share of its width. */
  readonly wipe: number;
  /** Frames the other one is ahead. */
  readonly offset: number;
  /** What moved by more than so much is tinted, metres. */
  readonly tolerance: number;
}

export const useCompare = create<Compare>(() => ({
  with: null,
  other: null,
  mode: 'over',
  wipe: 0.5,
  offset: 0,
  tolerance: 0.01,
}));

export const withWords = (chosen: With, shot: Shot | null): string => {
  if (chosen.is === 'opened') return 'when the shot was opened';
  if (chosen.is === 'lately') return 'when you last looked';
  if (chosen.is === 'suggestion') return shot?.suggestions.get(chosen.id)?.name ?? 'a suggestion';
  return chosen.name;
};

let turn = 0;

/** Chooses what the shot is looked at beside; null for nothing. */
export async function compareWith(chosen: With | null): Promise<void> {
  const own = ++turn;
  useCompare.setState({ with: chosen, other: null });
  const { shot, opened } = useShot.getState();
  if (!chosen || !shot) return;
  try {
    const other = await otherOf(chosen, shot, opened);
    if (other) await picturesOfShot(other);
    if (own === turn) useCompare.setState({ other });
  } catch (error) {
    if (own !== turn) return;
    useCompare.setState({ with: null, other: null });
    toast.error(`“${withWords(chosen, shot)}” could not be read. ${(error as Error).message}`);
  }
}

async function otherOf(chosen: With, shot: Shot, opened: Shot | null): Promise<Shot | null> {
  switch (chosen.is) {
    case 'opened':
      return opened;
    case 'lately':
      return linked(await api.revision(shot.id, chosen.revision));
    case 'version':
      return linked(await api.version(shot.id, chosen.id));
    case 'shot':
      return linked((await api.openShot(chosen.id)).document);
    case 'suggestion': {
      const suggestion = shot.suggestions.get(chosen.id);
      return suggestion ? suggested(shot, suggestion) : null;
    }
  }
}

/** A suggestion is shown on the shot as it is now, and gone when it is; nothing of one shot is compared in another. */
export function followCompared(): () => void {
  const end = useShot.subscribe(({ shot }, old) => {
    const { with: chosen } = useCompare.getState();
    if (!chosen) return;
    if (!shot || shot.id !== old.shot?.id) void compareWith(null);
    else if (chosen.is === 'suggestion' && shot !== old.shot) {
      const suggestion = shot.suggestions.get(chosen.id);
      if (suggestion) useCompare.setState({ other: suggested(shot, suggestion) });
      else void compareWith(null);
    }
  });
  return () => {
    end();
    void compareWith(null);
  };
}

/** What of a shot is kept, for a shot of its own. */
export const branchOf = (other: Shot, id: string, name: string) => ({ ...documentOf(other), id, name });
