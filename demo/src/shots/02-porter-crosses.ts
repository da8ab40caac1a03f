import { addMember, emptyShot, type NewMember, newMember, type Shot } from '@varrup/core';
import { onTrack, withErrands } from '../called.ts';
import { harbourRigs } from '../rigs/index.ts';
import { bollard } from '../set-pieces.ts';
import { gaitSettings, withGait, withRig } from '../walking.ts';

const LAST = 120;

const set: NewMember[] = [
  { kind: 'group', id: 'set', name: 'Harbour set', locked: true },
  { kind: 'plane', id: 'quay', name: 'Quay', parent: 'set', shape: { width: 14, depth: 7 }, colour: '#e2d9c6' },
  ...bollard('set', [-2.4, 0, -2.3]),
  {
    kind: 'box',
    id: 'crate',
    name: 'Crate',
    parent: 'set',
    shape: { width: 0.8, height: 0.6, depth: 0.6 },
    values: { 'move.x': 0.4, 'move.z': -2.3, 'turn.y': 0.3 },
    colour: '#b08a57',
  },
  {
    kind: 'camera',
    id: 'camera',
    name: 'Side camera',
    values: { 'move.x': 0, 'move.y': 1.25, 'move.z': 7.2, 'turn.x': -0.045, view: 0.56 },
  },
];

/** Light on their feet: the body rises over the leg that stands, which is all but straight as the other passes it. */
const upright = { bob: 5, heavy: 6, spring: 60, stride: 72 };

/**
 * A porter stands, sets out across the quay, hails the old one who comes home as he goes, and stops: clips on two tracks. Another walks in place behind
 * them, as on a treadmill, where nobody passes before him.
 */
export function porterCrosses(): Shot {
  let shot: Shot = {
    ...emptyShot('porter-crosses', '02 Porter crosses', harbourRigs()),
    range: { first: 1, last: LAST },
    play: { first: 1, last: LAST },
  };
  for (const wanted of set) shot = addMember.apply(shot, { member: newMember(shot, wanted) });
  const rig = 'porter';
  const version = 2;
  shot = withRig(shot, { rig, version, id: 'porter', name: 'Porter', at: [-3.1, 0, 0.15], facing: 90 });
  shot = withRig(shot, { rig, version, id: 'in-place', name: 'Porter in place', at: [3.5, 0, -1.5], facing: 90 });
  shot = withRig(shot, { rig, version, id: 'old', name: 'Old porter', at: [1.95, 0, 1.5], facing: -90 });
  const walk = gaitSettings(shot, 'porter', { character: 'plain' }, upright);
  const weary = gaitSettings(shot, 'porter', { character: 'weary' });
  shot = withGait(shot, 'in-place', { name: 'Walk', settings: walk, travelling: false });
  shot = withGait(shot, 'old', { name: 'Weary', settings: weary, travelling: true });
  shot = withErrands(shot, 'porter', 'Walk', upright);
  shot = onTrack(shot, 'porter', { name: 'Body', rank: 1 }, [
    { clip: 'porter-stand', from: 1, length: 22 },
    { clip: 'porter-walk', from: 12, length: 84 },
    { clip: 'porter-stand', from: 84, length: 37 },
  ]);
  const { key: _, rank: __, ...hail } = shot.clips.at('porter-hail').manner;
  // Up, waved twice, and down, while it walks towards the old one.
  return onTrack(shot, 'porter', { name: 'Over it', rank: 2 }, [
    { ...hail, clip: 'porter-hail', from: 22, length: 50, easeIn: 6, easeOut: 6 },
  ]);
}
