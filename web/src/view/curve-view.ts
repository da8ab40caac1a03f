import { create } from 'zustand';

/** What curves are compared with: as they were when the shot was opened, or in a named version. */
export type AsItWas =
  | { readonly from: 'opened' }
  | { readonly from: 'version'; readonly id: string; readonly name: string };

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
  readonly asItWas: AsItWas | null;
}

export const useCurveView = create<CurveView>(() => ({
  pinned: [],
  hidden: [],
  isolated: [],
  normal: false,
  speed: false,
  holdLength: false,
  asItWas: null,
}));
