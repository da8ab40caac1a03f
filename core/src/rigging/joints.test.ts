import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mirrored, type Vector } from '../pose/vectors.ts';
import { WHOLE_WEIGHT } from '../rig/definition.ts';
import { parseRig } from '../rig/problems.ts';
import { type Build, buildOf, jointOf, twinsOf } from './build.ts';
import { dressed } from './dressed.ts';
import {
  addJoint,
  evenOut,
  hangJoint,
  meantPlace,
  moveJoint,
  paintPart,
  removeJoint,
  renameJoint,
  setJoint,
} from './joints.ts';
import { outfitted } from './outfit.ts';
import { hose, line } from './testing/bodies.ts';
import { weighed } from './weights.ts';

const body: Build = {
  id: 'gull',
  name: 'Gull',
  joints: [],
  parts: [],
  meshes: [
    {
      id: 'body',
      colour: '#e6dac2',
      finish: 'felt',
      ...hose(line([0, 0.1, -0.3], [0, 0.5, 0.3], 12), 0.12),
      skin: { kind: 'rigid', joint: 'joint' },
      targets: [],
    },
  ],
};

const put = (build: Build, parent: string | null, place: Vector, name = 'joint') =>
  addJoint(build, { name, parent, place, pairs: true });

const read = (build: Build) => parseRig(dressed(build, { version: 1, changes: 'New.' }));

/** A trunk of three joints with a limb of three on each side. */
function withLimbs(): Build {
  let [build, at] = put(body, null, [0, 0.3, 0]);
  const hips = at;
  [build, at] = put(build, at, [0, 0.35, 0.1]);
  [build] = put(build, at, [0, 0.4, 0.2]);
  [build, at] = put(build, hips, [0.05, 0.25, 0], 'leg');
  [build, at] = put(build, at, [0.06, 0.15, 0.02], 'knee');
  [build] = put(build, at, [0.06, 0.02, 0], 'foot');
  return build;
}

describe('joints that are put in', () => {
  it('come in pairs beside the middle, each on its own side', () => {
    const build = withLimbs();
    expect(build.joints.map((j) => j.name)).toEqual([
      'joint',
      'joint 2',
      'joint 3',
      'leg L',
      'leg R',
      'knee L',
      'knee R',
      'foot L',
      'foot R',
    ]);
    expect(jointOf(build, 'footR').parent).toBe('kneeR');
    expect(jointOf(build, 'footR').place).toEqual(mirrored(jointOf(build, 'footL').place));
    expect(twinsOf(build.joints).get('kneeL')).toBe('kneeR');
  });

  it('are moved, hung, set and taken away on both sides at once', () => {
    const build = withLimbs();
    const moved = moveJoint(build, 'kneeL', [0.1, 0.2, 0.1], { pairs: true, along: true });
    expect(jointOf(moved, 'kneeR').place).toEqual([-0.1, 0.2, 0.1]);
    expect(jointOf(moved, 'footR').place[1]).toBeCloseTo(0.07, 12);
    const hung = hangJoint(build, 'footL', 'legL', { pairs: true });
    expect(jointOf(hung, 'footR').parent).toBe('legR');
    const limits = { 'turn.x': { min: 0, max: 2 }, 'turn.z': { min: -0.1, max: 0.4 } };
    const set = setJoint(build, 'kneeL', { axes: 'xz', limits }, { pairs: true });
    expect(jointOf(set, 'kneeR')).toMatchObject({
      axes: 'xz',
      limits: { 'turn.x': { min: 0, max: 2 }, 'turn.z': { min: -0.4, max: 0.1 } },
    });
    const without = removeJoint(build, 'kneeL', { pairs: true });
    expect(without.joints.map((j) => j.id)).not.toContain('kneeR');
    expect(jointOf(without, 'footR').parent).toBe('legR');
  });

  it('are refused where they would hang on themselves, have no number for a place or no name', () => {
    const build = withLimbs();
    expect(() => hangJoint(build, 'legL', 'footL', { pairs: false })).toThrow('leg L cannot hang on what hangs on it.');
    expect(() => put(build, null, [Number.NaN, 0, 0])).toThrow('not a number');
    expect(() => renameJoint(build, 'legL', '  ')).toThrow('needs a name');
    const [one] = put({ ...body, joints: [] }, null, [0, 0, 0]);
    expect(() => removeJoint(one, 'joint', { pairs: true })).toThrow('last joint');
    const many = { ...one, joints: Array.from({ length: 400 }, (_, i) => ({ ...one.joints[0], id: `j${i}` })) };
    expect(() => put(many, null, [0, 0, 0])).toThrow('up to 400 joints');
  });

  it('stand in the middle where they are meant to', () => {
    expect(meantPlace([0.006, 0.3, 0.1], 1)).toEqual([0, 0.3, 0.1]);
    expect(meantPlace([0.05, 0.3, 0.1], 1)).toEqual([0.05, 0.3, 0.1]);
    const askew = moveJoint(withLimbs(), 'kneeR', [-0.065, 0.151, 0.02], { pairs: false, along: false });
    expect(jointOf(evenOut(askew, 0.02), 'kneeR').place).toEqual([-0.06, 0.15, 0.02]);
  });

  it('leave their weights to who carried them', () => {
    const build = withLimbs();
    const whole = { ...build, meshes: weighed(build.meshes, build.joints) };
    const without = removeJoint(whole, 'joint2', { pairs: true });
    const { skin } = without.meshes[0];
    if (skin.kind !== 'smooth') throw new Error('not weighed');
    expect(skin.joints).not.toContain('joint2');
    expect(skin.joints).toContain('joint');
    expect(Math.max(...skin.indices)).toBe(skin.joints.length - 1);
    const parsed = read(without);
    expect(parsed.ok || parsed.problems).toBe(true);
  });
});

