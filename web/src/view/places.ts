import { create } from 'zustand';

/** A place of a desk that something stands in, and that can be made large. */
export type Place = 'stage' | 'beside' | 'below';

/** What stands in the places of a desk. */
export interface Places {
  /** The panels shown below the stage and beside it, by their ids among the desk's panels; of a desk that has not the one named its first. */
  readonly tab: string;
  readonly side: string;
  /** The place that is made large over its neighbours. */
  readonly large: Place | null;
}

export const usePlaces = create<Places>(() => ({ tab: '', side: '', large: null }));
