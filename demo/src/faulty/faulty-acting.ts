import {
  addMember,
  type Curve,
  emptyShot,
  type Key,
  type NewMember,
  type NumberCurve,
  newMember,
  type Shot,
  Table,
} from '@varrup/core';
import { harbourRigs } from '../rigs/index.ts';
import { withRig } from '../walking.ts';
import type { FaultyShot } from './faulty-shots.ts';

/** Porters that act wrong on purpose, and cameras that film them badly. */

const key = (frame: number, value: number): Key => ({
  frame,
  value,
  in: { kind: 'flat' },
  out: { kind: 'flat' },
  joined: true,
  role: 'key',
});
const eased = (...keys: [number, number][]): NumberCurve => ({
  type: 'number',
  keys: keys.map(([frame, value]) => key(frame, value)),
  before: 'hold',
  after: 'hold',
});

interface Stage {
  readonly last: number;
  /** Where porters stand, metres; each is called after its place in the list. */
  readonly porters: readonly (readonly [number, number, number])[];
  readonly cast?: readonly NewMember[];
}

function stage(
  id: string,
  name: string,
  { last, porters, cast = [] }: Stage,
  curves: Record<string, NumberCurve>,
): Shot {
  const range = { first: 1, last };
  const empty = { ...emptyShot(id, name, harbourRigs()), range, play: range };
  const cast1 = cast.reduce<Shot>((shot, wanted) => addMember.apply(shot, { member: newMember(shot, wanted) }), empty);
  const filled = porters.reduce<Shot>(
    (shot, at, i) =>
      withRig(shot, { rig: 'porter', version: 2, id: `p${i + 1}`, name: `Porter ${i + 1}`, at: [...at], facing: 0 }),
    cast1,
  );
  return { ...filled, curves: Table.of<Curve>(curves) };
}

/** A breath, so that nobody stands dead. */
const breathing = (porter: string, last: number): Record<string, NumberCurve> => ({
  [`${porter}-body.move.y`]: eased(
    ...Array.from({ length: Math.ceil(last / 12) + 1 }, (_, i): [number, number] => [
      1 + i * 12,
      -0.03 - (i % 2) * 0.004,
    ]),
  ),
});

/** Off the quay for a whole second and only so high as half of one lasts: hung up there on a string. */
function hanging(): FaultyShot {
  const up = (low: number, high: number): NumberCurve =>
    eased([1, low], [12, low], [18, low + high], [30, low + high], [36, low], [48, low]);
  return {
    shot: stage(
      'hanging',
      'Hung up on a string',
      { last: 48, porters: [[0, 0, 0]] },
      {
        'p1-body.move.y': up(-0.04, 0.35),
        'p1-footL.move.y': up(0, 0.35),
        'p1-footR.move.y': up(0, 0.5),
      },
    ),
    findings: [{ check: 'flightFalls', frame: 14, value: 585.68 }],
  };
}

/** A crate goes up between his hands, and he stands by. */
function effortless(): FaultyShot {
  const crate: NewMember = {
    kind: 'box',
    id: 'crate',
    name: 'Crate',
    shape: { width: 0.4, height: 0.3, depth: 0.3 },
    values: { 'move.z': 0.6, 'move.y': 0.6 },
  };
  return {
    shot: stage(
      'effortless',
      'A crate of feathers',
      { last: 48, porters: [[0, 0, 0]], cast: [crate] },
      {
        ...breathing('p1', 48),
        'crate.move.y': eased([1, 0.6], [20, 0.6], [30, 1.1], [48, 1.1]),
      },
    ),
    findings: [{ check: 'effortlessLift', frame: 20, value: 3.46 }],
  };
}

/** An arm that never comes to rest, over seventy frames. */
function waving(): FaultyShot {
  const wave = (a: number, b: number) =>
    eased(...Array.from({ length: 15 }, (_, i): [number, number] => [1 + i * 5, i % 2 ? b : a]));
  return {
    shot: stage(
      'waving',
      'Never a pose',
      { last: 71, porters: [[0, 0, 0]] },
      {
        ...breathing('p1', 71),
        'p1-handR.move.y': wave(0.3, 0.42),
        'p1-handR.move.x': wave(-0.2, -0.05),
      },
    ),
    findings: [{ check: 'nothingHolds', frame: 1, value: 1 }],
  };
}

/** He raises a hand, and then he is a photograph. */
function switchedOff(): FaultyShot {
  return {
    shot: stage(
      'switched-off',
      'Switched off',
      { last: 60, porters: [[0, 0, 0]] },
      {
        'p1-body.move.y': eased([1, -0.03], [14, -0.034]),
        'p1-handR.move.y': eased([1, 0.02], [14, 0.3]),
      },
    ),
    findings: [{ check: 'deadHold', frame: 15, value: 46 }],
  };
}

