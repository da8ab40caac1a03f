import type { NewMember } from '@varrup/core';

/** Things that stand about in the harbour, in more shots than one. */

/** A mooring bollard with its cap, at a place of its parent. */
export const bollard = (parent: string, [x, y, z]: readonly [number, number, number]): NewMember[] => [
  {
    kind: 'cylinder',
    id: 'bollard',
    name: 'Bollard',
    parent,
    shape: { radius: 0.13, height: 0.42 },
    values: { 'move.x': x, 'move.y': y, 'move.z': z },
    colour: '#3d4a57',
  },
  {
    kind: 'cylinder',
    id: 'bollard-cap',
    name: 'Bollard cap',
    parent: 'bollard',
    shape: { radius: 0.18, height: 0.08 },
    values: { 'move.y': 0.42 },
    colour: '#33404c',
  },
];
