import {
  affine,
  type Choices,
  capturesOf,
  clipAtWork,
  Program,
  putOntoRig,
  readBvh,
  rigRoles,
  type Scene,
  type Shot,
  sceneOfCapture,
  sceneRoles,
  takeUpClip,
  usualChoices,
  writeBvh,
} from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { porterCrosses } from '../shots/02-porter-crosses.ts';
import { snappingToolbox } from '../shots/11-snapping-toolbox.ts';

const shot = porterCrosses();
const weary = shot.clips.values().find((c) => c.name === 'Weary')!;

/** The weary walk as a capture file of somebody whose legs are so much longer, in centimetres. */
function captured(size: number): Scene {
  const choices: Choices = {
    ...usualChoices,
    frames: null,
    clips: [weary.id],
    rate: shot.rate,
    travel: 'node',
    scale: 100 * size,
  };
  const { motions } = capturesOf(shot, weary.rig, choices);
  return sceneOfCapture(readBvh(writeBvh(motions[0].capture)), 'Weary').scene;
}

/** The porter with the capture put onto it and taken up. */
function putOn(scene: Scene): { shot: Shot; first: number; length: number } {
  const [motion] = scene.motions;
  const pairing = sceneRoles(scene, motion);
  const { clip } = putOntoRig(shot, {
    rig: weary.rig,
    scene,
    motion,
    name: 'Put on',
    pairing,
    tolerance: { millimetres: 0.5, degrees: 0.1 },
  });
  const next = takeUpClip.apply({ ...shot, clips: shot.clips.with(clip.id, clip) }, { id: clip.id });
  return { shot: next, first: clip.first, length: clip.length };
}

/** Where joints of the porter are over a clip, in its own space. */
function paths(of: Shot, first: number, length: number, joints: readonly string[]): number[][][] {
  const program = new Program(of);
  const frame = program.createFrame();
  const placed = program.layout.rigAt.get(program.layout.slotOf.get(weary.rig)!)!;
  return Array.from({ length: length + 1 }, (_, f) => {
    program.evaluate(first + f, frame);
    const space = new Float64Array(16);
    affine.invert(space, 0, frame.world, placed.slot * 16);
    return joints.map((joint) => {
      const at = (placed.joints + placed.compiled.jointAt.get(joint)!) * 16 + 12;
      const point = new Float64Array(3);
      affine.transformPoint(point, 0, space, 0, frame.world[at], frame.world[at + 1], frame.world[at + 2]);
      return [...point];
    });
  });
}

const doing = takeUpClip.apply(shot, { id: weary.id });
const travelling = {
  ...doing,
  clips: doing.clips.with(weary.id, { ...clipAtWork(doing, weary.rig)!, travelling: true, way: null }),
};

describe('a capture put onto the porter', () => {
  test('finds all parts of both bodies by their names', () => {
    const scene = captured(1);
    const pairing = sceneRoles(scene, scene.motions[0]);
    expect(Object.entries(pairing).filter(([, joint]) => joint < 0)).toEqual([]);
    expect(Object.entries(rigRoles(shot, weary.rig)).filter(([, joint]) => joint < 0)).toEqual([]);
  });

  test.each([1, 1.3, 0.8])(
    'of somebody %s times as large, walks as it walked: hips, feet, hands and head where they were',
    (size) => {
      const { shot: put, first, length } = putOn(captured(size));
      const joints = ['hips', 'footL', 'footR', 'handL', 'handR', 'head', 'shinL', 'shinR'];
      const ours = paths(put, first, length, joints);
      const theirs = paths(travelling, weary.first, weary.length, joints);
      // It begins where the rig stands, wherever the hips of the capture began.
      const [from, there] = [ours[0][0], theirs[0][0]];
      const apart = (f: number, j: number) =>
        Math.hypot(...[0, 1, 2].map((c) => ours[f][j][c] - theirs[f][j][c] - (c === 1 ? 0 : from[c] - there[c])));
      const worst = joints.map((_, j) => Math.max(...ours.map((_, f) => apart(f, j))));
      const told = Object.fromEntries(joints.map((joint, j) => [joint, Number(worst[j].toFixed(4))]));
      // Keys were laid within half a millimetre and a tenth of a degree; hands hang on four joints.
      expect(told.hips).toBeLessThan(0.002);
      expect(told.hips).toBeLessThan(0.01 * weary.travel);
      expect(Math.max(told.footL, told.footR)).toBeLessThan(0.002);
      expect(Math.max(told.handL, told.handR, told.head, told.shinL, told.shinR)).toBeLessThan(0.006);
    },
  );

  test('keeps its footfalls to the frame: feet are on the ground when they were', () => {
    const { shot: put, first, length } = putOn(captured(1.3));
    const feet = ['footL', 'footR'];
    const down = (of: number[][][]) => of.map((frame) => frame.map(([, y]) => y < 0.115));
    expect(down(paths(put, first, length, feet))).toEqual(down(paths(travelling, weary.first, weary.length, feet)));
  });

  test('is refused where parts that are needed are not paired, and on what is no two-legged body', () => {
    const scene = captured(1);
    const [motion] = scene.motions;
    const pairing = { ...sceneRoles(scene, motion), hips: -1 };
    const putting = { rig: weary.rig, scene, motion, name: 'x', pairing, tolerance: { millimetres: 1, degrees: 1 } };
    expect(() => putOntoRig(shot, putting)).toThrow('Say first which joint is hips');
    const toolbox = snappingToolbox();
    const rig = toolbox.members.values().find((m) => m.kind === 'rig')!.id;
    expect(() => rigRoles(toolbox, rig)).toThrow('no two-legged body');
  });
});