describe('a rig that is built', () => {
  it('reads, and is opened again as it was, whatever was done to it', () => {
    const step = fc.oneof(
      fc.record({
        do: fc.constant('add' as const),
        at: fc.nat(30),
        place: fc.tuple(
          fc.double({ min: -0.2, max: 0.2, noNaN: true }),
          fc.double({ min: 0, max: 0.5, noNaN: true }),
          fc.double({ min: -0.3, max: 0.3, noNaN: true }),
        ),
      }),
      fc.record({ do: fc.constantFrom('remove' as const, 'hinge' as const), at: fc.nat(30) }),
      fc.record({
        do: fc.constant('rename' as const),
        at: fc.nat(30),
        name: fc.constantFrom('jaw', 'Schnabel ü', '7', 'body', 'wing L'),
      }),
      fc.record({ do: fc.constant('hang' as const), at: fc.nat(30), on: fc.nat(30) }),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 14 }), (steps) => {
        let build = withLimbs();
        for (const s of steps) {
          const id = build.joints[s.at % build.joints.length].id;
          try {
            if (s.do === 'add') [build] = put(build, id, meantPlace(s.place, 0.5));
            if (s.do === 'remove') build = removeJoint(build, id, { pairs: true });
            if (s.do === 'hinge')
              build = setJoint(build, id, { axes: 'x', limits: { 'turn.x': { min: 0 } } }, { pairs: true });
            if (s.do === 'rename') build = renameJoint(build, id, s.name);
            if (s.do === 'hang')
              build = hangJoint(build, id, build.joints[s.on % build.joints.length].id, { pairs: true });
          } catch (error) {
            expect((error as Error).constructor.name).toBe('Refused');
          }
        }
        const { skin } = build.meshes[0];
        const there = build.joints.some((j) => skin.kind === 'rigid' && j.id === skin.joint);
        if (!there) build = { ...build, meshes: weighed(build.meshes, build.joints) };
        const parsed = read(build);
        if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
        expect(buildOf(parsed.value)).toEqual(build);
        for (const { skin } of parsed.value.meshes)
          if (skin.kind === 'smooth')
            for (let v = 0; v < skin.weights.length; v += 4)
              expect(skin.weights.slice(v, v + 4).reduce((a, b) => a + b)).toBe(WHOLE_WEIGHT);
      }),
      { numRuns: 60 },
    );
  });

  it('is dressed as what it has the limbs for, and says what is missing', () => {
    const build = outfitted(withLimbs(), 'biped');
    expect(build.parts.map((p) => p.kind)).toEqual(['trunk', 'head', 'leg', 'leg']);
    const parsed = read({ ...build, meshes: weighed(build.meshes, build.joints) });
    if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
    expect(parsed.value.controls.map((c) => c.id)).toEqual(expect.arrayContaining(['body', 'hips', 'footL', 'kneeR']));
    expect(() => outfitted(withLimbs(), 'quadruped')).toThrow('A quadruped needs two pairs of legs');
  });
});

describe('a part of the body', () => {
  it('gets another colour and keeps what it is made of, or a finish in place of that', () => {
    const material = { roughness: 0.2, metalness: 1, bothSides: true };
    const made: Build = { ...body, meshes: [{ ...body.meshes[0], material }] };
    expect(paintPart(made, 'body', { colour: '#112233' }).meshes[0]).toMatchObject({ colour: '#112233', material });
    const tin = paintPart(made, 'body', { finish: 'tin' }).meshes[0];
    expect(tin.finish).toBe('tin');
    expect(tin.material).toBeUndefined();
  });
});
