import type { OrientationKey } from '../curve/key.ts';
import type { AnyKey } from '../curve/turn-back.ts';
import type { ChannelValue } from '../schema/channel.ts';

/** How a channel is mirrored: the same number, the opposite one, or an orientation turned about. */
export type MirrorSign = 1 | -1 | 'orientation';

/** The value a channel has in the mirror. Never -0: that is another number to whoever compares texts. */
export function mirrorImage(value: ChannelValue, sign: MirrorSign): ChannelValue {
  if (typeof value !== 'number') return [value[0], -value[1], -value[2], value[3]];
  return sign === -1 && value !== 0 ? -value : value;
}

/** A key as it is in the mirror, at the same frame. */
export function keyImage<K extends AnyKey>(key: K, sign: MirrorSign): K {
  if (typeof key.value !== 'number') return { ...key, value: mirrorImage(key.value, sign) as OrientationKey['value'] };
  const steep = <H extends AnyKey['in'] | AnyKey['out']>(h: H): H =>
    h.kind === 'free' && sign === -1 ? { ...h, rise: h.rise === 0 ? 0 : -h.rise } : h;
  return { ...key, value: mirrorImage(key.value, sign), in: steep(key.in), out: steep(key.out) };
}
