import {
  addMember,
  addSounds,
  applyRecipe,
  bounceTable,
  emptyShot,
  type Key,
  type NewMember,
  type NumberCurve,
  newMember,
  type PlacedSound,
  type RecipeSettings,
  type Shot,
} from '@varrup/core';
import { bollard } from '../set-pieces.ts';

/**
 * A cork float rolls off a crate, drops on the quay, bounces down the steps, rolls out and stops. Its bounce, its roll and its
 * squash are recipes; how it starts and how it rocks back at the end are keys set by hand.
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

/** The frame it leaves the edge of the crate, and how fast, in metres a second. */
const LET_GO = 19;
const SPEED = 1.4;
const FALL = 10;
const CRATE_TOP = QUAY + (GRAVITY * FALL * FALL) / 2;

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
    values: { 'move.x': CRATE_EDGE - 1e-3, 'move.y': CRATE_TOP + RADIUS },
    colour: '#cf4427',
  },
];

const level = (frame: number, value: number): Key => ({
  frame,
  value,
  in: { kind: 'flat' },
  out: { kind: 'flat' },
  joined: true,
  role: 'key',
});

/** The keys a hand sets: it lies, gathers speed up to the edge, and after the roll it rocks back a little. */
function byHand(stop: number, place: number): Key[] {
  const begin = 7;
  // From rest to the speed it leaves with, at an even gain, covers half the way at that speed.
  const start = CRATE_EDGE - ((SPEED / RATE) * (LET_GO - begin)) / 2;
  return [level(1, start), level(begin, start), level(stop + 9, place - 0.02), level(stop + 16, place - 0.015)];
}

/** A recipe of a kit for the float, under the kit's own name. */
const recipe = (kit: string, settings: RecipeSettings) => ({ id: kit, kit, member: 'float', settings, written: {} });
const written = (shot: Shot, kit: string, settings: RecipeSettings): Shot =>
  applyRecipe.apply(shot, { recipe: recipe(kit, settings), replace: false });

/** The shot as the demo loads it. */
export function floatOnTheSteps(): Shot {
  let shot: Shot = {
    ...emptyShot('float-on-the-steps', '01 Float on the steps'),
    rate: RATE,
    range: { first: 1, last: 168 },
    play: { first: 1, last: 168 },
  };
  for (const wanted of set) shot = addMember.apply(shot, { member: newMember(shot, wanted) });
  shot = written(shot, 'bounce', {
    from: LET_GO,
    height: 0,
    material: 'cork',
    speed: SPEED,
    keeps: 0.92,
    rolls: 38,
  });
  const path = 'float.move.x';
  const travel = shot.curves.get(path) as NumberCurve;
  const last = travel.keys[travel.keys.length - 1];
  const keys = [...travel.keys, ...byHand(last.frame, last.value)].sort((a, b) => a.frame - b.frame);
  shot = { ...shot, curves: shot.curves.with(path, { ...travel, keys }) };
  shot = written(shot, 'roll', { from: 1, to: last.frame + 16 });
  shot = written(shot, 'squash', { squash: 0.8, stretch: 1.14, from: 1, to: 168, path: true });
  return addSounds.apply(shot, { sounds: landingSounds(shot) });
}

/** A knock for each landing, as loud as it is hard; the first, on the quay, is duller. */
function landingSounds(shot: Shot): PlacedSound[] {
  const rows = bounceTable(shot, 'float.move.y').flat();
  const hardest = Math.max(...rows.map((r) => r.contact.fall.height));
  return rows.map(
    (row, i): PlacedSound => ({
      id: `landing-${i + 1}`,
      name: `Landing ${i + 1}`,
      sound: i === 0 ? 'thud' : 'knock',
      frame: row.contact.frame,
      gain: Math.round(100 * Math.sqrt(row.contact.fall.height / hardest)) / 100,
    }),
  );
}
