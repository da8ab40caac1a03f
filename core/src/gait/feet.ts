import { groundSpeed, heldChannels, heldKey } from '../clip/stances.ts';
import type { Clip } from '../document/clip.ts';
import type { Anatomy } from './anatomy.ts';
import type { CycleKeys } from './cycle-keys.ts';
import type { Gait } from './dials.ts';
import type { Fall } from './footfall.ts';

const rad = (degrees: number) => (degrees * Math.PI) / 180;

/** How much a foot's turn in the air may lower its toe, as a share of how high it is lifted. */
const TOE_ROOM = 0.75;

/** Writes the keys of every foot: straight back while it is down, rolling; up and forward in between. */
export function writeFeet(
  keys: CycleKeys,
  anatomy: Anatomy,
  gait: Gait,
  falls: readonly Fall[],
  clip: Pick<Clip, 'travel' | 'length'>,
): void {
  for (const fall of falls) {
    writeWay(keys, anatomy, gait, fall, clip);
    if (fall.leg.hoof) writeHoof(keys, gait, fall);
    else writeRoll(keys, gait, fall);
  }
}

function writeWay(
  keys: CycleKeys,
  { legLength }: Anatomy,
  gait: Gait,
  fall: Fall,
  clip: Pick<Clip, 'travel' | 'length'>,
): void {
  const { leg, from, frames } = fall;
  const { control, hoof, foot, place } = leg;
  const air = keys.length - frames;
  const speed = groundSpeed(clip, 'move.z');
  // A foot that rolls lands as far in front of the body as the other one is behind it then.
  const ahead = (-speed * Math.min(frames, hoof ? frames : keys.length / 2)) / 2;
  const rests: Readonly<Record<(typeof heldChannels)[number], number>> = {
    'move.x': -place[0] * (1 - gait.width / 100),
    'move.y': 0,
    'move.z': ahead,
    'turn.x': 0,
    'turn.y': (leg.side === 'left' ? 1 : -1) * rad(gait.toeOut),
    'turn.z': 0,
  };
  for (const channel of heldChannels) {
    const rate = groundSpeed(clip, channel);
    const value = rests[channel];
    const begin = heldKey(undefined, 0, value, [rate, rate], air / 3, frames / 3);
    const end = heldKey(undefined, 0, value + rate * frames, [rate, rate], frames / 3, air / 3);
    keys.set(`${control}.${channel}`, from, begin);
    keys.set(`${control}.${channel}`, from + frames, end);
  }
  const off = from + frames;
  const lift = (gait.lift / 100) * legLength;
  // It passes under the body when the other leg is half way through its step, and is highest there.
  const passing = Math.round(keys.length * 0.75 - frames);
  const early = Math.max(1, Math.min(Math.max(passing, Math.round(air * 0.3)), Math.round(air * 0.55)));
  const late = Math.max(2, Math.round(air * 0.78));
  const under = rests['move.z'] + (speed * frames) / 2;
  keys.put(`${control}.move.z`, off + early, hoof ? under : Math.max(under, 0), 'smooth', 'breakdown');
  keys.put(`${control}.move.y`, off + early, lift);
  if (late > early && late < air) keys.put(`${control}.move.y`, off + late, lift * 0.38, 'smooth', 'breakdown');
  const toe = foot.toe[2] - place[2];
  const pitch = Math.min(rad(hoof ? 34 : 28), Math.asin(Math.min(1, (TOE_ROOM * lift) / toe)));
  keys.put(`${control}.turn.x`, off + early, pitch);
}

/** Heel, flat, ball, toe. */
function writeRoll(keys: CycleKeys, gait: Gait, { leg, from, frames }: Fall): void {
  const dial = (name: string) => `${leg.control}.${name}`;
  const air = keys.length - frames;
  const flat = Math.min(Math.round(gait.flat), Math.max(1, frames - 2));
  const heelOff = Math.min(Math.max(flat, Math.round((gait.heelOff / 100) * frames)), frames - 1);
  const strike = rad(gait.strike);
  keys.put(dial('heel'), from, strike, 'flat');
  keys.put(dial('heel'), from + flat, 0, 'flat');
  keys.put(dial('heel'), from + frames + Math.max(1, Math.round(air * 0.4)), 0, 'flat', 'breakdown');
  keys.put(dial('heel'), from + keys.length - 1, strike, 'flat', 'breakdown');
  keys.put(dial('ball'), from + heelOff, 0, 'flat');
  keys.put(dial('ball'), from + frames, rad(gait.push));
  keys.put(dial('ball'), from + frames + Math.max(1, Math.round(air * 0.55)), 0, 'flat', 'breakdown');
  const tip = Math.max(heelOff, frames - Math.max(1, Math.round(frames * 0.2)));
  if (tip < frames) keys.put(dial('toe'), from + tip, 0, 'flat');
  keys.put(dial('toe'), from + frames, rad(gait.roll), 'flat');
  keys.put(dial('toe'), from + frames + Math.max(1, Math.round(air * 0.3)), 0, 'flat', 'breakdown');
}

/** A hoof stands flat while the bone above it leans back, over it and forward; in the air it folds. */
function writeHoof(keys: CycleKeys, gait: Gait, { leg, from, frames }: Fall): void {
  const ball = `${leg.control}.ball`;
  const air = keys.length - frames;
  const reach = rad(Math.min(18, 6 + gait.strike * 0.5));
  keys.put(ball, from, -reach);
  keys.put(ball, from + frames, rad(gait.push));
  keys.put(ball, from + frames + Math.max(1, Math.round(air * 0.35)), rad(gait.push + 16), 'smooth', 'breakdown');
}

/** Lifts a foot higher in the air, by metres. */
export function liftMore(keys: CycleKeys, control: string, by: number): void {
  const channel = `${control}.move.y`;
  keys.change(channel, (value) => (value > 0 ? value + by : value));
}
