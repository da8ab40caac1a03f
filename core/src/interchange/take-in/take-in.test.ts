import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { valueAt as curveAt } from '../../curve/sample.ts';
import { emptyShot } from '../../document/shot.ts';
import { newRigMembers } from '../../edit/index.ts';
import { Program } from '../../evaluate/program.ts';
import { Rigs } from '../../rig/rigs.ts';
import { Refused } from '../../schema/refused.ts';
import { valueAt, worldsAt } from '../../testing/scene-player.ts';
import { readBvh } from '../bvh/read.ts';
import { AT_REST, type Scene, type Track } from '../scene/scene.ts';
import { Ids } from './bones.ts';
import { clipsOfMotions, takeInRig } from './clips.ts';
import { layFigure } from './lay-figure.ts';
import { offFrames, onFrames } from './on-frames.ts';
import { otherSide, rigOfScene, sideOf } from './rig-of-scene.ts';
import { sceneOfCapture } from './scene-of-capture.ts';

const capture = readBvh(`HIERARCHY
ROOT hips
{
  OFFSET 0 0 0
  CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation
  JOINT leg_L
  {
    OFFSET 12 -4 0
    CHANNELS 3 Zrotation Xrotation Yrotation
    End Site
    {
      OFFSET 0 -80 0
    }
  }
  JOINT leg_R
  {
    OFFSET -12 -4 0
    CHANNELS 3 Zrotation Xrotation Yrotation
    JOINT foot_R
    {
      OFFSET 0 -80 0
      CHANNELS 3 Zrotation Xrotation Yrotation
      End Site
      {
        OFFSET 0 0 10
      }
    }
  }
}
MOTION
Frames: 3
Frame Time: 0.0416667
0 90 0 0 0 0 0 0 0 0 0 0 0 0 0
0 88 5 10 20 30 0 40 0 0 -40 0 0 10 0
0 90 10 0 0 90 0 0 0 0 0 0 5 0 0
`);
const { scene, unit } = sceneOfCapture(capture, 'Step');

describe('a capture', () => {
  test('in centimetres is a scene in metres, its joints where its numbers put them', () => {
    expect(unit).toBe(0.01);
    const worlds = worldsAt(scene, scene.motions[0], 2 / 24);
    const at = (name: string) => {
      const n = scene.nodes.findIndex((node) => node.name === name) * 16;
      return [...worlds.subarray(n + 12, n + 15)];
    };
    expect(at('hips')).toEqual([0, 0.9, 0.1].map((v) => expect.closeTo(v, 6)));
    // Turned by a quarter about the upright axis, left of it is behind.
    expect(at('leg_L')).toEqual([0, 0.86, -0.02].map((v) => expect.closeTo(v, 6)));
  });

  test('becomes a rig of turned wood whose clip puts every joint where it was', () => {
    const taken = rigOfScene(layFigure(scene), { id: 'step', name: 'Step', rate: 24 });
    expect(taken.rig.controls.find((c) => c.name === 'leg_L')).toMatchObject({ side: 'left', partner: 'legR' });
    expect(taken.rig.meshes.length).toBeGreaterThan(3);
    const empty = emptyShot('s', 'S', Rigs.of([taken.rig]));
    const brought = newRigMembers(empty, { rig: 'step', version: 1, id: 'r' });
    const there = takeInRig.apply(empty, { ...brought, clips: [] });
    const { clips } = clipsOfMotions(there, 'r', taken.motions);
    const shot = takeInRig.apply(empty, { ...brought, clips });
    const program = new Program(shot);
    const frame = program.createFrame();
    const placed = program.layout.rigs[0];
    for (const f of [0, 0.5, 1, 2]) {
      program.evaluate(1 + f, frame);
      const worlds = worldsAt(scene, scene.motions[0], f / 24);
      taken.rig.joints.forEach((_, j) => {
        for (const i of [12, 13, 14])
          expect(frame.world[(placed.joints + j) * 16 + i]).toBeCloseTo(worlds[j * 16 + i], 5);
      });
    }
  });
});

