import * as fc from 'fast-check';
import type { Curve, Key, NumberCurve, OrientationCurve } from '../curve/index.ts';
import { channelsOf, type Loose, type Member, type Quaternion, type Shot, simpleKinds } from '../document/index.ts';
import { emptyShot } from '../document/shot.ts';
import {
  addClip,
  addDeformer,
  addMember,
  bringRig,
  changeChannels,
  copyClip,
  newClip,
  newDeformer,
  newMember,
  newRigMembers,
  putTrack,
  saveSet,
  setFormula,
  takeVersion,
} from '../edit/index.ts';
import { applyRecipe } from '../kit/commands.ts';
import { firstSettings } from '../kit/kit.ts';
import { kitOf } from '../kit/kits.ts';
import { quaternionNormal, rotationOrders } from '../pose/index.ts';
import { Table } from '../table/table.ts';
import { newSpan, newTrack } from '../track/index.ts';
import { walkerRigs } from './rig.ts';

/** Random documents for property tests: of every kind and shape the schema allows, in reasonable sizes. */

// A failing property stops shrinking after a while instead of going on for hours.
fc.configureGlobal({ interruptAfterTimeLimit: 100_000, markInterruptAsFailure: true });

export const value = fc.integer({ min: -100_000, max: 100_000 }).map((v) => v / 1024);

/** Any frame, in sixty-fourths: fine enough to fall anywhere, and exact in every sum. */
export const time = fc.integer({ min: -20 * 64, max: 200 * 64 }).map((v) => v / 64);
const tuning = fc.integer({ min: -64, max: 64 }).map((v) => v / 64);
const handle = fc.oneof(
  fc.constantFrom({ kind: 'smooth' as const }, { kind: 'flat' as const }, { kind: 'linear' as const }),
  fc.record({ kind: fc.constant('tuned' as const), tension: tuning, continuity: tuning, bias: tuning }),
  fc.record({ kind: fc.constant('free' as const), frames: fc.double({ min: 0, max: 40, noNaN: true }), rise: value }),
);
const outHandle = fc.oneof(
  { weight: 5, arbitrary: handle },
  { weight: 1, arbitrary: fc.constant({ kind: 'stepped' as const }) },
);
export const extension = fc.constantFrom('hold', 'slope', 'cycle', 'travel', 'swing' as const);
const role = fc.constantFrom('key', 'breakdown' as const);

const frames = (max: number) =>
  fc
    .uniqueArray(fc.integer({ min: -20, max: 150 }), { minLength: 1, maxLength: max })
    .map((f) => f.sort((a, b) => a - b));

export const key = (frame: number): fc.Arbitrary<Key> =>
  fc.record({ frame: fc.constant(frame), value, in: handle, out: outHandle, joined: fc.boolean(), role });

export const numberCurve: fc.Arbitrary<NumberCurve> = frames(8).chain((at) =>
  fc.record({
    type: fc.constant('number' as const),
    keys: fc.tuple(...at.map(key)),
    before: extension,
    after: extension,
  }),
);

export const quaternion: fc.Arbitrary<Quaternion> = fc
  .tuple(value, value, value, value)
  .filter((q) => Math.hypot(...q) > 1)
  .map((q) => quaternionNormal(q));

const plainHandle = fc.constantFrom(
  { kind: 'smooth' as const },
  { kind: 'flat' as const },
  { kind: 'linear' as const },
);
export const orientationCurve: fc.Arbitrary<OrientationCurve> = frames(6).chain((at) =>
  fc.record({
    type: fc.constant('orientation' as const),
    keys: fc.tuple(
      ...at.map((frame) =>
        fc.record({
          frame: fc.constant(frame),
          value: quaternion,
          in: plainHandle,
          out: fc.oneof(plainHandle, fc.constant({ kind: 'stepped' as const })),
          joined: fc.boolean(),
          role,
        }),
      ),
    ),
    before: extension,
    after: extension,
  }),
);

export const curve: fc.Arbitrary<Curve> = fc.oneof(numberCurve, orientationCurve);

interface Sketch {
  readonly kind: Member['kind'];
  readonly parent: number;
  readonly orientation: boolean;
  readonly order: Member['order'];
  readonly values: readonly { channel: number; value: number }[];
  readonly curves: readonly { channel: number; curve: NumberCurve }[];
  readonly turning: OrientationCurve | null;
  readonly loose: readonly { channel: number; value: number }[];
}

