import { type Curve, emptyShot, type Key, type Member, newMember, type Shot, Table } from '@varrup/core';

/** Large casts for measuring, the same in every run. */

const CHANNELS = ['move.x', 'move.y', 'move.z', 'turn.x', 'turn.y', 'turn.z'];

/** A number from 0 to 1 that depends only on its seed. */
const noise = (seed: number) => {
  const s = Math.sin(seed * 12.9898) * 43758.5453;
  return s - Math.floor(s);
};

/** Rigs of joints in chains of ten, six Bézier curves a joint, every third handle set by hand to a length of its own. */
export function rigs(
  count: number,
  joints: number,
  keys: number,
  spacing: number,
  kind: 'group' | 'cylinder' = 'group',
): Shot {
  const shot = emptyShot('bench', 'Bench');
  const template = newMember(shot, { kind, id: 'template' });
  const members: Record<string, Member> = {};
  const curves: Record<string, Curve> = {};
  for (let rig = 0; rig < count; rig++) {
    for (let joint = 0; joint < joints; joint++) {
      const id = `r${rig}j${joint}`;
      const parent = joint === 0 ? null : joint % 10 === 0 ? `r${rig}j0` : `r${rig}j${joint - 1}`;
      members[id] = { ...template, id, name: id, parent, rank: joint };
      CHANNELS.forEach((channel, c) => {
        const list = Array.from({ length: keys }, (_, k) =>
          key(1 + k * spacing, noise(rig * 7919 + joint * 131 + c * 17 + k)),
        );
        curves[`${id}.${channel}`] = { type: 'number', keys: list, before: 'cycle', after: 'cycle' };
      });
    }
  }
  return {
    ...shot,
    range: { first: 1, last: 1 + (keys - 1) * spacing },
    play: { first: 1, last: 1 + (keys - 1) * spacing },
    members: Table.of(members),
    curves: Table.of(curves),
  };
}

function key(frame: number, value: number): Key {
  const byHand = Math.floor(value * 3) === 0;
  return {
    frame,
    value,
    in: byHand ? { kind: 'free', frames: 1 + value * 4, rise: value - 0.5 } : { kind: 'smooth' },
    out: byHand ? { kind: 'free', frames: 2 + value * 3, rise: 0.5 - value } : { kind: 'smooth' },
    joined: !byHand,
    role: 'key',
  };
}
