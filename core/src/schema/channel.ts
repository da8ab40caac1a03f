import type { Quaternion } from './numbers.ts';

/**
 * Channels: the numbers of a member that can be animated. Each has an id that is unique in its member (`move.x`), and
 * the whole shot knows it by its path, `memberId.channelId`.
 */
export interface Channel {
  readonly id: string;
  /** The block it is shown in: move, turn, size, pivot, colour, or its own name. */
  readonly group: string;
  /** Its name within the block. */
  readonly label: string;
  readonly unit: '' | 'm' | '°';
  readonly initial: number;
  readonly min?: number;
  readonly max?: number;
  /** Whether "key every channel" means it too. */
  readonly everyday: boolean;
  /** A channel that is there for the arithmetic and cannot be set: locked by a rig. */
  readonly closed?: boolean;
}

export type ChannelValue = number | Quaternion;

/** One more channel that members of a kind have, beside those every member has. */
export interface KindChannel {
  readonly id: string;
  readonly label: string;
  readonly unit: '' | 'm' | '°';
  readonly initial: number;
  readonly min?: number;
  readonly max?: number;
}
