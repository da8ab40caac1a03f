import {
  bringRig,
  type Curve,
  emptyShot,
  holdMembers,
  type Key,
  type NumberCurve,
  newRigMembers,
  type Shot,
  Table,
} from '@varrup/core';
import { harbourRigs } from '../rigs/index.ts';
import { rad } from '../rigs/make/parts.ts';
import type { FaultyShot } from './faulty-shots.ts';

/** Porters that are posed wrong on purpose. */

const key = (frame: number, value: number): Key => ({
  frame,
  value,
  in: { kind: 'flat' },
  out: { kind: 'flat' },
  joined: true,
  role: 'key',
});
const curve = (...keys: Key[]): NumberCurve => ({ type: 'number', keys, before: 'hold', after: 'hold' });

function porterShot(id: string, name: string, curves: Record<string, NumberCurve>): Shot {
  const empty = { ...emptyShot(id, name, harbourRigs()), range: { first: 1, last: 48 }, play: { first: 1, last: 48 } };
  const shot = bringRig.apply(empty, newRigMembers(empty, { rig: 'porter', version: 2, id: 'porter' }));
  return { ...shot, curves: Table.of<Curve>(curves) };
}

/** Knees bent, so that no leg is straight by itself, and a breath. */
const bent = (z = 0) => ({
  'porter-body.move.y': curve(
    key(1, -0.03),
    key(12, -0.03 - z),
    key(24, -0.034 - z),
    key(36, -0.031 - z),
    key(48, -0.034 - z),
  ),
});

/** A foot five millimetres in the floor, less the tenth by which a sole is rounded. */
const sunk = (): FaultyShot => ({
  shot: porterShot('sunk', 'A foot in the floor', {
    ...bent(),
    'porter-footR.move.y': curve(key(1, 0), key(13, -0.005), key(25, 0)),
  }),
  findings: [{ check: 'belowFloor', frame: 13, value: 4.9 }],
});

/** Up, until both legs are sticks. */
const stiff = (): FaultyShot => ({
  shot: porterShot('stiff', 'Legs like sticks', {
    'porter-body.move.y': curve(key(1, -0.03), key(13, 0.02), key(25, -0.03)),
  }),
  findings: [
    { check: 'limbReach', frame: 13, value: 100 },
    { check: 'limbReach', frame: 13, value: 100 },
  ],
});

/** An owl: fifteen degrees further than the neck goes, of the hundred and seventy it has. */
const owl = (): FaultyShot => ({
  shot: porterShot('owl', 'An owl', {
    ...bent(),
    'porter-head.turn.y': curve(key(1, 0), key(13, rad(100)), key(25, 0)),
  }),
  findings: [{ check: 'limitExceeded', frame: 13, value: (15 / 170) * 100 }],
});

/** A planted foot that goes twelve millimetres all the same. */
const slipping = (): FaultyShot => ({
  shot: holdMembers.apply(
    porterShot('slipping', 'A slipping foot', {
      ...bent(),
      'porter-footL.move.z': curve(key(1, 0), key(25, 0.012)),
    }),
    { ids: ['porter-footL'], by: { is: 'stage' }, frame: 1 },
  ),
  findings: [{ check: 'plantSlides', frame: 25, value: 12 }],
});

/** Both hands up, at the same frame, by the same way. */
const puppet = (): FaultyShot => {
  const hand = (m: string, out: number) => ({
    [`porter-hand${m}.move.y`]: curve(key(1, 0.02), key(13, 0.3), key(25, 0.02)),
    [`porter-hand${m}.move.x`]: curve(key(1, 0), key(13, 0.1 * out), key(25, 0)),
    [`porter-hand${m}.move.z`]: curve(key(1, 0.02), key(13, 0.2), key(25, 0.02)),
  });
  return {
    shot: porterShot('puppet', 'A puppet', { ...bent(), ...hand('L', 1), ...hand('R', -1) }),
    findings: [{ check: 'twinned', frame: 1, value: 0 }],
  };
};

/** Leaning a third of a metre forward on bent knees, the toes 155 mm in front of where it stood, and staying there. */
const leaning = (): FaultyShot => ({
  shot: porterShot('leaning', 'On a string', {
    ...bent(0.12),
    'porter-body.move.z': curve(key(1, 0), key(12, 0.3), key(48, 0.301)),
  }),
  findings: [{ check: 'outOfBalance', frame: 48, value: 129.04 }],
});

export const faultyBodies = (): FaultyShot[] => [sunk(), stiff(), owl(), slipping(), puppet(), leaning()];
