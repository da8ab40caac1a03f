import {
  type Channel,
  type ChannelValue,
  channelPath,
  type Frame,
  type Member,
  type Shot,
  shownChannels,
} from '@varrup/core';

/** How far a hand goes for the whole of a dial, in pixels. */
const WHOLE = 160;

/** A control that has nothing but dials is dragged by them: the first sideways, the second up and down. */
export class DialDrag {
  readonly #member: string;
  readonly #from: readonly [number, number];
  readonly #dials: readonly { readonly channel: Channel; readonly value: number }[];

  /** Null where the control has no dial either. */
  static of(shot: Shot, member: Member, frame: Frame, from: readonly [number, number]): DialDrag | null {
    const dials = shownChannels(member, shot.rigs).filter((c) => c.id !== 'visible');
    return dials.length > 0 ? new DialDrag(member.id, dials.slice(0, 2), frame, from) : null;
  }

  private constructor(member: string, dials: readonly Channel[], frame: Frame, from: readonly [number, number]) {
    this.#member = member;
    this.#from = from;
    this.#dials = dials.map((channel) => ({ channel, value: frame.value(member, channel.id) ?? channel.initial }));
  }

  to([x, y]: readonly [number, number], fine: boolean): Record<string, ChannelValue> {
    const by = [x - this.#from[0], this.#from[1] - y];
    return Object.fromEntries(
      this.#dials.flatMap(({ channel, value }, i) => {
        const { min = 0, max = 1 } = channel;
        const next = value + ((max - min) * by[i] * (fine ? 0.1 : 1)) / WHOLE;
        return by[i] === 0 ? [] : [[channelPath(this.#member, channel.id), Math.min(max, Math.max(min, next))]];
      }),
    );
  }
}
