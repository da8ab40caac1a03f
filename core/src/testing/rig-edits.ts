import { controlsOf } from '../document/casting.ts';
import type { Manner } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { plainSpan } from '../document/track.ts';
import * as edit from '../edit/index.ts';
import { newTrack } from '../track/spans.ts';
import { type Dice, pick, type Throw } from './dice.ts';

const rigOf = (s: Shot, d: Dice): string | null => {
  const rigs = s.members.values().filter((m) => m.kind === 'rig');
  return rigs.length > 0 ? pick(rigs, d.who).id : null;
};
const clipIn = (s: Shot, d: Dice) => (s.clips.size > 0 ? pick(s.clips.values(), d.what) : null);
const withRig =
  (change: (s: Shot, rig: string, d: Dice) => ReturnType<Throw>): Throw =>
  (s, d) => {
    const rig = rigOf(s, d);
    return rig === null ? null : change(s, rig, d);
  };
const withClip =
  (change: (s: Shot, id: string, d: Dice) => ReturnType<Throw>): Throw =>
  (s, d) => {
    const clip = clipIn(s, d);
    return clip && change(s, clip.id, d);
  };

/** Rigs, their poses and who holds whom. */
const rigs: readonly Throw[] = [
  (s, d) => {
    const id = `w${d.what}`;
    if (s.members.has(id) || s.members.size > 60) return null;
    return edit.perform(s, edit.bringRig, edit.newRigMembers(s, { rig: 'walker', version: d.flag ? 1 : 2, id }));
  },
  (s, d) => {
    const id = `w${d.what}`;
    if (s.members.has(id) || s.members.size > 60) return null;
    const gone = pick(s.members.keys(), d.what);
    const brought = edit.newRigMembers(s, { rig: 'walker', version: 1, id, at: [d.value / 10, 0, 1] });
    return s.members.at(gone).kind === 'control' ? null : edit.perform(s, edit.standIn, { ids: [gone], ...brought });
  },
  withRig((s, id, d) => edit.perform(s, edit.takeVersion, { id, version: d.flag ? 1 : 2 })),
  (s, d) =>
    s.aside.size > 0
      ? edit.perform(s, edit.placeAside, { id: pick(s.aside.keys(), d.what), control: 'chest', channel: 'look' })
      : null,
  (s, d) => edit.perform(s, edit.dropAside, { ids: s.aside.keys().slice(0, 1 + (d.what % 2)) }),
  withRig((s, rig, d) =>
    edit.perform(s, edit.putPose, {
      rig,
      pose: { 'hips.move.y': d.value / 100, 'stepL.heel': 0.3, 'chest.nod': 0.5, 'chest.turn.y': d.other / 50 },
      frame: d.frame,
      share: d.what / 500,
      name: 'a pose',
      autoKey: d.autoKey,
      key: d.flag,
    }),
  ),
  withRig((s, rig, d) =>
    edit.perform(s, edit.changeChannels, {
      frame: d.frame,
      values: {
        [`${pick(controlsOf(s, rig), d.other).id}.${pick(['move.x', 'turn.y', 'nod', 'reach'], d.what)}`]: 0.5,
      },
      autoKey: d.autoKey,
    }),
  ),
  withRig((s, rig, d) =>
    edit.perform(s, edit.switchLimb, {
      rig,
      limb: d.flag ? 'legL' : 'legR',
      to: d.other % 2 === 0 ? 'joints' : 'reach',
      frame: d.frame,
      words: 'the leg',
    }),
  ),
  withRig((s, rig, d) =>
    edit.perform(s, edit.holdMembers, {
      ids: [d.flag ? pick(controlsOf(s, rig), d.other).id : pick(s.members.keys(), d.other)],
      by: pick([{ is: 'own' }, { is: 'stage' }, { is: 'member', member: rig, joint: 'head' }] as const, d.what),
      frame: d.frame,
    }),
  ),
  withRig((s, rig, d) => edit.perform(s, edit.mirrorMotion, { rig, from: d.frame, to: d.frame + d.other })),
];

