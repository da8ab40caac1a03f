import * as THREE from 'three';
import { describe, expect, test } from 'vitest';
import { type Company, inStep, membersOf } from './company.ts';
import { Driven } from './driven.ts';

const plain: Company = {
  of: 'goer',
  repeats: true,
  loop: null,
  easeIn: 0,
  easeOut: 0,
  shape: 'even',
  rank: 0,
  plays: 'instead',
  key: null,
  part: null,
  travel: null,
  turn: 0,
  feet: {},
  follows: [],
};

/** A body on a node that carries it, with an arm and a leg, and motions of them: a turn of so many radians about x, held or swept. */
function scene(): THREE.Group {
  const whole = new THREE.Group();
  const named = (name: string, under: THREE.Object3D) => {
    const node = new THREE.Object3D();
    node.name = name;
    under.add(node);
    return node;
  };
  const goer = named('goer', whole);
  named('arm', goer);
  named('leg', goer);
  return whole;
}

function motion(
  name: string,
  turns: Record<string, readonly [number, number]>,
  company: Partial<Company>,
): THREE.AnimationClip {
  const q = (angle: number) => new THREE.Quaternion().setFromAxisAngle(new THREE.Vector3(1, 0, 0), angle).toArray();
  const tracks = Object.entries(turns).map(
    ([node, [from, to]]) => new THREE.QuaternionKeyframeTrack(`${node}.quaternion`, [0, 1], [...q(from), ...q(to)]),
  );
  const clip = new THREE.AnimationClip(name, 1, tracks);
  clip.userData = { company: { ...plain, ...company } };
  return clip;
}

const angle = (whole: THREE.Object3D, node: string) => {
  const { x, w } = whole.getObjectByName(node)!.quaternion;
  return 2 * Math.atan2(x, w);
};

const travel = (metres: number) => ({ node: 'goer', metres });
const walk = motion(
  'walk',
  { arm: [0.2, 0.2], leg: [0.4, 0.4] },
  {
    travel: travel(1),
    feet: { L: [[0, 0.5]] },
    follows: [{ motion: 'run', seconds: 1, by: 'up' }],
  },
);
const run = motion('run', { arm: [1, 1], leg: [1.2, 1.2] }, { travel: travel(3), feet: { L: [[0.25, 0.75]] } });

function driven(...clips: THREE.AnimationClip[]): { whole: THREE.Group; drive: Driven } {
  const whole = scene();
  const drive = Driven.allOf(whole, clips)[0];
  drive.begin(clips[0].name);
  return { whole, drive };
}
const advance = (drive: Driven, seconds: number) => {
  for (let i = 0; i < Math.round(seconds * 100); i++) drive.advance(0.01);
};

test('a file that says nothing of it is not driven, nor is what says it wrongly', () => {
  expect(Driven.allOf(scene(), [new THREE.AnimationClip('walk', 1, [])])).toEqual([]);
  const wrong = motion('walk', {}, { easeIn: -1, key: 'w' });
  expect(membersOf([wrong])).toEqual([]);
});

test('whoever has motions is driven by their own', () => {
  const other = motion('trot', {}, { of: 'goat', follows: [{ motion: 'walk', seconds: 1, by: 'up' }] });
  expect(Driven.allOf(scene(), [walk, other, run]).map((d) => [d.whom, d.members.map((m) => m.clip.name)])).toEqual([
    ['goer', ['walk', 'run']],
    ['goat', ['trot']],
  ]);
});

