import { create } from 'zustand';

export type Looking = 'free' | 'front' | 'side' | 'top' | 'camera';

/** What the stage is looked at from. */
export interface LookingState {
  readonly looking: Looking;
  /** Without perspective. */
  readonly flat: boolean;
  /** The camera goes with the leading member. */
  readonly follow: boolean;
  /** The stage shows four views at once. */
  readonly four: boolean;
}

export const useLooking = create<LookingState>(() => ({ looking: 'free', flat: false, follow: false, four: false }));
