import { bringRig, emptyShot, newRigMembers, parseRig, Rigs, type Shot } from '@varrup/core';

/** A crane for tests: an arm of two bones of a metre each, a hand that reaches, a post that only turns, a hook with two dials. */
const crane = {
  id: 'crane',
  version: 1,
  name: 'Crane',
  changes: '',
  joints: [
    { id: 'post', parent: null, place: [0, 1, 0], by: { kind: 'control', control: 'post' } },
    { id: 'upper', parent: 'post', place: [0, 2, 0] },
    { id: 'lower', parent: 'upper', place: [0.6, 2, 0.8] },
    { id: 'end', parent: 'lower', place: [1.2, 2, 0] },
  ],
  controls: [
    {
      id: 'post',
      name: 'post',
      side: 'centre',
      form: 'ring',
      reach: 0.3,
      place: [0, 1, 0],
      turn: 'y',
      limits: { 'turn.y': { min: -1, max: 1 } },
    },
    {
      id: 'hand',
      name: 'hand L',
      side: 'left',
      form: 'halo',
      reach: 0.1,
      place: [1.2, 2, 0],
      move: 'xyz',
      turn: 'xyz',
      dials: [
        { id: 'reach', label: 'reach', min: 0, max: 1, initial: 1 },
        { id: 'soft', label: 'soft', min: 0, max: 0.2 },
        { id: 'stretch', label: 'stretch', min: 0, max: 1 },
      ],
    },
    {
      id: 'elbow',
      name: 'elbow L',
      side: 'left',
      form: 'diamond',
      reach: 0.1,
      place: [0.6, 2, 1.4],
      in: { is: 'along', id: 'arm' },
      move: 'xyz',
    },
    ...['upper', 'lower', 'end'].map((joint, i) => ({
      id: `${joint}Joint`,
      name: `${joint} L`,
      side: 'left',
      form: 'fan',
      reach: 0.1,
      place: [
        [0, 2, 0],
        [0.6, 2, 0.8],
        [1.2, 2, 0],
      ][i],
      in: i === 0 ? { is: 'joint', id: 'post' } : { is: 'control', id: i === 1 ? 'upperJoint' : 'lowerJoint' },
      turn: 'xyz',
    })),
    {
      id: 'hook',
      name: 'hook R',
      side: 'right',
      form: 'ring',
      reach: 0.1,
      place: [1.2, 1.8, 0],
      in: { is: 'joint', id: 'end' },
      dials: [
        { id: 'shut', label: 'shut', min: 0, max: 1 },
        { id: 'tilt', label: 'tilt', unit: '°', min: -0.5, max: 0.5 },
      ],
    },
  ],
  limbs: [
    {
      id: 'arm',
      name: 'arm L',
      upper: 'upper',
      lower: 'lower',
      end: 'end',
      target: { is: 'control', id: 'hand' },
      pole: 'elbow',
      joints: ['upperJoint', 'lowerJoint', 'endJoint'],
      dials: 'hand',
      along: [1, 0, 0.2],
    },
  ],
  meshes: [],
  sets: [{ id: 'arm', name: 'arm', side: 'left', controls: ['hand', 'elbow'] }],
};

/** A shot with the crane in it, called `crane`, its controls `crane-hand` and so on. */
export function craneShot(): Shot {
  const parsed = parseRig(crane);
  if (!parsed.ok) throw new Error(parsed.problems.map((p) => `${p.pointer} ${p.sentence}`).join('\n'));
  const shot = emptyShot('cranes', 'Cranes', Rigs.of([parsed.value]));
  return bringRig.apply(shot, newRigMembers(shot, { rig: 'crane', version: 1, id: 'crane' }));
}
