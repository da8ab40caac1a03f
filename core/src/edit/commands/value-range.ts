import { type ChannelValue, findChannel, rangeOf, splitPath } from '../../document/channels.ts';
import type { Shot } from '../../document/shot.ts';
import { channelWords } from '../../document/words.ts';
import { Refused } from '../../schema/refused.ts';

/** What a unit shows, of what is kept. */
const SHOWN = { m: 1, '°': 180 / Math.PI, '': 1 } as const;
const said = (value: number) => Number(value.toPrecision(6)).toLocaleString('en', { maximumFractionDigits: 4 });

/** @throws Refused where a hand sets a channel to what lies outside its range; fields say the same range. */
export function refuseOutside(shot: Shot, path: string, value: ChannelValue): void {
  if (typeof value !== 'number') return;
  const { member: id, channel: name } = splitPath(path);
  const member = shot.members.get(id);
  const channel = member && findChannel(member, name, shot.rigs);
  if (!channel) return;
  const { min, max } = rangeOf(channel);
  const dust = 1e-9 * (max - min);
  if (value >= min - dust && value <= max + dust) return;
  const scale = SHOWN[channel.unit];
  const unit = channel.unit && ` ${channel.unit}`;
  throw new Refused(
    `${channelWords(shot, [path])} goes from ${said(min * scale)} to ${said(max * scale)}${unit}, not to ${said(value * scale)}.`,
  );
}