describe('who has the body', () => {
  test('goes ahead at its pace, and turns by the arrows', () => {
    const { whole, drive } = driven(walk, run);
    advance(drive, 2);
    const goer = whole.getObjectByName('goer')!;
    expect(goer.position.z).toBeCloseTo(2, 6);
    drive.press('left');
    advance(drive, 0.5);
    drive.release('left');
    const { x } = goer.position;
    advance(drive, 1);
    expect(goer.position.x).toBeGreaterThan(x + 0.5);
  });

  test('gives way over the time that is said, its pace going over with it', () => {
    const { whole, drive } = driven(walk, run);
    drive.press('up');
    advance(drive, 0.5);
    expect(angle(whole, 'arm')).toBeCloseTo(0.6, 2);
    advance(drive, 1);
    expect(angle(whole, 'arm')).toBeCloseTo(1, 6);
    const { z } = whole.getObjectByName('goer')!.position;
    advance(drive, 1);
    expect(whole.getObjectByName('goer')!.position.z - z).toBeCloseTo(3, 6);
    // Nothing follows it upwards.
    drive.press('up');
    expect(drive.words).toBe('run');
  });

  test('begins in step with who had it', () => {
    const [a, b] = membersOf([walk, run]);
    for (const time of [0, 0.3, 0.8]) expect(inStep(a, time, b)).toBeCloseTo((time + 0.25) % 1, 1);
  });
});

describe('what is over it', () => {
  const wave = motion(
    'wave',
    { arm: [2, 2] },
    {
      repeats: true,
      key: 's',
      easeIn: 0.5,
      easeOut: 0.5,
      rank: 1,
      part: { arm: 1 },
    },
  );

  test('comes and goes by its key, and moves its part alone', () => {
    const { whole, drive } = driven(walk, wave);
    expect(drive.ask('x')).toBe(false);
    expect(drive.ask('s')).toBe(true);
    advance(drive, 0.25);
    expect(angle(whole, 'arm')).toBeCloseTo(1.1, 1);
    advance(drive, 0.5);
    expect(angle(whole, 'arm')).toBeCloseTo(2, 6);
    expect(angle(whole, 'leg')).toBeCloseTo(0.4, 6);
    drive.ask('s');
    advance(drive, 0.6);
    expect(angle(whole, 'arm')).toBeCloseTo(0.2, 6);
    expect(drive.words).toBe('walk');
  });

  test('goes round its part until it is stopped, and then through its end', () => {
    const hail = motion('hail', { arm: [0, 2] }, { repeats: false, key: 'h', loop: [0.4, 0.6], part: { arm: 1 } });
    const { whole, drive } = driven(walk, hail);
    drive.ask('h');
    advance(drive, 3);
    expect(angle(whole, 'arm')).toBeGreaterThan(0.79);
    expect(angle(whole, 'arm')).toBeLessThan(1.21);
    drive.ask('h');
    advance(drive, 0.35);
    expect(angle(whole, 'arm')).toBeGreaterThan(1.3);
    advance(drive, 0.5);
    expect(angle(whole, 'arm')).toBeCloseTo(0.2, 6);
  });

  test('on top adds what it differs by from its beginning', () => {
    const nod = motion('nod', { arm: [0.5, 0.5], leg: [0, 0.6] }, { key: 'n', plays: 'onTop', repeats: false });
    const { whole, drive } = driven(walk, nod);
    drive.ask('n');
    advance(drive, 0.5);
    expect(angle(whole, 'arm')).toBeCloseTo(0.2, 6);
    expect(angle(whole, 'leg')).toBeCloseTo(0.7, 1);
  });
});

test('a motion that turns takes the body round, and gives way at its end', () => {
  const round = motion(
    'round',
    {},
    {
      repeats: false,
      turn: Math.PI / 2,
      travel: travel(1),
      follows: [{ motion: 'walk', seconds: 0, by: 'end' }],
    },
  );
  const { whole, drive } = driven(round, walk);
  advance(drive, 1.2);
  expect(drive.words).toBe('walk');
  const { x } = whole.getObjectByName('goer')!.position;
  advance(drive, 1);
  // It goes on the way it faces then: along +X.
  expect(whole.getObjectByName('goer')!.position.x - x).toBeCloseTo(1, 1);
});

test('a motion that ends is followed by what follows its end', () => {
  const once = motion(
    'once',
    { arm: [0, 1] },
    { repeats: false, follows: [{ motion: 'walk', seconds: 0.2, by: 'end' }] },
  );
  const { drive } = driven(once, walk);
  advance(drive, 0.7);
  expect(drive.words).toBe('once');
  advance(drive, 0.5);
  expect(drive.words).toBe('walk');
});
