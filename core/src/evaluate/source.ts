import type { Curve } from '../curve/key.ts';
import {
  type ChannelValue,
  channelsOf,
  constantValue,
  findChannel,
  ORIENTATION,
  splitPath,
} from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import type { Formula } from '../schema/formula.ts';
import { givenCurve, isSilenced } from '../track/arrangement.ts';
import { corrected } from '../track/corrected.ts';

/** What a channel has by itself: its keys, with what the tracks of its rig give as keys, or a constant. */
export type Keyed =
  | { readonly is: 'keys'; readonly curve: Curve }
  | { readonly is: 'constant'; readonly value: ChannelValue };

/** What a channel's value comes from. */
export type Source =
  | { readonly is: 'over'; readonly value: ChannelValue }
  | { readonly is: 'formula'; readonly formula: Formula; readonly on: Keyed }
  | Keyed;

/**
 * What a channel's value is, decided here and nowhere else: what stands in for it, else its formula, instead of its keys or on top of them, else its
 * keys with what the tracks of its rig give, else its constant. What a simulation adds comes after all of these. Undefined where there is no such channel.
 */
export function sourceOf(shot: Shot, path: string): Source | undefined {
  const value = shot.over?.get(path);
  if (value !== undefined) return { is: 'over', value };
  const on = keyedOf(shot, path);
  const formula = shot.formulas.get(path);
  return formula && on ? { is: 'formula', formula, on } : on;
}

function keyedOf(shot: Shot, path: string): Keyed | undefined {
  const [own, given] = [isSilenced(shot, path) ? undefined : shot.curves.get(path), givenCurve(shot, path)];
  const curve = own?.type === 'number' && given?.type === 'number' ? corrected(own, given) : (own ?? given);
  if (curve) return { is: 'keys', curve };
  const { member: id, channel } = splitPath(path);
  const member = shot.members.get(id);
  if (!member) return undefined;
  if (channel === ORIENTATION) return { is: 'constant', value: member.orientation };
  const found = findChannel(member, channel, shot.rigs) ?? channelsOf(member, shot.rigs).find((c) => c.id === channel);
  return found && { is: 'constant', value: constantValue(member, found) };
}

/** The curve that a channel goes by, its own keys with what tracks give; undefined where it has neither. */
export function playedCurve(shot: Shot, path: string): Curve | undefined {
  const keyed = keyedOf(shot, path);
  return keyed?.is === 'keys' ? keyed.curve : undefined;
}
