import {
  anatomyOf,
  applyRecipe,
  type Build,
  bringRig,
  buildOf,
  clipAtWork,
  compileRig,
  dressed,
  emptyShot,
  findingsOf,
  newRigMembers,
  outfitted,
  parseRig,
  type Rig,
  Rigs,
  renamed,
  stretches,
  turnedBy,
  weighed,
} from '@varrup/core';
import { describe, expect, it } from 'vitest';
import { goat } from './goat.ts';
import { gull } from './gull.ts';
import { porter } from './porter.ts';

/** A rig as somebody might have drawn it: its joints without their names, and a body that hangs on nothing yet. */
function plain(rig: Rig): Build {
  const build = buildOf(rig);
  const nameless = new Map(
    build.joints.map((j, n) => {
      const side = j.place[0] > 0 ? ' L' : j.place[0] < 0 ? ' R' : '';
      return [j.id, { id: `joint${n}`, name: `joint ${n + 1}${side}` }] as const;
    }),
  );
  return renamed(build, nameless);
}

function rigOf(build: Build): Rig {
  const parsed = parseRig(dressed(build, { version: 2, changes: 'Dressed.' }));
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems.slice(0, 4)));
  return parsed.value;
}

/** What is wrong with its walk on the spot: one round of the gait kit as it comes, and what must hold of it. */
function faultsOfWalk(rig: Rig): string[] {
  const empty = emptyShot('test', 'Test', Rigs.of([rig]));
  const there = bringRig.apply(empty, newRigMembers(empty, { rig: rig.id, version: rig.version, id: 'r' }));
  const recipe = { id: 'gait', kit: 'gait', member: 'r', settings: {}, written: {} };
  const shot = applyRecipe.apply(there, { recipe, replace: false });
  const length = clipAtWork(shot, 'r')?.length;
  if (!length) throw new Error('The walk has no clip.');
  const span = { first: 1, last: length + 1 };
  const held = ['footSlides', 'belowFloor', 'limbReach', 'seamKey', 'seamHitch', 'halvesDiffer', 'limitExceeded'];
  return findingsOf({ ...shot, range: span, play: span })
    .filter((f) => held.includes(f.check))
    .map((f) => f.text);
}

describe('a skeleton without names', () => {
  it('is dressed as a quadruped that walks', () => {
    const build = outfitted(plain(goat()), 'quadruped');
    expect(build.parts.map((p) => p.kind)).toEqual(['trunk', 'head', 'leg', 'leg', 'leg', 'leg', 'tail']);
    const rig = rigOf({ ...build, meshes: weighed(build.meshes, build.joints) });
    const anatomy = anatomyOf(compileRig(rig));
    if (typeof anatomy === 'string') throw new Error(anatomy);
    expect(anatomy.legs.map((l) => [l.name, l.girdle, l.hoof])).toEqual([
      ['hind foot L', 'hips', true],
      ['hind foot R', 'hips', true],
      ['fore foot L', 'chest', true],
      ['fore foot R', 'chest', true],
    ]);
    expect(faultsOfWalk(rig)).toEqual([]);
  });

  it('is dressed as a biped with arms', () => {
    const build = outfitted(plain(porter()), 'biped');
    expect(build.parts.map((p) => p.kind)).toEqual(['trunk', 'head', 'leg', 'leg', 'arm', 'arm']);
    const rig = rigOf(build);
    const anatomy = anatomyOf(compileRig(rig));
    if (typeof anatomy === 'string') throw new Error(anatomy);
    expect(anatomy.legs.map((l) => l.hoof)).toEqual([false, false]);
    expect(anatomy.arms).toHaveLength(2);
    expect(rig.joints.map((j) => j.id)).toEqual(expect.arrayContaining(['thighL', 'shinR', 'handL', 'chest', 'head']));
    expect(faultsOfWalk(rig)).toEqual([]);
  });
});

describe('a body that stands askew', () => {
  it.each([
    ['goat', 1.13, 'quadruped'],
    ['goat', -2.7, 'quadruped'],
    ['porter', 2.4, 'biped'],
  ] as const)('is put square, its face to the front, and dressed all the same (%s by %s)', (id, yaw, outfit) => {
    const rig = id === 'goat' ? goat() : porter();
    const straight = outfitted(buildOf(rig), outfit);
    const askew = turnedBy(buildOf(rig), yaw, [3.2, 0.7, -1.4]);
    const square = outfitted(askew, outfit);
    expect(square.parts).toEqual(straight.parts);
    const at = new Map(straight.joints.map((j) => [j.id, j.place]));
    const shift = square.joints[0].place[2] - at.get(square.joints[0].id)![2];
    for (const { id: joint, place } of square.joints) {
      const [x, y, z] = at.get(joint)!;
      expect(Math.hypot(place[0] - x, place[1] - y, place[2] - z - shift)).toBeLessThan(0.004);
    }
  });
});

describe('the gull', () => {
  it('was made of one half: both sides are mirror images, and it walks', () => {
    const rig = gull();
    const at = new Map(rig.joints.map((j) => [j.id, j.place]));
    for (const [id, [x, y, z]] of at) if (id.endsWith('L')) expect(at.get(`${id.slice(0, -1)}R`)).toEqual([-x, y, z]);
    expect(rig.meshes.map((m) => m.id)).toEqual(expect.arrayContaining(['wingL', 'wingR', 'legR', 'tipR', 'eyeR']));
    expect(faultsOfWalk(rig)).toEqual([]);
  });

  it('has poses to be tried in that change nothing but what the rig has', () => {
    const rig = gull();
    const controls = new Map(rig.controls.map((c) => [c.id, c]));
    const poses = stretches(rig);
    expect(poses.map((p) => p.name)).toEqual(expect.arrayContaining(['at rest', 'crouch', 'arms up', 'tail']));
    for (const { values } of poses)
      for (const path of Object.keys(values)) expect(controls.has(path.split('.')[0])).toBe(true);
  });
});
