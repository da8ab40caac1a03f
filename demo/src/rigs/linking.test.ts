import {
  addCustomChannel,
  bringRig,
  changeChannels,
  controlsOf,
  copiesOf,
  duplicateMembers,
  findingsOf,
  holdMembers,
  type Member,
  mirrorMotion,
  newRigMembers,
  parseShot,
  placeAside,
  poseAt,
  problemText,
  putPose,
  removeMembers,
  type Shot,
  setKeys,
  switchLimb,
  takeVersion,
  versionChange,
} from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { practiceFloor } from '../shots/00-practice-floor.ts';
import { harbour, harbourRigs } from './index.ts';
import { apart, at, jointMatrix, jointPlace, shotWith, withValues } from './testing.ts';

const problems = (shot: Shot): string[] => {
  const parsed = parseShot(JSON.parse(JSON.stringify(shot)), harbourRigs());
  return parsed.ok ? [] : parsed.problems.map(problemText);
};
const keyed = (shot: Shot, frame: number, values: Record<string, number>): Shot =>
  changeChannels.apply(shot, { frame, values, autoKey: 'every' });

describe('a linked rig', () => {
  test('brings its controls and control sets, and is a shot that can be read', () => {
    const shot = shotWith('porter');
    expect(problems(shot)).toEqual([]);
    expect(controlsOf(shot, 'porter')).toHaveLength(30);
    expect(shot.sets.values().map((s) => s.name)).toContain('arm L');
  });

  test('is refused where the library has it not, or a control is missing or doubled', () => {
    const shot = shotWith('porter');
    const head = shot.members.at('porter-head');
    expect(problems({ ...shot, members: shot.members.without(head.id) })[0]).toMatch(/lacks the control "head"/);
    const twice = shot.members.with('head2', { ...head, id: 'head2' });
    expect(problems({ ...shot, members: twice })[0]).toMatch(/one of them twice/);
    const gone = { ...shot.members.at('porter'), shape: { rig: 'nobody', version: 3 } } as Member;
    expect(problems({ ...shot, members: shot.members.with('porter', gone) })[0]).toMatch(
      /links version 3 of the rig "nobody", which is not in the library/,
    );
  });

  test('cannot be changed: locked channels take no values, controls no channels of their own', () => {
    const shot = shotWith('porter');
    expect(withValues(shot, { 'porter-kneeL.turn.x': 1, 'porter-armJointL.move.x': 1 })).toEqual(shot);
    expect(setKeys.apply(shot, { frame: 1, paths: ['porter-kneeL.turn.x'] })).toEqual(shot);
    expect(addCustomChannel.apply(shot, { id: 'porter-head', channel: { id: 'x', name: 'x', initial: 0 } })).toBe(shot);
    expect(
      problems({
        ...shot,
        curves: shot.curves.with('porter-kneeL.turn.x', { type: 'number', keys: [], before: 'hold', after: 'hold' }),
      }),
    ).not.toEqual([]);
  });

  test('goes whole, and not by its controls; a copy is whole and stands alone', () => {
    const shot = shotWith('porter');
    expect(removeMembers.apply(shot, { ids: ['porter-head'] })).toBe(shot);
    expect(removeMembers.apply(shot, { ids: ['porter'] }).members.toJSON()).toEqual({});
    const copies = copiesOf(shot, ['porter']);
    const two = duplicateMembers.apply(shot, { ids: ['porter'], copies });
    expect(problems(two)).toEqual([]);
    expect(controlsOf(two, copies.porter).map((c) => c.name)).toEqual(controlsOf(two, 'porter').map((c) => c.name));
  });
});

describe('a newer version of the porter', () => {
  const old = keyed(keyed(practiceFloor(), 1, { 'porter-face.cap': 0.1, 'porter-head.turn.y': 0.2 }), 12, {
    'porter-face.cap': 0.3,
    'porter-head.turn.y': 0.5,
  });

  test('says beforehand what comes and what no longer fits', () => {
    const change = versionChange(old, 'porter', 2);
    expect(change.aside.map((a) => a.name)).toEqual(['face · cap']);
    expect(change.aside[0].curve?.keys).toHaveLength(2);
    expect(change.fresh).toEqual(['face: jaw, brow L, brow R, brow tilt L, brow tilt R, lid L, lid R, blink']);
    expect(change.gone).toEqual(['face: cap']);
  });

  test('keeps what fits, puts the rest aside, and gives it back to the old version', () => {
    const next = takeVersion.apply(old, { id: 'porter', version: 2 });
    expect(problems(next)).toEqual([]);
    expect(next.curves.get('porter-head.turn.y')).toBe(old.curves.get('porter-head.turn.y'));
    expect(next.curves.has('porter-face.cap')).toBe(false);
    expect(next.aside.values().map((a) => a.name)).toEqual(['face · cap']);
    const back = takeVersion.apply(next, { id: 'porter', version: 1 });
    expect(problems(back)).toEqual([]);
    expect(back.curves.get('porter-face.cap')).toEqual(old.curves.get('porter-face.cap'));
    expect(back.aside.toJSON()).toEqual({});
  });

  test('lets what was put aside go on as another channel', () => {
    const next = takeVersion.apply(old, { id: 'porter', version: 2 });
    const [aside] = next.aside.values();
    const placed = placeAside.apply(next, { id: aside.id, control: 'face', channel: 'jaw' });
    expect(placed.curves.get('porter-face.jaw')).toEqual(aside.curve);
    expect(placed.aside.toJSON()).toEqual({});
    expect(problems(placed)).toEqual([]);
  });
});

