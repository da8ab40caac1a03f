import { bake, type Choices, handOn, type MotionCompany, usualChoices } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { practiceFloor } from '../shots/00-practice-floor.ts';

/** How clips go about goes out with them, in the receiver's words. */

const shot = practiceFloor();
const choices: Choices = { ...usualChoices, frames: null, clips: shot.clips.keys(), rate: shot.rate };
const companies = (more: Partial<Choices> = {}) =>
  new Map(bake(shot, { ...choices, ...more }).scene.motions.map((m) => [m.name, m.company]));

describe('of a motion is said', () => {
  const of = companies();

  test('what may follow it, by the names that motions have in the file, in seconds', () => {
    expect(of.get('Stand')?.follows).toEqual([{ motion: 'Stroll', seconds: 10 / 24, by: 'up' }]);
    expect(
      of
        .get('Trot')
        ?.follows.map((f) => [f.motion, f.by])
        .sort(),
    ).toEqual([
      ['Bound', 'up'],
      ['Walk', 'down'],
    ]);
  });

  test('how far it gets, and on which node: that of whom it moves, or the joint that carries the travel', () => {
    const walk = shot.clips.values().find((c) => c.name === 'Stroll')!;
    expect(of.get('Stroll')).toMatchObject({ of: 'Porter', travel: { node: 'Porter', metres: walk.travel } });
    expect(of.get('Stand')?.travel).toBeNull();
    expect(companies({ travel: 'joint' }).get('Stroll')?.travel?.node).toBe('Porter_travel');
  });

  test('which nodes it moves, and how much: those outside of its part are not named', () => {
    const part = of.get('Hail')!.part!;
    expect(part.handR).toBe(1);
    expect(part.chest).toBeCloseTo(0.5, 9);
    for (const node of ['handL', 'footR', 'hips']) expect(Object.hasOwn(part, node), node).toBe(false);
    expect(of.get('Stroll')?.part).toBeNull();
  });

  test('what of it repeats, by which key it is asked for, and when its feet are down', () => {
    expect(of.get('Hail')).toMatchObject({ key: 's', repeats: false, loop: [0.5, 1], easeIn: 0.5 });
    const { footL, footR } = of.get('Stroll')!.feet;
    expect(footL[0][1] - footL[0][0]).toBeCloseTo(footR[0][1] - footR[0][0], 9);
  });

  test('nothing where it leads to a motion that stays here', () => {
    const stand = shot.clips.values().find((c) => c.name === 'Stand')!;
    expect(companies({ clips: [stand.id] }).get('Stand')?.follows).toEqual([]);
  });
});

test('in a glTF file it stands with each animation', async () => {
  const { files } = await handOn(shot, 'glb', choices);
  const { bytes } = files[0];
  const long = new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true);
  const told = JSON.parse(String.fromCharCode(...bytes.subarray(20, 20 + long)));
  const hail = told.animations.find((a: { name: string }) => a.name === 'Hail') as {
    extras: { company: MotionCompany };
  };
  expect(hail.extras.company).toEqual(companies().get('Hail'));
});
