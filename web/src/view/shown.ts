import { create } from 'zustand';

/** What the stage draws beside the cast. */
export interface Shown {
  /** The way of what is picked, with a bead for each frame. */
  readonly arcs: boolean;
  /** The controls of rigs, but for those of the hidden sets. */
  readonly controls: boolean;
  readonly hiddenSets: readonly string[];
  /** Rigs are shown as through glass. */
  readonly xray: boolean;
  /** The balance of the leading rig. */
  readonly balance: boolean;
}

export const useShown = create<Shown>(() => ({
  arcs: true,
  controls: true,
  hiddenSets: [],
  xray: false,
  balance: false,
}));