const channelPick = fc.nat({ max: 40 });
const sketch: fc.Arbitrary<Sketch> = fc.record({
  kind: fc.constantFrom(...simpleKinds),
  parent: fc.integer({ min: -1, max: 10 }),
  orientation: fc.boolean(),
  order: fc.constantFrom(...rotationOrders),
  values: fc.array(fc.record({ channel: channelPick, value }), { maxLength: 4 }),
  curves: fc.array(fc.record({ channel: channelPick, curve: numberCurve }), { maxLength: 4 }),
  turning: fc.option(orientationCurve),
  loose: fc.array(fc.record({ channel: channelPick, value }), { maxLength: 1 }),
});

/** A shot of up to seven members m0, m1, …, each under an earlier one or on the stage. */
export const shot: fc.Arbitrary<Shot> = fc.array(sketch, { minLength: 1, maxLength: 7 }).map((sketches) => {
  let made = emptyShot('s1', 'A shot');
  const curves: Record<string, Curve> = {};
  const loose: Record<string, Loose> = {};
  sketches.forEach((s, i) => {
    const parent = s.parent >= 0 && i > 0 ? `m${s.parent % i}` : null;
    const fresh = newMember(made, { kind: s.kind, id: `m${i}`, parent });
    const channels = channelsOf(fresh, made.rigs).map((c) => c.id);
    const at = (n: number) => channels[n % channels.length];
    const member = {
      ...fresh,
      rotation: s.orientation ? ('orientation' as const) : ('angles' as const),
      order: s.order,
      values: Object.fromEntries(s.values.map((v) => [at(v.channel), v.value])),
    };
    for (const c of s.curves) curves[`m${i}.${at(c.channel)}`] = c.curve;
    if (s.orientation && s.turning) curves[`m${i}.orientation`] = s.turning;
    for (const l of s.loose) loose[`m${i}.${at(l.channel)}`] = [{ frame: 1 + (l.channel % 3), value: l.value }];
    made = addMember.apply(made, { member });
  });
  return { ...made, curves: Table.of(curves), loose: Table.of<Loose>(loose) };
});

/**
 * The same with the walker at hand; half of them furnished: with a walker, its clips and a track, a ball that bounces by a recipe and turns by a formula, a member bent
 * twice, a control set and a custom channel.
 */
export const castWithRigs: fc.Arbitrary<Shot> = fc.tuple(shot, fc.constantFrom(null, 1, 2)).map(([plain, version]) => {
  const made = { ...plain, rigs: walkerRigs };
  return version === null ? made : furnished(made, version);
});

function furnished(start: Shot, version: number): Shot {
  let made = bringRig.apply(start, newRigMembers(start, { rig: 'walker', version: 1, id: 'walker' }));
  const clip = { ...newClip(made, 'walker', { length: 12, first: 1 }), id: 'clip' };
  made = addClip.apply(made, { clip });
  made = changeChannels.apply(made, {
    frame: 4,
    values: { 'walker-chest.turn.y': 0.4, 'walker-chest.nod': 1 },
    autoKey: 'every',
  });
  // A clip that is laid by, on a track; and one like it at work.
  made = copyClip.apply(made, { id: 'clip', copy: 'other', name: 'Other' });
  const spans = [newSpan(made.clips.at('clip'), 1, { id: 'span' })];
  made = putTrack.apply(made, { track: { ...newTrack(made, 'walker', spans), id: 'track' } });
  // Its nod, which the second version has not, is put aside.
  if (version === 2) made = takeVersion.apply(made, { id: 'walker', version });
  const ball = newMember(made, { kind: 'ball', id: 'ball' });
  made = addMember.apply(made, { member: ball });
  const kit = kitOf('bounce')!;
  const recipe = {
    id: 'recipe0',
    kit: kit.id,
    member: 'ball',
    settings: firstSettings(kit, made, ball, 1, null),
    written: {},
  };
  made = applyRecipe.apply(made, { recipe, replace: false });
  for (const [id, kind] of [
    ['d1', 'bend'],
    ['d2', 'twist'],
  ] as const)
    made = addDeformer.apply(made, { id: 'm0', deformer: { ...newDeformer(made.members.at('m0'), kind), id } });
  const formula = { text: '2 * a', inputs: [{ name: 'a', path: 'ball.move.y' }], mode: 'instead' as const };
  made = setFormula.apply(made, { path: 'ball.turn.y', formula });
  return saveSet.apply(made, { set: { id: 'set0', name: 'Set', paths: ['ball.move.y'] } });
}
