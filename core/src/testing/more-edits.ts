import { bounceTable } from '../bounce/table.ts';
import { fixFindings, heedFindings, ignoreFinding, setTolerance } from '../check/commands.ts';
import { findingsOf } from '../check/run.ts';
import { shapeOf } from '../curve/reshape.ts';
import { deformerKinds } from '../deform/kinds.ts';
import { deformChannel } from '../document/deformer.ts';
import type { Shot } from '../document/shot.ts';
import { soundNames } from '../document/sound.ts';
import { type ClipSpan, plainSpan } from '../document/track.ts';
import * as edit from '../edit/index.ts';
import { applyRecipe, removeRecipe } from '../kit/commands.ts';
import { firstSettings } from '../kit/kit.ts';
import { kits } from '../kit/kits.ts';
import { stockMaterials } from '../surface/index.ts';
import { bodies, type Dice, ids, paths, pick, someKeys, type Throw } from './dice.ts';

const body = (s: Shot, d: Dice) => pick(bodies(s), d.who);
const numbers = (s: Shot, id: string) => paths(s, id).filter((p) => !p.endsWith('.orientation'));

/** The first key of a selection, as its path and its curve's keys. */
function picked(s: Shot, d: Dice) {
  const keys = someKeys(s, d);
  const [path] = Object.keys(keys);
  const curve = path ? s.curves.get(path) : undefined;
  return { keys, path, curve: curve?.type === 'number' ? curve : undefined };
}

/** Curves, spacing and time, beyond what the plain ones do. */
const timing: readonly Throw[] = [
  (s, d) => edit.perform(s, edit.removeCurves, { paths: Object.keys(someKeys(s, d)) }),
  (s, d) => edit.perform(s, edit.setKeyRole, { keys: someKeys(s, d), role: d.flag ? 'key' : 'breakdown' }),
  (s, d) =>
    edit.perform(s, edit.rippleKeys, {
      paths: s.curves.keys(),
      from: d.frame,
      by: d.other - 20,
      collision: pick(edit.collisionAnswers, d.what),
    }),
  (s, d) => edit.perform(s, edit.cutKeys, { keys: someKeys(s, d), paths: s.curves.keys() }),
  (s, d) =>
    edit.perform(s, edit.staggerKeys, {
      groups: [someKeys(s, d), someKeys(s, { ...d, what: d.what + 1 })],
      step: d.other % 7,
      collision: pick(edit.collisionAnswers, d.who),
    }),
  (s, d) =>
    edit.perform(s, edit.placeTick, {
      paths: s.curves.keys(),
      frame: d.frame,
      tick: d.frame + (d.what % 3),
      share: d.other / 50,
    }),
  (s, d) => edit.perform(s, edit.slideBead, { paths: s.curves.keys(), frame: d.frame, to: d.frame + d.other / 10 }),
  (s, d) => {
    const { keys, curve } = picked(s, d);
    return curve
      ? edit.perform(s, edit.shapeAlike, { keys, shape: shapeOf(curve, d.other % curve.keys.length) })
      : null;
  },
  (s, d) => {
    const { path } = picked(s, d);
    const heights = s.curves.keys().filter((p) => p.endsWith('.move.y'));
    const height = path?.endsWith('.move.y') ? path : heights.length > 0 ? pick(heights, d.who) : null;
    return height
      ? edit.perform(s, edit.reshapeBounce, { path: height, frame: d.frame, height: d.other / 10, frames: 4 + d.who })
      : null;
  },
  (s, d) => {
    const heights = s.curves.keys().filter((p) => p.endsWith('.move.y'));
    if (heights.length === 0) return null;
    const path = pick(heights, d.who);
    const first = bounceTable(s, path)[d.what % 2]?.[0].contact.frame;
    return first === undefined ? null : edit.perform(s, edit.oneGravity, { path, frame: first });
  },
  (s, d) => edit.perform(s, edit.renameShot, { name: `Shot ${d.what}` }),
];

