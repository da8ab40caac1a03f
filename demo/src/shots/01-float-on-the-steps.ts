import { addMember, emptyShot, type Key, type NewMember, type NumberCurve, newMember, type Shot } from '@varrup/core';
import { bouncingHeight, inProportion, type Point } from '../flight.ts';
import { bollard } from '../set-pieces.ts';

/**
 * A cork float rolls off a crate, drops on the quay, bounces down the steps, rolls out and stops.
 *
 * The set, from the side: the quay's top at 0.8 m ends in a flight of four steps that goes down towards +X, 0.2 m each.
 * The cork gives back a little under two thirds of its speed at every landing.
 */
export const RADIUS = 0.14;
const RATE = 24;
/** Gravity in metres per frame². */
export const GRAVITY = 9.81 / (RATE * RATE);
const QUAY = 0.8;
const RISE = 0.2;
const CRATE_EDGE = -1.71;

/** Frames from landing to landing: quay, three steps, floor, and four small bounces on the floor. */
const LET_GO = 19;
const FALL = 10;
const CRATE_TOP = QUAY + (GRAVITY * FALL * FALL) / 2;

/** Where it lands: frame, how high the ground is there, and how far along. */
export const landings = [
  { frame: 29, ground: QUAY, x: -1.16 },
  { frame: 43, ground: QUAY - RISE, x: -0.285 },
  { frame: 55, ground: QUAY - 2 * RISE, x: 0.305 },
  { frame: 66, ground: QUAY - 3 * RISE, x: 0.8 },
  { frame: 76, ground: 0, x: 1.225 },
  { frame: 84, ground: 0, x: 1.53 },
  { frame: 89, ground: 0, x: 1.7 },
  { frame: 92, ground: 0, x: 1.794 },
  { frame: 94, ground: 0, x: 1.852 },
] as const;

const set: NewMember[] = [
  { kind: 'group', id: 'set', name: 'Harbour set', locked: true },
  { kind: 'plane', id: 'floor', name: 'Landing', parent: 'set', shape: { width: 16, depth: 7 }, colour: '#e4dccb' },
  {
    kind: 'box',
    id: 'quay',
    name: 'Quay',
    parent: 'set',
    shape: { width: 2.6, height: QUAY, depth: 2.4 },
    values: { 'move.x': -2.3 },
    colour: '#bdb19b',
  },
  {
    kind: 'steps',
    id: 'steps',
    name: 'Steps',
    parent: 'set',
    shape: { count: 4, tread: 0.5, rise: RISE, depth: 2.4 },
    colour: '#cabfa9',
  },
  {
    kind: 'box',
    id: 'wall',
    name: 'Harbour wall',
    parent: 'set',
    shape: { width: 16, height: 1.35, depth: 0.3 },
    values: { 'move.z': -1.75 },
    colour: '#a8b0ac',
  },
  {
    kind: 'box',
    id: 'coping',
    name: 'Coping',
    parent: 'wall',
    shape: { width: 16, height: 0.12, depth: 0.44 },
    values: { 'move.y': 1.35 },
    colour: '#bcc1ba',
  },
  {
    kind: 'box',
    id: 'crate',
    name: 'Crate',
    parent: 'set',
    shape: { width: 0.9, height: CRATE_TOP - QUAY, depth: 0.8 },
    values: { 'move.x': CRATE_EDGE - 0.45, 'move.y': QUAY },
    colour: '#a87f4e',
  },
  ...bollard('set', [-0.72, QUAY, -0.95]),
  {
    kind: 'cylinder',
    id: 'lamp-post',
    name: 'Lamp post',
    parent: 'set',
    shape: { radius: 0.045, height: 2.3 },
    values: { 'move.x': 2.05, 'move.z': -1.2 },
    colour: '#3d4a57',
  },
  {
    kind: 'cone',
    id: 'lamp-hood',
    name: 'Lamp hood',
    parent: 'lamp-post',
    shape: { radius: 0.26, height: 0.22 },
    values: { 'move.y': 2.32 },
    colour: '#8d3b2c',
  },
  {
    kind: 'light',
    id: 'lamp',
    name: 'Lamp',
    parent: 'lamp-post',
    values: { 'move.y': 2.02, 'move.z': 0.4, brightness: 1.5 },
    colour: '#ffe9cc',
  },
  {
    kind: 'camera',
    id: 'camera',
    name: 'Side camera',
    values: { 'move.x': 0.12, 'move.y': 1.72, 'move.z': 6.8, 'turn.x': -0.125, view: 0.5 },
  },
  {
    kind: 'ball',
    id: 'float',
    name: 'Float',
    shape: { radius: RADIUS, band: '#f4f0e8' },
    colour: '#cf4427',
  },
];

const curve = (keys: Key[]): NumberCurve => ({ type: 'number', keys, before: 'hold', after: 'hold' });

/** How far along: it gathers speed on the crate, loses some at each landing, rolls out and rocks back a little. */
function travel(): Key[] {
  const fall = (landings[0].x - CRATE_EDGE) / FALL;
  const begin = 7;
  const gathering = LET_GO - begin;
  // From rest to the speed of the fall at an even gain covers half the way at that speed.
  const start = CRATE_EDGE - (fall * gathering) / 2;
  const straight = { in: { kind: 'linear' }, out: { kind: 'linear' }, joined: false, role: 'key' } as const;
  const level = { in: { kind: 'flat' }, out: { kind: 'flat' }, joined: true, role: 'key' } as const;
  const last = landings[landings.length - 1];
  const rolling = 0.0275;
  const stop = 136;
  const rolled = last.x + (rolling * (stop - last.frame)) / 2;
  const third = (stop - last.frame) / 3;
  return [
    { frame: 1, value: start, ...level },
    { frame: begin, value: start, ...level },
    {
      frame: LET_GO,
      value: CRATE_EDGE,
      in: { kind: 'free', frames: gathering / 3, rise: (-fall * gathering) / 3 },
      out: { kind: 'linear' },
      joined: false,
      role: 'key',
    },
    ...landings.slice(0, -1).map(({ frame, x }) => ({ frame, value: x, ...straight })),
    { frame: last.frame, value: last.x, ...straight, out: { kind: 'free', frames: third, rise: rolling * third } },
    { frame: stop, value: rolled, ...level },
    { frame: stop + 11, value: rolled - 0.022, ...level },
    { frame: stop + 19, value: rolled - 0.016, ...level },
  ];
}

/** The shot as the demo loads it. */
export function floatOnTheSteps(): Shot {
  let shot: Shot = {
    ...emptyShot('float-on-the-steps', '01 Float on the steps'),
    rate: RATE,
    range: { first: 1, last: 168 },
    play: { first: 1, last: 168 },
  };
  for (const wanted of set) shot = addMember.apply(shot, { member: newMember(shot, wanted) });
  const contacts: Point[] = landings.map(({ frame, ground }) => ({ frame, value: ground + RADIUS }));
  const height = bouncingHeight({ from: 1, until: LET_GO, value: CRATE_TOP + RADIUS }, contacts, GRAVITY);
  const along = travel();
  return {
    ...shot,
    curves: {
      'float.move.x': curve(along),
      'float.move.y': curve(height),
      // Rolling towards +X is a turn about -Z, one radian for each radius of the way.
      'float.turn.z': curve(inProportion(along, -1 / RADIUS, along[0].value)),
    },
  };
}
