import { channelsOf, isLocked, type Member, type Shot } from '@varrup/core';
import { ChannelRow } from '../channels/ChannelRow.tsx';

/** Some channels of a member, to be changed and keyed here. */
export function Channels({ shot, member, ids }: { shot: Shot; member: Member; ids: readonly string[] }) {
  return channelsOf(member, shot.rigs)
    .filter((c) => ids.includes(c.id))
    .map((channel) => (
      <ChannelRow
        key={channel.id}
        shot={shot}
        member={member}
        channel={channel}
        first
        disabled={isLocked(shot, member.id)}
      />
    ));
}