describe('holding', () => {
  test('in a circle is refused, naming who', () => {
    const one = shotWith('porter');
    const both = bringRig.apply(one, newRigMembers(one, { rig: 'sack', version: 1, id: 'sack' }));
    const held = holdMembers.apply(both, {
      ids: ['sack'],
      by: { is: 'member', member: 'porter', joint: 'handL' },
      frame: 1,
    });
    expect(problems(held)).toEqual([]);
    const ring = {
      ...held,
      members: held.members.with('porter', {
        ...held.members.at('porter'),
        holds: [{ frame: 1, by: { is: 'member' as const, member: 'sack', joint: null } }],
      }),
    };
    expect(problems(ring as Shot)[0]).toMatch(/round in a circle: .*"Porter"/);
  });

  test('carries the sack with the hand and leaves it where it is let go', () => {
    const one = shotWith('porter');
    const both = bringRig.apply(one, newRigMembers(one, { rig: 'sack', version: 1, id: 'sack' }));
    const walking = keyed(keyed(both, 1, { 'porter.move.z': 0 }), 41, { 'porter.move.z': 2 });
    const taken = holdMembers.apply(walking, {
      ids: ['sack'],
      by: { is: 'member', member: 'porter', joint: 'handL' },
      frame: 11,
    });
    const left = holdMembers.apply(taken, { ids: ['sack'], by: { is: 'own' }, frame: 31 });
    const z = (shot: Shot, frame: number) => jointPlace(at(shot, frame), 'sack', 'base')[2];
    expect(z(left, 10)).toBeCloseTo(0, 9);
    const way = (from: number, to: number) =>
      at(left, to).value('porter', 'move.z')! - at(left, from).value('porter', 'move.z')!;
    expect(z(left, 25)).toBeCloseTo(way(11, 25), 6);
    expect(z(left, 31)).toBeCloseTo(way(11, 31), 6);
    expect(z(left, 41)).toBeCloseTo(way(11, 31), 6);
  });
});

describe('a limb that is animated', () => {
  test('goes over to joint by joint at a frame: before it nothing changes, at it nothing jumps', () => {
    const moving = keyed(keyed(shotWith('porter'), 1, { 'porter-handL.move.y': 0.1, 'porter-handL.move.z': 0.1 }), 21, {
      'porter-handL.move.y': 0.4,
      'porter-handL.move.z': 0.2,
    });
    const over = switchLimb.apply(moving, { rig: 'porter', limb: 'armL', to: 'joints', frame: 11, words: 'arm L' });
    expect(problems(over)).toEqual([]);
    for (const frame of [1, 6, 10, 10.9, 11]) {
      const [a, b] = [at(moving, frame), at(over, frame)].map((f) => jointMatrix(f, 'porter', 'handL'));
      expect([frame, apart(a, b).degrees < 0.01, apart(a, b).metres < 1e-5]).toEqual([frame, true, true]);
    }
    // From there it is turned by its joints, and the target moves it no more.
    const still = jointPlace(at(over, 21), 'porter', 'handL');
    expect(still).toEqual(jointPlace(at(over, 12), 'porter', 'handL'));
  });
});

describe('mirrored motion', () => {
  test('twice is the motion as it was, and once its mirror image at every frame', () => {
    const moving = keyed(
      keyed(shotWith('porter'), 1, {
        'porter-handL.move.y': 0.1,
        'porter-footR.heel': 0.2,
        'porter-chest.turn.y': 0.3,
      }),
      21,
      { 'porter-handL.move.y': 0.4, 'porter-footR.heel': 0, 'porter-chest.turn.y': -0.2 },
    );
    const args = { rig: 'porter', from: 1, to: 40 };
    const image = mirrorMotion.apply(moving, args);
    expect(problems(image)).toEqual([]);
    const [x, y, z] = jointPlace(at(moving, 9), 'porter', 'handL');
    const [ix, iy, iz] = jointPlace(at(image, 9), 'porter', 'handR');
    expect(Math.hypot(ix + x, iy - y, iz - z)).toBeLessThan(1e-4);
    expect(mirrorMotion.apply(image, args).curves).toEqual(moving.curves);
  });
});

describe.each(harbour.filter((h) => h.poses().length > 0).map((h) => [h.id, h] as const))(
  'the pose book of %s',
  (id, entry) => {
    test.each(entry.poses().map((p) => [p.name, p] as const))(
      '%s fits the rig and stands as the checks want it',
      (_, pose) => {
        const shot = shotWith(id);
        const put = putPose.apply(shot, {
          rig: id,
          pose: pose.values,
          name: pose.name,
          frame: 1,
          share: 1,
          autoKey: 'off',
          key: true,
        });
        expect(problems(put)).toEqual([]);
        const taken = poseAt(put, id, 1);
        for (const [name, value] of Object.entries(pose.values)) expect([name, taken[name]]).toEqual([name, value]);
        const found = findingsOf(put).filter((f) => !['neverChanges', 'outOfBalance'].includes(f.check));
        expect(found.map((f) => f.text)).toEqual([]);
      },
    );
  },
);
