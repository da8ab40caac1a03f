import {
  type Clip,
  clipAtWork,
  emptyShot,
  type Key,
  type NumberCurve,
  removeKeys,
  removeRecipe,
  type Shot,
  setHalves,
  setHandleKind,
  setStances,
  setTravel,
  shiftInCycle,
} from '@varrup/core';
import { harbourRigs } from '../rigs/index.ts';
import { gaitSettings, withGait, withRig } from '../walking.ts';
import type { FaultyShot } from './faulty-shots.ts';

/** Walks that are right but for one thing, put in on purpose. */

const CLIP = { id: 'porter-gait' } as const;

/** A plain walk whose keys are plain ones, one round of it on the stage. */
function walk(id: string, name: string): Shot {
  const empty = { ...emptyShot(id, name, harbourRigs()), range: { first: 1, last: 25 }, play: { first: 1, last: 25 } };
  const stands = withRig(empty, { rig: 'porter', version: 2, id: 'porter', name: 'Porter', at: [0, 0, 0], facing: 0 });
  const settings = gaitSettings(stands, 'porter', { character: 'plain' });
  const walking = withGait(stands, 'porter', { name: 'Walk', settings, travelling: false });
  return removeRecipe.apply(walking, { id: 'porter-walk', keys: 'keep' });
}

const withClip = (shot: Shot, change: Partial<Clip>): Shot => {
  const clip = clipAtWork(shot, 'porter')!;
  return { ...shot, clips: shot.clips.with(clip.id, { ...clip, ...change }) };
};

/** A channel with its keys changed, whatever else hangs on them. */
function rekeyed(shot: Shot, channel: string, change: (key: Key) => Key): Shot {
  const path = `porter-${channel}`;
  const curve = shot.curves.get(path) as NumberCurve;
  return { ...shot, curves: shot.curves.with(path, { ...curve, keys: curve.keys.map(change) }) };
}

const scaled = (shot: Shot, channel: string, by: number): Shot =>
  rekeyed(shot, channel, (k) => ({ ...k, value: k.value * by, in: steep(k.in, by), out: steep(k.out, by) }));

const raised = (shot: Shot, channel: string, by: number): Shot =>
  rekeyed(shot, channel, (k) => ({ ...k, value: k.value + by }));

const steep = <H extends Key['in'] | Key['out']>(h: H, by: number): H =>
  h.kind === 'free' ? { ...h, rise: h.rise * by } : h;

const without = (shot: Shot, ...channels: string[]): Shot => ({
  ...shot,
  curves: shot.curves.withoutAll(channels.map((c) => `porter-${c}`)),
});

/** The last key of one channel deleted: both ends of the seam go with it. */
const seamless = (): FaultyShot => ({
  shot: removeKeys.apply(walk('seamless', 'No key at the seam'), { keys: { 'porter-hips.turn.z': [25] } }),
  findings: [{ check: 'seamKey', frame: 25, value: 3 }],
});

/** A key at the seam that points straight at its neighbours. */
const jerking = (): FaultyShot => ({
  shot: setHandleKind.apply(walk('jerking', 'A jerk every round'), {
    keys: { 'porter-hips.turn.z': [25] },
    side: 'both',
    kind: 'linear',
  }),
  findings: [{ check: 'seamHitch', frame: 25, value: 22.2 }],
});

/** The left foot five millimetres in the floor through its whole stance. */
const sinking = (): FaultyShot => {
  const shot = walk('sinking', 'A foot that sinks in');
  const free = setHalves.apply(shot, { ...CLIP, halves: 'free', leads: 'first' });
  return { shot: raised(free, 'footL.move.y', -0.005), findings: [{ check: 'belowFloor', frame: 3, value: 4.9 }] };
};

/** The last frame of the left foot's stance. */
const STANDS_TO = 15;

/** The left foot is held no more, and between 3 and 8 it is taken five millimetres too far back: one in each frame. */
const skating = (): FaultyShot => {
  const free = setHalves.apply(walk('skating', 'A foot that slides'), { ...CLIP, halves: 'free', leads: 'first' });
  const let_go = setStances.apply(free, { ...CLIP, control: 'footL', stances: [] });
  const path = 'porter-footL.move.z';
  const curve = let_go.curves.get(path) as NumberCurve;
  const [first, next] = curve.keys;
  const linear = { kind: 'linear' } as const;
  const on = (frame: number, off: number): Key => {
    const share = (frame - first.frame) / (next.frame - first.frame);
    const value = first.value + (next.value - first.value) * share + off;
    return { frame, value, in: linear, out: linear, joined: false, role: 'key' };
  };
  const last = curve.keys.at(-1)!;
  const keys = [
    { ...first, out: linear, joined: false },
    on(3, 0),
    on(8, -0.005),
    ...curve.keys.slice(1, -1).map((k) => (k.frame <= STANDS_TO ? { ...k, value: k.value - 0.005 } : k)),
    { ...last, out: linear, joined: false },
  ];
  return {
    shot: { ...let_go, curves: let_go.curves.with(path, { ...curve, keys }) },
    findings: [{ check: 'footSlides', frame: 3, value: 1 }],
  };
};

