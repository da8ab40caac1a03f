import { withDescendants } from '../document/index.ts';
import * as edit from '../edit/index.ts';
import { bodies, ids, paths, pick, someKeys, type Throw } from './dice.ts';

/** Edits of keys, curves, members and the shot itself. */
export const plainEdits: readonly Throw[] = [
  (s, d) => {
    const path = pick(paths(s, pick(ids(s), d.who)), d.what);
    const given = path.endsWith('.orientation') ? d.quaternion : d.value;
    return edit.perform(s, edit.changeChannels, { frame: d.frame, values: { [path]: given }, autoKey: d.autoKey });
  },
  (s, d) => edit.perform(s, edit.setKeys, { frame: d.frame, paths: paths(s, pick(ids(s), d.who)) }),
  (s) => edit.perform(s, edit.dropLoose, { paths: s.loose.keys() }),
  (s) => edit.perform(s, edit.keyLoose, { paths: s.loose.keys() }),
  (s, d) =>
    edit.perform(s, edit.moveKeys, { keys: someKeys(s, d), by: (d.other % 9) - 4, rise: d.value, copy: d.flag }),
  (s, d) =>
    edit.perform(s, edit.retimeKeys, {
      keys: someKeys(s, d),
      how: pick(
        [
          { kind: 'move', by: d.frame / 8 },
          { kind: 'scale', about: d.frame, factor: 0.25 + d.other / 16, whole: d.flag },
          { kind: 'reverse' },
          { kind: 'whole' },
          { kind: 'onto', frames: [1, 13, 25, 37, 49] },
        ] as const,
        d.what,
      ),
      collision: pick(edit.collisionAnswers, d.other),
    }),
  (s, d) => edit.perform(s, edit.insertFrames, { paths: s.curves.keys(), after: d.frame, count: (d.other % 5) - 2 }),
  (s, d) =>
    edit.perform(s, edit.repeatKeys, {
      keys: someKeys(s, d),
      times: 1 + (d.other % 3),
      gap: d.who % 2,
      travel: d.flag,
      collision: pick(edit.collisionAnswers, d.other),
    }),
  (s, d) => edit.perform(s, edit.putDownKeys, { carried: edit.carryKeys(s, someKeys(s, d)), frame: d.frame }),
  (s, d) => edit.perform(s, edit.placeBetween, { paths: s.curves.keys(), frame: d.frame, share: d.other / 25 - 0.5 }),
  (s, d) =>
    edit.perform(s, edit.spaceBetween, {
      paths: s.curves.keys(),
      frame: d.frame,
      spacing: pick(edit.spacings, d.other),
    }),
  (s, d) => edit.perform(s, edit.turnSpacing, { paths: s.curves.keys(), frame: d.frame }),
  (s, d) => edit.perform(s, edit.slideSpacing, { paths: s.curves.keys(), frame: d.frame, by: d.other - 25 }),
  (s, d) =>
    edit.perform(s, edit.changeValues, {
      keys: someKeys(s, d),
      how: pick(
        [
          { kind: 'scale', factor: d.other / 10 - 2, about: 'mean' },
          { kind: 'offset', by: d.value },
          { kind: 'flatten', to: 'first' },
          { kind: 'smooth', share: d.who / 50 },
        ] as const,
        d.what,
      ),
    }),
  (s, d) =>
    edit.perform(s, edit.tuneKeys, {
      keys: someKeys(s, d),
      tuning: { tension: d.who / 50, continuity: d.other / 50, bias: d.what / 500 },
    }),
  (s, d) => edit.perform(s, edit.thinKeys, { keys: someKeys(s, d), tolerances: { m: 0.1 + d.other, '°': 0.1, '': 1 } }),
  (s) => edit.perform(s, edit.removeStill, { paths: s.curves.keys() }),
  (s, d) => {
    const id = `set${d.what % 3}`;
    const chosen = paths(s, pick(ids(s), d.who)).slice(0, 1 + (d.other % 5));
    return d.flag
      ? edit.perform(s, edit.saveSet, { set: { id, name: `Set ${d.other}`, paths: chosen } })
      : edit.perform(s, edit.removeSet, { id });
  },
  (s, d) =>
    edit.perform(s, edit.chooseKeyed, { ids: [pick(ids(s), d.who)], channels: d.flag ? ['move.x', 'turn.y'] : null }),
  (s, d) =>
    edit.perform(s, edit.turnTogether, {
      ids: [pick(ids(s), d.who), pick(ids(s), d.other)],
      pivot: [d.value / 100, 0, 1],
      axis: pick(
        [
          [1, 0, 0],
          [0, 1, 0],
          [0.3, 1, -2],
        ] as const,
        d.what,
      ),
      angle: d.other / 8,
      from: d.frame,
      to: d.frame + 1 + d.who,
    }),
  (s, d) => {
    // Keyed on both frames, it flips: there is something to unroll.
    const path = paths(s, pick(bodies(s), d.who % 3)).find((p) => p.endsWith('.turn.y'));
    const [frame, angle] = d.flag ? [1, 0] : [5, 5.6];
    return path ? edit.perform(s, edit.changeChannels, { frame, values: { [path]: angle }, autoKey: 'every' }) : null;
  },
  (s, d) => edit.perform(s, edit.unrollTurns, { ids: ids(s).slice(0, 1 + d.who) }),
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
    // Ids are given once: the same again would put a member in place of another, perhaps under itself.
    s.members.has(`n${d.what}`)
      ? null
      : edit.perform(s, edit.addMember, {
          member: edit.newMember(s, { kind: 'ball', id: `n${d.what}`, parent: pick([null, ...bodies(s)], d.who) }),
        }),
  (s, d) =>
    withDescendants(s, [pick(bodies(s), d.who)]).size === ids(s).length
      ? null
      : edit.perform(s, edit.removeMembers, { ids: [pick(bodies(s), d.who)] }),
  (s, d) => {
    const chosen = [pick(bodies(s), d.who)];
    const copies = Object.fromEntries(
      [...withDescendants(s, chosen)].map((id, i) => [id, `c${d.what}-${i}-${ids(s).length}`]),
    );
    return edit.perform(s, edit.duplicateMembers, { ids: chosen, copies });
  },
  (s, d) =>
    edit.perform(s, edit.parentMembers, {
      ids: [pick(bodies(s), d.who)],
      parent: pick([null, ...bodies(s)], d.other),
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
    const id = pick(bodies(s), d.who);
    if (s.members.at(id).custom.some((c) => c.id === `x${d.what}`)) return null;
    return edit.perform(s, edit.addCustomChannel, {
      id,
      channel: { id: `x${d.what}`, name: 'Glow', initial: d.value },
    });
  },
];
