import { create } from 'zustand';

export type Tool = 'pick' | 'move' | 'turn' | 'size';
export type AxisFrame = 'world' | 'parent' | 'own';
export type Axis = 'x' | 'y' | 'z';
/** What turning goes about: each one's own pivot, the middle of all, the leading one's pivot, or the middle of the stage. */
export type TurnAbout = 'own' | 'middle' | 'lead' | 'stage';

export const snaps = ['off', 'grid', 'things'] as const;
export type Snap = (typeof snaps)[number];

/** What is in the hand, and how it acts. */
export interface ToolState {
  readonly tool: Tool;
  readonly axes: AxisFrame;
  /** Axes that move, turn and size leave alone. */
  readonly locks: Readonly<Record<Axis, boolean>>;
  readonly about: TurnAbout;
  /** What a hand goes to: nothing, steps of the ruled floor, or the ground and other things. */
  readonly snap: Snap;
  /** Whether moving takes the pivot along and leaves the thing where it is. */
  readonly pivot: boolean;
}

export const useTool = create<ToolState>(() => ({
  tool: 'move',
  axes: 'world',
  locks: { x: false, y: false, z: false },
  about: 'own',
  snap: 'off',
  pivot: false,
}));
