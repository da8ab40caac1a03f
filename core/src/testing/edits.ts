import * as fc from 'fast-check';
import { channelPath, shownChannels, withDescendants } from '../document/index.ts';
import type { Shot } from '../document/shot.ts';
import * as edit from '../edit/index.ts';
import { rotationOrders } from '../pose/index.ts';
import { extension, numberCurve, quaternion, value } from './arbitraries.ts';

/** Random edits by every command, each made to fit whatever shot it meets. */

type Change = (shot: Shot) => { shot: Shot; edit: edit.UndoableEdit } | null;

const pick = <T>(list: readonly T[], n: number): T => list[n % list.length];

/** The sizes of the dice: `who` chooses members, `what` channels and keys. */
const dice = fc.record({
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
type Dice = typeof dice extends fc.Arbitrary<infer T> ? T : never;

const ids = (shot: Shot) => Object.keys(shot.members);
const paths = (shot: Shot, id: string) => shownChannels(shot.members[id]).map((c) => channelPath(id, c.id));

function someKeys(shot: Shot, d: Dice): edit.KeySelection {
  const all = Object.entries(shot.curves);
  if (all.length === 0) return {};
  const [path, curve] = pick(all, d.what);
  const frames = curve.keys.filter((_, i) => (i + d.who) % 2 === 0).map((k) => k.frame);
  return { [path]: frames };
}

const changes: ((shot: Shot, d: Dice) => ReturnType<Change>)[] = [
  (s, d) => {
    const path = pick(paths(s, pick(ids(s), d.who)), d.what);
    const given = path.endsWith('.orientation') ? d.quaternion : d.value;
    return edit.perform(s, edit.changeChannels, { frame: d.frame, values: { [path]: given }, autoKey: d.autoKey });
  },
  (s, d) => edit.perform(s, edit.setKeys, { frame: d.frame, paths: paths(s, pick(ids(s), d.who)) }),
  (s) => edit.perform(s, edit.dropLoose, { paths: Object.keys(s.loose) }),
  (s, d) =>
    edit.perform(s, edit.moveKeys, { keys: someKeys(s, d), by: (d.other % 9) - 4, rise: d.value, copy: d.flag }),
  (s, d) => edit.perform(s, edit.removeKeys, { keys: someKeys(s, d) }),
  (s, d) => edit.perform(s, edit.setHandleKind, { keys: someKeys(s, d), side: d.side, kind: d.kind }),
  (s, d) => edit.perform(s, edit.joinHandles, { keys: someKeys(s, d), joined: d.flag }),
  (s, d) => {
    const [path, frames] = Object.entries(someKeys(s, d))[0] ?? ['m0.move.x', [0]];
    return edit.perform(s, edit.dragHandle, {
      path,
      frame: frames[0] ?? 0,
      side: d.side,
      frames: d.other,
      rise: d.value,
    });
  },
  (s, d) => edit.perform(s, edit.setKeyValue, { keys: someKeys(s, d), value: d.value }),
  (s, d) =>
    edit.perform(s, edit.setExtension, {
      paths: Object.keys(someKeys(s, d)),
      side: d.flag ? 'before' : 'after',
      extension: d.extension,
    }),
  (s, d) =>
    edit.perform(s, edit.addMember, {
      member: edit.newMember(s, { kind: 'ball', id: `n${d.what}`, parent: pick([null, ...ids(s)], d.who) }),
    }),
  (s, d) =>
    withDescendants(s, [pick(ids(s), d.who)]).size === ids(s).length
      ? null
      : edit.perform(s, edit.removeMembers, { ids: [pick(ids(s), d.who)] }),
  (s, d) => {
    const chosen = [pick(ids(s), d.who)];
    const copies = Object.fromEntries(
      [...withDescendants(s, chosen)].map((id, i) => [id, `c${d.what}-${i}-${ids(s).length}`]),
    );
    return edit.perform(s, edit.duplicateMembers, { ids: chosen, copies });
  },
  (s, d) =>
    edit.perform(s, edit.parentMembers, {
      ids: [pick(ids(s), d.who)],
      parent: pick([null, ...ids(s)], d.other),
      frame: d.frame,
    }),
  (s, d) =>
    edit.perform(s, edit.setRotation, {
      id: pick(ids(s), d.who),
      rotation: d.flag ? 'angles' : 'orientation',
      order: d.order,
    }),
  (s, d) => edit.perform(s, edit.setRate, { rate: 12 + d.other, keep: d.flag ? 'frames' : 'seconds' }),
  (s, d) => edit.perform(s, edit.setRange, { range: { first: 1, last: 10 + d.what } }),
  (s, d) => edit.perform(s, edit.setPlayRange, { play: { first: d.frame, last: d.frame + d.who } }),
  (s, d) => edit.perform(s, edit.renameMember, { id: pick(ids(s), d.who), name: `Name ${d.what}` }),
  (s, d) => edit.perform(s, edit.lockMembers, { ids: ids(s), locked: d.flag }),
  (s, d) => {
    const id = pick(ids(s), d.who);
    if (s.members[id].custom.some((c) => c.id === `x${d.what}`)) return null;
    return edit.perform(s, edit.addCustomChannel, {
      id,
      channel: { id: `x${d.what}`, name: 'Glow', initial: d.value },
    });
  },
];

/** Lists of edits that can also be taken back. */
export const randomChanges: fc.Arbitrary<Change[]> = fc.array(
  fc.tuple(fc.nat(changes.length - 1), dice).map(
    ([which, d]) =>
      (s: Shot) =>
        changes[which](s, d),
  ),
  { minLength: 1, maxLength: 12 },
);

/** The same for those who only want the next shot. */
export const randomEdits: fc.Arbitrary<((shot: Shot) => Shot)[]> = randomChanges.map((list) =>
  list.map((change) => (s: Shot) => change(s)?.shot ?? s),
);