const members: readonly Throw[] = [
  (s, d) => {
    const chosen = [body(s, d)];
    const copies = [1, 2].map((n) => ({
      offset: [n, 0, d.value / 100] as const,
      turn: n === 1 ? 0 : d.other / 10,
      ...(n === 2 && d.what % 2 ? { mirror: pick(['x', 'z'] as const, d.who) } : {}),
      ids: Object.fromEntries(
        Object.keys(edit.copiesOf(s, chosen)).map((id, i) => [id, `a${n}-${d.what}-${i}-${s.members.size}`]),
      ),
    }));
    return edit.perform(s, edit.arrayMembers, { ids: chosen, copies });
  },
  (s, d) =>
    edit.perform(s, edit.groupMembers, {
      ids: [body(s, d), pick(bodies(s), d.other)],
      group: edit.newMember(s, { kind: 'group', id: `g${d.what}-${s.members.size}` }),
      frame: d.frame,
    }),
  (s, d) =>
    edit.perform(s, edit.setPivots, { pivots: { [body(s, d)]: [d.value / 50, d.other / 10, 0.2] }, frame: d.frame }),
  (s, d) => {
    const member = s.members.values().find((m) => m.kind === 'ball' || m.kind === 'box');
    const shape = member?.kind === 'ball' ? { radius: 0.1 + d.other / 10 } : { width: 0.1 + d.other / 10 };
    return member ? edit.perform(s, edit.reshapeMember, { id: member.id, shape }) : null;
  },
  (s, d) =>
    edit.perform(s, edit.makeOf, { ids: [body(s, d), pick(bodies(s), d.other)], stock: pick(stockMaterials, d.what) }),
  (s, d) =>
    edit.perform(s, edit.setSky, { look: pick(['day', 'dusk', 'night'] as const, d.what), id: `sky${d.other}` }),
  (s, d) => {
    const whole = s.members.values().find((m) => m.kind === 'box' || m.kind === 'ball' || m.kind === 'tube');
    if (!whole) return null;
    const pieces = edit
      .brokenPieces(s, whole.id, { count: 3, seed: d.what, struck: null })
      .map((p, i) => ({ ...p, id: `p${i}-${d.other}-${s.members.size}` }));
    return edit.perform(s, edit.breakUp, { id: whole.id, pieces });
  },
  (s, d) => edit.perform(s, edit.removeMaterial, { ids: [body(s, d)] }),
  (s, d) =>
    edit.perform(s, edit.setMaterial, {
      ids: [body(s, d)],
      material: { name: 'mine', cover: pick(stockMaterials, d.other).cover },
    }),
  (s, d) => {
    const member = s.members.values().find((m) => m.custom.length > 0);
    return member
      ? edit.perform(s, edit.removeCustomChannel, { id: member.id, channel: pick(member.custom, d.what).id })
      : null;
  },
  (s, d) =>
    edit.perform(s, edit.placePivots, {
      ids: [pick(ids(s), d.who)],
      pivot: [d.value / 100, d.other / 10, 0],
      frame: d.frame,
    }),
  (s, d) =>
    edit.perform(s, edit.holdMembers, {
      ids: [pick(ids(s), d.who)],
      by: pick(
        [
          { is: 'own' },
          { is: 'stage' },
          ...bodies(s)
            .slice(0, 1)
            .map((member) => ({ is: 'member' as const, member, joint: null })),
        ] as const,
        d.what,
      ),
      frame: Math.round(d.frame),
    }),
  (s, d) => {
    const member = s.members.values().find((m) => m.holds.length > 0);
    return member
      ? edit.perform(s, edit.removeHold, { ids: [member.id], frame: pick(member.holds, d.what).frame })
      : null;
  },
];

const deforming = (s: Shot, d: Dice) => {
  const bent = s.members.values().filter((m) => m.deformers.length > 0);
  const member = bent.length > 0 ? pick(bent, d.who) : null;
  return member && { member, deformer: pick(member.deformers, d.what) };
};