test('keys that are held, straight or bent come in as what they are', () => {
  const times = Float64Array.of(0, 0.5, 1);
  const track = (shape: Track['shape'], values: number[]): Scene => ({
    ...scene,
    nodes: [{ name: 'a', parent: -1, place: AT_REST }],
    motions: [
      {
        name: 'M',
        seconds: 1,
        tracks: [{ node: 0, of: 'translation', shape, times, values: Float64Array.from(values) }],
      },
    ],
  });
  const plain = [0, 0, 0, 2, 0, 0, 1, 0, 0];
  const bent = [0, 0, 0, 0, 0, 0, 4, 0, 0, -1, 0, 0, 2, 0, 0, 3, 0, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0];
  for (const [shape, values] of [
    ['step', plain],
    ['linear', plain],
    ['cubic', bent],
  ] as const) {
    const one = track(shape, values);
    const taken = rigOfScene(one, { id: 'one', name: 'One', rate: 24 });
    const curve = taken.motions[0].curves.get('a.move.x')!;
    expect(curve.keys.map((k) => k.frame)).toEqual([0, 12, 24]);
    const empty = emptyShot('s', 'S', Rigs.of([taken.rig]));
    const brought = newRigMembers(empty, { rig: 'one', version: 1, id: 'r' });
    const { clips } = clipsOfMotions(takeInRig.apply(empty, { ...brought, clips: [] }), 'r', taken.motions);
    const program = new Program(takeInRig.apply(empty, { ...brought, clips }));
    const frame = program.createFrame();
    for (let f = 0; f < 24; f += 1.5) {
      program.evaluate(1 + f, frame);
      expect(frame.value('r-a', 'move.x')).toBeCloseTo(valueAt(one.motions[0].tracks[0], f / 24)[0], 6);
    }
  }
});

test('nothing to stand in a shot, and more than a rig can have, are refused', () => {
  const many = Array.from({ length: 500 }, (_, n) => ({ name: `n${n}`, parent: n - 1, place: AT_REST }));
  const tracks: Track[] = [
    { node: 499, of: 'translation', shape: 'linear', times: Float64Array.of(0), values: Float64Array.of(0, 0, 0) },
  ];
  const take = (s: Scene) => rigOfScene(s, { id: 'x', name: 'X', rate: 24 });
  expect(() => take({ ...scene, nodes: [], motions: [] })).toThrow('nothing in the file');
  expect(() => take({ ...scene, nodes: many, motions: [{ name: 'M', seconds: 0, tracks }] })).toThrow(
    'up to 300 joints',
  );
  expect(() => take({ ...scene, nodes: [], motions: [] })).toThrow(Refused);
});

test.each([
  ['leg_L', 'left', 'leg_R'],
  ['Left_Hand', 'left', 'Right_Hand'],
  ['RightFoot', 'right', 'LeftFoot'],
  ['hand.r', 'right', 'hand.l'],
  ['spine', 'centre', 'spine'],
  ['collar', 'centre', 'collar'],
])('%s is on the side %s, and over there it is %s', (name, side, other) => {
  expect(sideOf(name)).toBe(side);
  if (side !== 'centre') expect(otherSide(name)).toBe(other);
});

test('ids of parts are given once, and are what a rig takes for one, whatever names hold', () => {
  fc.assert(
    fc.property(fc.array(fc.string({ unit: 'binary', maxLength: 40 }), { maxLength: 12 }), (names) => {
      const ids = new Ids();
      const given = names.map((n) => ids.give(n));
      expect(new Set(given).size).toBe(given.length);
      for (const id of given) expect(id).toMatch(/^[a-zA-Z][a-zA-Z0-9]{0,27}$/);
    }),
  );
});

test('keys between frames are laid on frames where that is wanted, and stay what they were on them', () => {
  const taken = rigOfScene(scene, { id: 'q', name: 'Q', rate: 30 });
  const curves = taken.motions[0].curves;
  expect(offFrames(taken)).toBe(curves.size);
  const [motion] = onFrames(taken.motions);
  for (const [path, curve] of motion.curves) {
    expect(curve.keys.every((k) => Number.isInteger(k.frame))).toBe(true);
    const before = curves.get(path)!;
    if (curve.type === 'number' && before.type === 'number')
      for (const { frame, value } of curve.keys) expect(value).toBeCloseTo(curveAt(before, frame), 9);
  }
  expect(
    onFrames(rigOfScene(scene, { id: 'q', name: 'Q', rate: 24 }).motions)[0].curves.get('hips.move.y')?.keys,
  ).toHaveLength(3);
});