/** Arms that go with the legs of their own side. */
const camel = (): FaultyShot => {
  let shot = walk('camel', 'Arms with the legs');
  for (const m of ['L', 'R']) shot = scaled(shot, `armJoint${m}.turn.x`, -1.4);
  return {
    shot,
    findings: [
      { check: 'armWithLeg', frame: 11, value: 92.43 },
      { check: 'armWithLeg', frame: 23, value: 92.43 },
    ],
  };
};

/** One pose of four wrong: at one contact the right arm is where the right leg is; as a whole the arms swing as they should. */
const onePose = (): FaultyShot => {
  const free = setHalves.apply(walk('one-pose', 'One contact wrong'), { ...CLIP, halves: 'free', leads: 'first' });
  const wrong = (k: Key): Key => (k.frame >= 11 && k.frame <= 14 ? { ...k, value: -0.5 } : k);
  return {
    shot: rekeyed(free, 'armJointR.turn.x', wrong),
    findings: [{ check: 'armWithLeg', frame: 11, value: 57.61 }],
  };
};

/** Three centimetres too tall: legs locked straight. */
const stilts = (): FaultyShot => ({
  shot: raised(walk('stilts', 'Legs like stilts'), 'body.move.y', 0.03),
  findings: [
    { check: 'limbReach', frame: 1, value: 100 },
    { check: 'limbReach', frame: 9, value: 100 },
    { check: 'limbReach', frame: 12, value: 100 },
    { check: 'limbReach', frame: 21, value: 100 },
    { check: 'limbReach', frame: 24, value: 100 },
  ],
});

/** One knee points out eight centimetres further than the other. */
const uneven = (): FaultyShot => {
  const shot = walk('uneven', 'One knee out');
  const knee = shot.members.at('porter-kneeL');
  const values = { ...knee.values, 'move.x': 0.08 };
  return {
    shot: { ...shot, members: shot.members.with(knee.id, { ...knee, values }) },
    findings: [{ check: 'halvesDiffer', frame: 7, value: 43.08 }],
  };
};

/** The clip travels eight millimetres further than its feet go, and nothing holds them. */
const drifting = (): FaultyShot => {
  const shot = withClip(walk('drifting', 'Further than the feet'), { stances: {} });
  const travel = clipAtWork(shot, 'porter')!.travel + 0.008;
  return {
    shot: setTravel.apply(shot, { ...CLIP, change: { travel } }),
    findings: [{ check: 'travelAndStride', frame: 1, value: 8 }],
  };
};

/** Hips like a board. */
const wooden = (): FaultyShot => ({
  // A little lower: legs that the hips do not lengthen would be stretched besides.
  shot: raised(without(walk('wooden', 'Hips like a board'), 'hips.turn.y', 'hips.turn.z'), 'body.move.y', -0.02),
  findings: [{ check: 'stiffHips', frame: 1, value: 0 }],
});

/** Up and down four frames late, and low enough for the legs. */
const pumping = (): FaultyShot => {
  const shot = raised(walk('pumping', 'Up and down too late'), 'body.move.y', -0.03);
  return {
    shot: shiftInCycle.apply(shot, { ...CLIP, by: { 'porter-body': 4 } }),
    findings: [
      { check: 'hipsTiming', frame: 2, value: 4 },
      { check: 'hipsTiming', frame: 8, value: 4 },
      { check: 'hipsTiming', frame: 14, value: 4 },
      { check: 'hipsTiming', frame: 20, value: 4 },
    ],
  };
};

/** A head that turns with every step. */
const shaking = (): FaultyShot => ({
  shot: scaled(walk('shaking', 'A head that shakes'), 'head.turn.y', 5),
  findings: [{ check: 'headUnsteady', frame: 1, value: 58.13 }],
});

export const faultyWalks = (): FaultyShot[] => [
  seamless(),
  jerking(),
  sinking(),
  skating(),
  camel(),
  onePose(),
  stilts(),
  uneven(),
  drifting(),
  wooden(),
  pumping(),
  shaking(),
];