const deformers: readonly Throw[] = [
  (s, d) => {
    const member = s.members.at(body(s, d));
    const deformer = { ...edit.newDeformer(member, pick(deformerKinds, d.what)), id: `d${d.what}` };
    return member.deformers.some((other) => other.id === deformer.id)
      ? null
      : edit.perform(s, edit.addDeformer, { id: member.id, deformer });
  },
  (s, d) => {
    const on = deforming(s, d);
    if (!on) return null;
    const own = numbers(s, on.member.id).filter((p) => p.includes(deformChannel(on.deformer.id, '')));
    return edit.perform(s, edit.changeChannels, {
      frame: d.frame,
      values: { [pick(own, d.other)]: d.value / 200 },
      autoKey: d.autoKey,
    });
  },
  (s, d) => {
    const on = deforming(s, d);
    return on && edit.perform(s, edit.removeDeformer, { id: on.member.id, deformer: on.deformer.id });
  },
  (s, d) => {
    const on = deforming(s, d);
    return (
      on &&
      edit.perform(s, edit.setDeformer, {
        id: on.member.id,
        deformer: on.deformer.id,
        settings: { axis: pick(['x', 'y', 'z'], d.other) },
      })
    );
  },
  (s, d) => {
    const on = deforming(s, d);
    const by = d.flag ? 1 : -1;
    return on && edit.perform(s, edit.moveDeformer, { id: on.member.id, deformer: on.deformer.id, by });
  },
];

const formulas: readonly Throw[] = [
  (s, d) => {
    const path = pick(numbers(s, pick(ids(s), d.who)), d.what);
    const input = pick(numbers(s, pick(ids(s), d.other)), d.what);
    const text = pick(['2 * a', 'sin(a) + frame / 24', 'a + 1'], d.what);
    const formula = {
      text,
      inputs: [{ name: 'a', path: input }],
      mode: d.flag ? ('instead' as const) : ('add' as const),
    };
    return edit.perform(s, edit.setFormula, { path, formula });
  },
  (s, d) => edit.perform(s, edit.removeFormulas, { paths: s.formulas.keys().slice(0, 1 + (d.what % 2)) }),
  (s, d) =>
    edit.perform(s, edit.bakeFormulas, {
      paths: s.formulas.keys().slice(0, 1),
      tolerance: d.flag ? 0 : 0.1,
    }),
];

const recipes: readonly Throw[] = [
  (s, d) => {
    const member = s.members.at(body(s, d));
    const kit = pick(kits, d.what);
    const id = `recipe${d.other % 3}`;
    if (s.recipes.get(id) && s.recipes.at(id).kit !== kit.id) return null;
    const recipe = {
      id,
      kit: kit.id,
      member: member.id,
      settings: firstSettings(kit, s, member, 1, null),
      written: {},
    };
    return edit.perform(s, applyRecipe, { recipe, replace: d.flag });
  },
  (s, d) =>
    s.recipes.size === 0
      ? null
      : edit.perform(s, removeRecipe, { id: pick(s.recipes.keys(), d.what), keys: d.flag ? 'take' : 'keep' }),
];

/** Findings of a short stretch of a shot: looking through all of a random one would take most of a test's time. */
const findings = (s: Shot) => findingsOf({ ...s, range: { first: 1, last: 20 }, play: { first: 1, last: 20 } });

const checks: readonly Throw[] = [
  (s, d) => {
    const fixable = findings(s).filter((f) => f.fixable);
    return fixable.length > 0 ? edit.perform(s, fixFindings, { findings: [pick(fixable, d.what)] }) : null;
  },
  (s, d) => {
    const found = findings(s);
    return found.length > 0 ? edit.perform(s, ignoreFinding, { finding: pick(found, d.what) }) : null;
  },
  (s, d) => edit.perform(s, heedFindings, { ignored: s.watch.ignored.slice(0, 1 + (d.what % 2)) }),
  (s, d) => edit.perform(s, setTolerance, { check: 'contactGap', tolerance: d.flag ? d.other : null }),
];

