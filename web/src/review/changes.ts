import type { ChannelChange, Comparison, MemberChange } from '@varrup/core';

/** A change as it is stepped through. */
export type Change = ChannelChange & { readonly of: MemberChange };

/** The changes of a comparison channel by channel, in the order of the frames on which they are largest. */
export const changesOf = ({ members }: Comparison): Change[] =>
  members.flatMap((of) => of.channels.map((channel) => ({ ...channel, of }))).sort((a, b) => a.frame - b.frame);