const clips: readonly Throw[] = [
  withRig((s, rig, d) => {
    const id = `clip${d.what}`;
    if (s.clips.has(id)) return null;
    const length = 8 + 2 * (d.other % 8);
    return edit.perform(s, edit.addClip, {
      clip: { ...edit.newClip(s, rig, { length, name: `Clip ${d.what}`, first: 1, cycles: d.flag }), id },
    });
  }),
  withClip((s, id) => edit.perform(s, edit.takeUpClip, { id })),
  withClip((s, id) => edit.perform(s, edit.layByClip, { id })),
  withRig((s, rig) => edit.perform(s, edit.layDown, { rig, within: { metres: 1e-3, radians: 1e-2 } })),
  withRig((s, rig, d) => {
    const [id, from] = [`out${d.what}`, Math.round(d.frame)];
    if (s.clips.has(id)) return null;
    return edit.perform(s, edit.liftOut, { rig, id, name: 'Out', from, to: from + 4 + (d.other % 20) });
  }),
  withClip((s, id, d) => edit.perform(s, edit.copyClip, { id, copy: `copy${d.what}-${s.clips.size}`, name: 'Copy' })),
  withClip((s, id, d) =>
    edit.perform(s, edit.varyClip, {
      id,
      copy: `vary${d.what}-${s.clips.size}`,
      name: 'Rounds',
      how: { times: 2, amount: 0.1, seed: d.other },
    }),
  ),
  withClip((s, id, d) => edit.perform(s, edit.removeClip, { id, keys: d.flag ? 'take' : 'keep' })),
  withClip((s, id, d) => edit.perform(s, edit.renameClip, { id, name: `Named ${d.other}` })),
  withClip((s, id, d) =>
    edit.perform(s, edit.setTravel, {
      id,
      change: pick<Parameters<typeof edit.setTravel.apply>[1]['change']>(
        [
          { travel: d.other / 20 },
          { travelling: d.flag },
          {
            way: {
              points: [
                [0, 0, 0],
                [1, 0, 2],
                [d.other / 10, 0, 4],
              ],
              ground: [[0, 0]],
            },
          },
          { way: null },
        ],
        d.who,
      ),
    }),
  ),
  withClip((s, id, d) => edit.perform(s, edit.setCycles, { id, cycles: d.flag })),
  withClip((s, id, d) =>
    edit.perform(s, edit.setManner, {
      id,
      change: pick(
        [
          { easeIn: d.other, easeOut: 3 },
          { key: d.flag ? 'w' : null },
          { how: 'onTop', controls: ['chest', 'head'], edge: d.other % 3 },
          { loop: d.flag ? { from: 1, to: 5 } : null, rank: d.what % 9 },
        ] as const satisfies readonly Partial<Manner>[],
        d.who,
      ),
    }),
  ),
  withClip((s, id, d) => {
    const rig = s.clips.at(id).rig;
    const others = s.clips.values().filter((c) => c.rig === rig && c.id !== id);
    if (others.length === 0) return null;
    const how = d.flag ? { over: d.other % 20, by: pick(['up', 'down', 'end'] as const, d.who) } : null;
    return edit.perform(s, edit.setFollow, { id, next: pick(others, d.other).id, how });
  }),
  withRig((s, rig, d) => {
    const base = d.flag ? (s.clips.values().find((c) => c.rig === rig)?.id ?? null) : null;
    const from = Math.round(d.frame);
    const pressed = [
      { frame: from + 4, press: { arrow: 'up' } },
      { frame: from + 9, press: { key: 'w' } },
    ] as const;
    return edit.perform(s, edit.tryCompany, { company: { rig, base, from, pressed }, until: from + 30 });
  }),
  withRig((s, rig, d) => {
    const [id, from] = [`held${d.what}`, Math.round(d.frame)];
    if (s.clips.has(id)) return null;
    const own = s.tracks.values().find((t) => t.rig === rig && t.spans.every((p) => p.from + p.length <= from));
    const track = own ?? { ...newTrack(s, rig), id: `poses${d.what}` };
    const span = { ...plainSpan, id: `of${id}`, clip: id, from, length: 12 };
    return edit.perform(s, edit.layPose, {
      rig,
      id,
      name: 'Pose',
      values: { 'hips.move.y': d.value / 100, 'stepL.move.z': 0.1, 'chest.nod': 0.5 },
      track: { ...track, spans: [...track.spans, span] },
    });
  }),
  withClip((s, id, d) => edit.perform(s, edit.resizeClip, { id, length: 6 + 2 * (d.other % 12) })),
  withClip((s, id, d) => edit.perform(s, edit.moveClip, { id, first: d.frame })),
  withClip((s, id, d) =>
    edit.perform(s, edit.setHalves, {
      id,
      halves: d.flag ? 'mirrored' : 'free',
      leads: d.other % 2 === 0 ? 'first' : 'second',
    }),
  ),
  withClip((s, id, d) => edit.perform(s, edit.labelPoses, { id, labels: [{ frame: d.other % 8, pose: 'passing' }] })),
  withClip((s, id, d) =>
    edit.perform(s, edit.setStances, { id, control: 'stepL', stances: d.flag ? [{ from: 0, to: 4 }] : [] }),
  ),
  withClip((s, id, d) =>
    edit.perform(s, edit.holdFeet, { id, stances: { stepR: [{ from: 1, to: 5 }] }, travel: d.flag ? 1 : 0.5 }),
  ),
  withClip((s, id, d) => {
    const control = pick(controlsOf(s, s.clips.at(id).rig), d.other);
    return edit.perform(s, edit.shiftInCycle, { id, by: { [control.id]: (d.who % 5) - 2 } });
  }),
];

/** Edits of rigs, what is put aside of them, their poses and their clips. */
export const rigEdits: readonly Throw[] = [...rigs, ...clips];
