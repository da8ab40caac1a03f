import type { RotationOrder } from '../../pose/rotation-order.ts';

/**
 * A skeleton and how it moves, frame by frame, as motion capture is kept: each joint stands at an offset from its parent, square to
 * it at rest, and is moved and turned by its channels in the order they are listed. Lengths are in whatever unit the file is in,
 * turns in degrees.
 */
export interface Capture {
  readonly joints: readonly CaptureJoint[];
  /** Frames a second. */
  readonly rate: number;
  readonly frames: number;
  /** The channels of all joints, in the joints' order, frame after frame. */
  readonly values: Float64Array;
}

export interface CaptureJoint {
  readonly name: string;
  /** Its parent among the joints, which stands before it; -1 for a root. */
  readonly parent: number;
  readonly offset: Offset;
  readonly channels: readonly CaptureChannel[];
  /** Where the joint ends, from its own place, if it carries no other. */
  readonly end: Offset | null;
}

export type Offset = readonly [x: number, y: number, z: number];

export const captureChannels = ['move.x', 'move.y', 'move.z', 'turn.x', 'turn.y', 'turn.z'] as const;
export type CaptureChannel = (typeof captureChannels)[number];

export const captureLimits = {
  /** Characters of a file. */
  size: 200_000_000,
  joints: 1000,
  depth: 120,
  frames: 200_000,
  /** Numbers of all frames together. */
  values: 20_000_000,
  rate: 1000,
} as const;

/** Where the channels of each joint begin among the numbers of a frame. */
export function columnsOf(joints: readonly CaptureJoint[]): number[] {
  let next = 0;
  return joints.map(({ channels }) => {
    const first = next;
    next += channels.length;
    return first;
  });
}

/** How many numbers a frame has. */
export const captureWidth = (joints: readonly CaptureJoint[]): number =>
  joints.reduce((sum, joint) => sum + joint.channels.length, 0);

/** The order of turns of what is written, first turn first: listed z, x, y, the last one turns first. */
export const writtenOrder: RotationOrder = 'yxz';
