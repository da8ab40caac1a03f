import * as fc from 'fast-check';
import { channelPath, shownChannels } from '../document/index.ts';
import type { Shot } from '../document/shot.ts';
import type * as edit from '../edit/index.ts';
import { rotationOrders } from '../pose/index.ts';
import { extension, numberCurve, quaternion, value } from './arbitraries.ts';

/** What random edits are made of: dice, and picks by them that fit whatever shot they meet. */

/** An edit as it was done, or null where the shot had nobody for it. */
export type Done = { shot: Shot; edit: edit.UndoableEdit } | null;
export type Change = (shot: Shot) => Done;
/** A kind of edit: what it does is decided by the dice. */
export type Throw = (shot: Shot, d: Dice) => Done;

export const pick = <T>(list: readonly T[], n: number): T => list[n % list.length];

/** The sizes of the dice: `who` chooses members, `what` channels and keys. */
export const dice = fc.record({
  who: fc.nat(50),
  other: fc.nat(50),
  what: fc.nat(500),
  frame: fc.integer({ min: -10, max: 120 }),
  value,
  curve: numberCurve,
  quaternion,
  kind: fc.constantFrom('smooth', 'flat', 'linear', 'free', 'stepped' as const),
  side: fc.constantFrom('in', 'out' as const),
  autoKey: fc.constantFrom('off', 'every', 'animated' as const),
  extension,
  order: fc.constantFrom(...rotationOrders),
  flag: fc.boolean(),
});
export type Dice = typeof dice extends fc.Arbitrary<infer T> ? T : never;

export const ids = (shot: Shot) => shot.members.keys();
export const paths = (shot: Shot, id: string) =>
  shownChannels(shot.members.at(id), shot.rigs).map((c) => channelPath(id, c.id));

/** Members that are no controls of a rig: those people copy, delete and hang on one another. */
export const bodies = (shot: Shot) =>
  shot.members
    .values()
    .filter((m) => m.kind !== 'control')
    .map((m) => m.id);

export function someKeys(shot: Shot, d: Dice): edit.KeySelection {
  const all = shot.curves.entries();
  if (all.length === 0) return {};
  const [path, curve] = pick(all, d.what);
  const frames = curve.keys.filter((_, i) => (i + d.who) % 2 === 0).map((k) => k.frame);
  return { [path]: frames };
}
