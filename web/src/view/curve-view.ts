import { create } from 'zustand';

/** What is drawn behind curves: as they are in what the shot is looked at beside, as they were when it was opened, or nothing. */
export type Behind = 'beside' | 'opened' | 'nothing';

/** Which curves are shown, and how. */
export interface CurveView {
  /** Curves that stay in the curves view whatever is picked, and those left out of it. */
  readonly pinned: readonly string[];
  readonly hidden: readonly string[];
  /** Only these curves, while there are any. */
  readonly isolated: readonly string[];
  /** Every curve over the whole height, whatever its size. */
  readonly normal: boolean;
  readonly speed: boolean;
  /** Dragging a handle turns it and leaves its length. */
  readonly holdLength: boolean;
  readonly behind: Behind;
}

export const useCurveView = create<CurveView>(() => ({
  pinned: [],
  hidden: [],
  isolated: [],
  normal: false,
  speed: false,
  holdLength: false,
  behind: 'beside',
}));