/** A hand that rests in a crate, and not on it. */
function handInCrate(): FaultyShot {
  const crate: NewMember = {
    kind: 'box',
    id: 'crate',
    name: 'Crate',
    shape: { width: 0.6, height: 1.2, depth: 0.3 },
    values: { 'move.z': 0.32, 'move.x': -0.25 },
  };
  return {
    shot: stage(
      'hand-in-crate',
      'A hand in a crate',
      { last: 48, porters: [[0, 0, 0]], cast: [crate] },
      {
        ...breathing('p1', 48),
        'p1-handR.move.y': eased([1, 0.02], [14, 0.15], [26, 0.15], [40, 0.02]),
        'p1-handR.move.z': eased([1, 0.02], [20, 0.2], [40, 0.02]),
      },
    ),
    findings: [{ check: 'goesInto', frame: 20, value: 42 }],
  };
}

/** A hand in a ramp, which is full only below its slope. */
function handInRamp(): FaultyShot {
  const ramp: NewMember = {
    kind: 'wedge',
    id: 'ramp',
    name: 'Ramp',
    shape: { width: 1.2, height: 2.6, depth: 0.5 },
    values: { 'move.z': 0.38, 'move.x': -0.35 },
  };
  return {
    shot: stage(
      'hand-in-ramp',
      'A hand in a ramp',
      { last: 48, porters: [[0, 0, 0]], cast: [ramp] },
      {
        ...breathing('p1', 48),
        'p1-handR.move.z': eased([1, 0.02], [24, 0.18], [44, 0.02]),
        'p1-handR.move.y': eased([1, 0.02], [14, 0.15], [26, 0.15], [40, 0.02]),
      },
    ),
    findings: [{ check: 'goesInto', frame: 24, value: 62 }],
  };
}

/** A crate that is pushed along where somebody stands. */
function runOver(): FaultyShot {
  const crate: NewMember = {
    kind: 'box',
    id: 'crate',
    name: 'Crate',
    shape: { width: 0.5, height: 0.9, depth: 0.5 },
    values: { 'move.z': 1.2, 'move.x': -0.5 },
  };
  return {
    shot: stage(
      'run-over',
      'Run over by a crate',
      { last: 48, porters: [[0, 0, 0]], cast: [crate] },
      { ...breathing('p1', 48), 'crate.move.z': eased([1, 1.2], [24, 0], [47, -1.2]) },
    ),
    findings: [{ check: 'goesInto', frame: 18, value: 42 }],
  };
}

/** A hand that goes for a shoulder and ends up in a chest. */
function handInNeighbour(): FaultyShot {
  return {
    shot: stage(
      'hand-in-neighbour',
      'A hand in a neighbour',
      {
        last: 48,
        porters: [
          [0, 0, 0],
          [-0.62, 0, 0],
        ],
      },
      {
        ...breathing('p1', 48),
        ...breathing('p2', 48),
        'p1-handR.move.y': eased([1, 0.02], [24, 0.36], [44, 0.02]),
        'p1-handR.move.x': eased([1, 0.05], [24, -0.34], [44, 0.05]),
      },
    ),
    findings: [{ check: 'goesInto', frame: 29, value: 102.87 }],
  };
}

const camera = (values: Record<string, number>): NewMember => ({
  kind: 'camera',
  id: 'camera',
  name: 'Side camera',
  values: { 'move.x': 0, 'move.y': 1.2, 'move.z': 6, view: 0.56, ...values },
});

/** Framed by somebody who looked at his boots. */
function headless(): FaultyShot {
  return {
    shot: stage(
      'headless',
      'Framed without a head',
      { last: 48, porters: [[0, 0, 0]], cast: [camera({ 'move.y': 0.2, view: 0.4 })] },
      breathing('p1', 48),
    ),
    findings: [{ check: 'cutOff', frame: 1, value: 48 }],
  };
}

/** One porter straight behind another, and one beside them whom everybody can read. */
function merged(): FaultyShot {
  return {
    shot: stage(
      'merged',
      'Four arms and two caps',
      {
        last: 48,
        porters: [
          [0, 0, 0],
          [0.02, 0, -1.2],
          [1.4, 0, 0],
        ],
        cast: [camera({})],
      },
      {
        ...breathing('p1', 48),
        ...breathing('p2', 48),
        ...breathing('p3', 48),
      },
    ),
    findings: [{ check: 'silhouettesMerge', frame: 1, value: 100 }],
  };
}

export const faultyActing = (): FaultyShot[] => [
  hanging(),
  effortless(),
  waving(),
  switchedOff(),
  handInCrate(),
  handInRamp(),
  runOver(),
  handInNeighbour(),
  headless(),
  merged(),
];
