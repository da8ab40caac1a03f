import {
  addMember,
  applyRecipe,
  bounceTable,
  type Curve,
  emptyShot,
  firstSettings,
  type Key,
  kitOf,
  type NewMember,
  type NumberCurve,
  newMember,
  type RecipeSettings,
  reshapeBounce,
  type Shot,
  Table,
  valueAt,
} from '@varrup/core';
import { faultyActing } from './faulty-acting.ts';
import { faultyBodies } from './faulty-bodies.ts';
import { faultyWalks } from './faulty-walks.ts';

/**
 * Shots that are wrong on purpose, each with what the checks must find in it: which check, at which frame, and what it must have
 * measured. They belong to the tests, and to whoever wants to see what a check is about.
 */
export interface FaultyShot {
  readonly shot: Shot;
  readonly findings: readonly { readonly check: string; readonly frame: number | null; readonly value: number }[];
}

const RADIUS = 0.14;

const key = (frame: number, value: number, kind: 'smooth' | 'flat' | 'linear' = 'smooth'): Key => ({
  frame,
  value,
  in: { kind },
  out: { kind },
  joined: kind !== 'linear',
  role: 'key',
});
const curve = (...keys: Key[]): NumberCurve => ({ type: 'number', keys, before: 'hold', after: 'hold' });

function shotOf(id: string, name: string, cast: readonly NewMember[], curves: Record<string, NumberCurve> = {}): Shot {
  const long = { ...emptyShot(id, name), range: { first: 1, last: 120 }, play: { first: 1, last: 120 } };
  const filled = cast.reduce<Shot>((shot, wanted) => addMember.apply(shot, { member: newMember(shot, wanted) }), long);
  return { ...filled, curves: Table.of<Curve>(curves) };
}

const float = (values: Record<string, number> = {}): NewMember => ({
  kind: 'ball',
  id: 'float',
  name: 'Float',
  shape: { radius: RADIUS, band: '#f4f0e8' },
  values: { 'move.y': RADIUS, ...values },
  colour: '#cf4427',
});
const quay: NewMember = { kind: 'box', id: 'quay', name: 'Quay edge', shape: { width: 3, height: 0.8, depth: 2 } };

const withKit = (shot: Shot, kit: string, settings: RecipeSettings): Shot => {
  const first = firstSettings(kitOf(kit)!, shot, shot.members.at('float'), 1, null);
  const recipe = { id: kit, kit, member: 'float', settings: { ...first, ...settings }, written: {} };
  return applyRecipe.apply(shot, { recipe, replace: false });
};

/** Decides not to hit: eased at the ground, all bounces alike, four millimetres of air. */
function beginnersBounce(): FaultyShot {
  const ground = RADIUS + 0.004;
  const heights = [1.1, 1.08, 1.06];
  const keys = heights.flatMap((h, i) => [key(1 + i * 24, h), key(13 + i * 24, ground)]);
  const lossless = heights.slice(1).map((h, i) => (100 * (h - ground)) / (heights[i] - ground));
  return {
    shot: shotOf('faulty-bounce', 'A beginner’s bounce', [float()], { 'float.move.y': curve(...keys) }),
    findings: [
      ...[13, 37, 61].map((frame) => ({ check: 'easedLanding', frame, value: 0 })),
      ...[13, 37].map((frame) => ({ check: 'equalBounces', frame, value: 100 })),
      ...[13, 37].map((frame, i) => ({ check: 'heightNotLost', frame, value: lossless[i] })),
      ...[13, 37, 61].map((frame) => ({ check: 'contactGap', frame, value: 4 })),
    ],
  };
}

/** A good bounce on a quay that was lowered by three centimetres afterwards. */
function loweredQuay(): FaultyShot {
  const good = withKit(shotOf('faulty-quay', 'The quay was lowered', [quay, float({ 'move.y': 2 })]), 'bounce', {
    from: 1,
    height: 0.9,
    material: 'wood',
  });
  const lowered = { ...good.members.at('quay'), values: { ...good.members.at('quay').values, 'move.y': -0.03 } };
  const landings = (good.curves.get('float.move.y') as NumberCurve).keys.filter(
    (k) => k.frame > 1 && Math.abs(k.value - 0.94) < 1e-9,
  );
  return {
    shot: { ...good, members: good.members.with('quay', lowered) },
    // Falls that are low for such a gap are no longer taken for landings.
    findings: landings.slice(0, 2).map((k) => ({ check: 'contactGap', frame: k.frame, value: 30 })),
  };
}