const sounds: readonly Throw[] = [
  (s, d) =>
    edit.perform(s, edit.addSounds, {
      sounds: [{ id: `sound${d.what}`, name: 'Thud', sound: pick(soundNames, d.what), frame: d.frame, gain: 1 }],
    }),
  (s, d) =>
    s.sounds.size === 0
      ? null
      : edit.perform(s, edit.changeSound, { id: pick(s.sounds.keys(), d.what), change: { gain: d.other / 25 } }),
  (s, d) => edit.perform(s, edit.removeSounds, { ids: s.sounds.keys().slice(0, 1 + (d.what % 2)) }),
];

const cuts: readonly Throw[] = [
  (s, d) => {
    const cameras = s.members.values().filter((m) => m.kind === 'camera');
    if (cameras.length === 0) return null;
    return edit.perform(s, edit.putCut, {
      cut: { id: `cut${d.what}`, frame: Math.round(d.frame), camera: pick(cameras, d.other).id },
    });
  },
  (s, d) => {
    const [camera] = s.members.values().filter((m) => m.kind === 'camera');
    if (!camera) return null;
    return s.cuts.size === 0
      ? edit.perform(s, edit.putCut, { cut: { id: 'cut0', frame: 5, camera: camera.id } })
      : edit.perform(s, edit.moveCut, { id: pick(s.cuts.keys(), d.what), frame: d.frame + d.other + 1 });
  },
  (s, d) => edit.perform(s, edit.removeCuts, { ids: s.cuts.keys().slice(0, 1 + (d.what % 2)) }),
];

/** Tracks of a rig that has clips, with spans anywhere on them. */
const tracks: readonly Throw[] = [
  (s, d) => {
    const clips = s.clips.values().filter((c) => s.members.has(c.rig));
    if (clips.length === 0) return null;
    const clip = pick(clips, d.what);
    const bent = [
      { at: 0, clip: d.what % 7 },
      { at: 6, clip: d.other % 5 },
    ];
    const span = (id: string, from: number): ClipSpan => ({
      ...plainSpan,
      id,
      clip: clip.id,
      from,
      length: 12 + (d.other % 9),
      into: d.what % 5,
      speed: d.flag ? 1 : 0.7,
      easeIn: d.what % 4,
      easeOut: d.other % 4,
      shape: d.flag ? 'soft' : 'even',
      how: d.what % 3 === 0 ? 'onTop' : 'instead',
      strength: d.what % 2 === 0 ? 1 : 0.4,
      inStep: d.flag,
      ...(d.other % 4 === 0 ? { loop: { from: 1, to: 4 + (d.what % 9) } } : {}),
      ...(d.other % 7 === 0 ? { time: bent } : {}),
      levels: d.what % 5 === 0 ? [{ at: 2, share: 0.3 }] : [],
    });
    const from = Math.round(d.frame);
    const spans = [span('a', from), span('b', from + 10)];
    const id = `track${d.what % 3}`;
    const rank = d.other;
    return edit.perform(s, edit.putTrack, {
      track: {
        id,
        rig: clip.rig,
        name: 'Track',
        rank,
        muted: d.other % 5 === 0,
        alone: d.flag,
        locked: false,
        own: false,
        spans,
      },
    });
  },
  (s, d) => {
    const from = s.tracks.values().find((t) => t.spans.length > 0);
    const to = s.tracks.values().find((t) => t.id !== from?.id && t.rig === from?.rig);
    if (!from || !to) return null;
    return edit.perform(s, edit.moveSpan, {
      span: from.spans[0].id,
      from: from.id,
      to: to.id,
      at: Math.round(d.frame),
    });
  },
  (s, d) => {
    const tracked = s.tracks.values().map((t) => t.rig);
    return tracked.length > 0 ? edit.perform(s, edit.keyAsTracks, { ids: tracked, frame: d.frame }) : null;
  },
  (s, d) => edit.perform(s, edit.removeTracks, { ids: s.tracks.keys().slice(0, 1 + (d.what % 2)) }),
];

/** Edits of everything but keys and rigs. */
export const moreEdits: readonly Throw[] = [
  ...timing,
  ...members,
  ...deformers,
  ...formulas,
  ...recipes,
  ...checks,
  ...sounds,
  ...cuts,
  ...tracks,
];
