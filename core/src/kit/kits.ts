import { bounce } from './bounce.ts';
import { dolly } from './camera/dolly.ts';
import { follow } from './camera/follow.ts';
import { handHeld } from './camera/hand-held.ts';
import { orbit } from './camera/orbit.ts';
import { counter } from './counter.ts';
import { gait } from './gait.ts';
import { gather } from './gather.ts';
import type { Kit } from './kit.ts';
import { overshoot } from './overshoot.ts';
import { roll } from './roll.ts';
import { settle } from './settle.ts';
import { squashFromSpeed } from './squash-from-speed.ts';
import { steady } from './steady.ts';

/** Every kit, in the order they are offered. A new one is one file beside this one and one line here. */
export const kits: readonly Kit[] = [
  bounce,
  roll,
  squashFromSpeed,
  gather,
  overshoot,
  settle,
  gait,
  steady,
  counter,
  follow,
  orbit,
  dolly,
  handHeld,
];

const byId = new Map(kits.map((k) => [k.id, k]));
export const kitOf = (id: string): Kit | undefined => byId.get(id);