/** A good bounce with one flight drawn up by hand: too high for its time. */
function drawnUp(): FaultyShot {
  const path = 'float.move.y';
  const good = withKit(shotOf('faulty-gravity', 'Drawn up by hand', [float()]), 'bounce', {
    from: 1,
    height: 3,
    material: 'cork',
    untilItLies: false,
    bounces: 3,
  });
  const row = bounceTable(good, path)[0][1];
  const frame = row.contact.frame;
  return {
    shot: reshapeBounce.apply(good, { path, frame, height: row.height! * 1.5 }),
    findings: [{ check: 'unevenGravity', frame, value: 50 }],
  };
}

/** Squashed by its size, and on the frame before it lands. */
function softBall(): FaultyShot {
  const bounced = withKit(shotOf('faulty-squash', 'Squashed in the air', [float()]), 'bounce', {
    from: 1,
    height: 1,
    material: 'cork',
    untilItLies: false,
    bounces: 1,
  });
  const landing = (bounced.curves.get('float.move.y') as NumberCurve).keys[1].frame;
  const size = curve(
    key(1, 1, 'flat'),
    key(landing - 2, 1, 'linear'),
    key(landing - 1, 0.7, 'linear'),
    key(landing + 2, 1, 'flat'),
  );
  const sizeAt = valueAt(size, landing);
  return {
    shot: { ...bounced, curves: bounced.curves.with('float.size.y', size) },
    findings: [
      // Made smaller about its middle it no longer reaches the ground.
      { check: 'contactGap', frame: landing, value: 1000 * RADIUS * (1 - sizeAt) },
      { check: 'earlySquash', frame: landing - 1, value: 30 },
      { check: 'volume', frame: landing - 1, value: 30 },
    ],
  };
}

/** Slides over the quay like a puck, with a corner and a stumble on its way. */
function slidingFloat(): FaultyShot {
  const x = curve(key(1, 0, 'linear'), key(13, 0.6, 'linear'), key(25, 1.2, 'linear'));
  return {
    shot: shotOf('faulty-slide', 'Slides instead of rolling', [float()], { 'float.move.x': x }),
    findings: [{ check: 'rollingSlip', frame: 1, value: 50 }],
  };
}

/** A gull’s way with a corner in it. */
function brokenArc(): FaultyShot {
  return {
    shot: shotOf('faulty-arc', 'A corner in the arc', [float()], {
      'float.move.x': curve(key(1, 0, 'linear'), key(25, 2.4, 'linear')),
      'float.move.y': curve(key(1, 2, 'linear'), key(13, 3.2, 'linear'), key(25, 2, 'linear')),
    }),
    findings: [{ check: 'kinkedArc', frame: 13, value: 90 }],
  };
}

/** A crate swung over, keyed all over, never tidied: keys between frames, channels that do nothing, a flip, no name. */
function untidyCrate(): FaultyShot {
  const crate: NewMember = { kind: 'box', id: 'crate', name: 'Box 2' };
  return {
    shot: shotOf('faulty-crate', 'Never tidied', [crate], {
      'crate.turn.y': curve(key(1, 2.9), key(9, 3.1), key(10, -3.05), key(18, -2.9)),
      'crate.size.x': curve(key(1, 1), key(18, 1)),
      'crate.move.z': curve(key(1, 0), key(9.5, 0.4), key(18, 0.5)),
    }),
    findings: [
      { check: 'flip', frame: 9, value: (6.15 * 180) / Math.PI },
      { check: 'keyOffFrame', frame: 9.5, value: 0.5 },
      { check: 'neverChanges', frame: null, value: 2 },
      { check: 'defaultName', frame: null, value: 0 },
    ],
  };
}

/** A lighter pulled along, that stumbles over nothing. */
function stumblingFloat(): FaultyShot {
  const x = curve(key(1, 0, 'linear'), key(12, 1.1, 'linear'), key(13, 1.12, 'linear'), key(25, 2.32, 'linear'));
  return {
    shot: shotOf('faulty-stumble', 'Stumbles over nothing', [float({ 'move.y': 2 })], { 'float.move.x': x }),
    findings: [{ check: 'unevenSpacing', frame: 12, value: 80 }],
  };
}

/** Every faulty shot. */
export const faultyShots = (): FaultyShot[] => [
  beginnersBounce(),
  loweredQuay(),
  drawnUp(),
  softBall(),
  slidingFloat(),
  brokenArc(),
  untidyCrate(),
  stumblingFloat(),
  ...faultyBodies(),
  ...faultyWalks(),
  ...faultyActing(),
];
