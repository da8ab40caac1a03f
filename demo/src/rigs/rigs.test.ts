import {
  addDeformer,
  changeChannels,
  channelsAt,
  compileRig,
  holdMembers,
  jointOutlines,
  matched,
  mirrored,
  newDeformer,
  parseRig,
  poseAt,
  posed,
  type Shot,
  skinPoints,
  skinsOf,
  writeSkinMatrices,
} from '@varrup/core';
import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { harbour } from './index.ts';
import { apart, at, jointMatrix, jointPlace, poses, shotWith, withValues } from './testing.ts';

const rigs = harbour.map((h) => h.versions.at(-1)!.make());
const named = rigs.map((rig) => [rig.id, rig] as const);
const withLimbs = rigs.filter((rig) => rig.limbs.length > 0).map((rig) => [rig.id, rig] as const);
const paired = rigs.filter((rig) => rig.controls.some((c) => c.partner)).map((rig) => [rig.id, rig] as const);

describe.each(named)('the rig %s', (id, rig) => {
  test('can be read again from what is kept of it', () => {
    const parsed = parseRig(JSON.parse(JSON.stringify(rig)));
    expect(parsed.ok || parsed.problems).toBe(true);
  });

  test('stands as it was built while nothing is posed', () => {
    const frame = at(shotWith(id));
    const { compiled } = frame.layout.rigs[0];
    const looking = new Set(rig.looks.map((l) => l.joint));
    for (const [j, joint] of rig.joints.entries()) {
      if (looking.has(joint.id)) continue;
      const { degrees, metres } = apart(jointMatrix(frame, id, joint.id), compiled.rests.slice(j * 16, j * 16 + 16));
      expect([joint.id, degrees < 1e-6, metres < 1e-9]).toEqual([joint.id, true, true]);
    }
  });

  test('has weights that sum to one at every vertex', () => {
    for (const { weights } of skinsOf(compileRig(rig))) {
      for (let v = 0; v < weights.length; v += 4) {
        expect(weights[v] + weights[v + 1] + weights[v + 2] + weights[v + 3]).toBeCloseTo(1, 6);
      }
    }
  });

  test('is carried whole: moved and turned, every vertex goes along', () => {
    const shot = shotWith(id);
    const moved = withValues(shot, { [`${id}.move.x`]: 2, [`${id}.turn.y`]: Math.PI / 2 });
    const [still, gone] = [at(shot), at(moved)];
    const placed = still.layout.rigs[0];
    for (const [m, mesh] of rig.meshes.entries()) {
      const [a, b] = [new Float64Array(mesh.positions.length), new Float64Array(mesh.positions.length)];
      const matrices = new Float64Array(rig.joints.length * 16);
      writeSkinMatrices(still, placed, matrices);
      skinPoints(still, placed, m, matrices, a);
      writeSkinMatrices(gone, gone.layout.rigs[0], matrices);
      skinPoints(gone, gone.layout.rigs[0], m, matrices, b);
      for (let p = 0; p < a.length; p += 3) {
        // A quarter turn about y brings z to x and x to −z.
        expect(Math.hypot(b[p] - (a[p + 2] + 2), b[p + 1] - a[p + 1], b[p + 2] + a[p])).toBeLessThan(1e-6);
      }
    }
  });
});

describe.each(withLimbs)('the limbs of %s', (id, rig) => {
  test('reach their targets to 0.01 mm within their reach, whatever the pose', () => {
    fc.assert(
      fc.property(poses(rig), (pose) => {
        const values = { ...pose };
        for (const limb of rig.limbs)
          Object.assign(values, {
            [`${id}-${limb.dials}.reach`]: 1,
            [`${id}-${limb.dials}.soft`]: 0.005,
            [`${id}-${limb.dials}.stretch`]: 0,
          });
        const shot = withValues(shotWith(id), values);
        const frame = at(shot);
        for (const limb of rig.limbs.filter((l) => l.target.is === 'control')) {
          const place = (joint: string) => jointPlace(frame, id, joint);
          const [a, b, c] = [place(limb.upper), place(limb.lower), place(limb.end)];
          const rest = (joint: string) => rig.joints.find((j) => j.id === joint)!.place;
          const between = (p: readonly number[], q: readonly number[]) =>
            Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
          const [first, second] = [
            between(rest(limb.upper), rest(limb.lower)),
            between(rest(limb.lower), rest(limb.end)),
          ];
          // The bones keep their lengths.
          expect(between(a, b)).toBeCloseTo(first, 9);
          expect(between(b, c)).toBeCloseTo(second, 9);
          const slot = frame.layout.slotOf.get(`${id}-${limb.target.id}`)! * 16;
          const control = rig.controls.find((k) => k.id === limb.target.id)!;
          if (between(control.place, rest(limb.end)) > 1e-9) continue;
          const target = [12, 13, 14].map((k) => frame.world[slot + k]);
          const far = between(a, target);
          if (far > (first + second) * 0.9949 || far < Math.abs(first - second) + 1e-4) continue;
          expect(between(c, target)).toBeLessThan(1e-5);
        }
      }),
      { numRuns: 36 },
    );
  });

  test('go on smoothly through the end of their reach', () => {
    const limb = rig.limbs[0];
    const shot = shotWith(id);
    const target = `${id}-${limb.target.is === 'control' ? limb.target.id : rig.feet.find((f) => f.id === limb.target.id)!.control}`;
    const upper = jointPlace(at(shot), id, limb.upper);
    const end = jointPlace(at(shot), id, limb.end);
    const way = end.map((v, c) => v - upper[c]);
    let last: number[] | null = null;
    for (let s = -0.1; s < 0.3; s += 0.001) {
      const values = Object.fromEntries(['x', 'y', 'z'].map((a, c) => [`${target}.move.${a}`, way[c] * s]));
      const knee = jointPlace(at(withValues(shot, values)), id, limb.lower);
      // A thousandth more of the limb never moves its bend by more than a twentieth of it.
      if (last) expect(Math.hypot(...knee.map((v, c) => v - last![c]))).toBeLessThan(0.05 * Math.hypot(...way));
      last = knee;
    }
  });

  test('know nothing of the frame before', () => {
    fc.assert(
      fc.property(poses(rig), poses(rig), (one, other) => {
        const fresh = at(withValues(shotWith(id), one));
        const after = at(withValues(withValues(shotWith(id), other), one));
        expect(after.world).toEqual(fresh.world);
      }),
      { numRuns: 10 },
    );
  });

  test('go over to joint by joint and back without moving by 0.01°', () => {
    fc.assert(
      fc.property(poses(rig), fc.nat(rig.limbs.length - 1), (pose, which) => {
        const limb = rig.limbs[which];
        const clean = { ...pose };
        for (const l of rig.limbs)
          Object.assign(clean, { [`${id}-${l.dials}.reach`]: 1, [`${id}-${l.dials}.stretch`]: 0 });
        const reaching = withValues(shotWith(id), clean);
        const before = at(reaching);
        const ref = { rig: id, limb: limb.id };
        const byJoints = withValues(reaching, matched(reaching, ref, 'joints', 1));
        const back = withValues(byJoints, matched(byJoints, ref, 'reach', 1));
        const toes = rig.joints.filter((j) => j.parent === limb.end && j.by?.kind === 'foot').map((j) => j.id);
        for (const joint of [limb.upper, limb.lower, limb.end]) {
          const was = jointMatrix(before, id, joint);
          expect(apart(jointMatrix(at(byJoints), id, joint), was).degrees).toBeLessThan(0.01);
          expect(apart(jointMatrix(at(byJoints), id, joint), was).metres).toBeLessThan(1e-6);
        }
        expect(toes.length).toBeLessThanOrEqual(1);
        // Within its reach the way back leads to the same place; beyond, the target is where the limb gets to.
        const [a, c] = [jointPlace(before, id, limb.upper), jointPlace(before, id, limb.end)];
        const length = [limb.upper, limb.lower].reduce((sum, j, i) => {
          const [p, q] = [jointPlace(before, id, j), jointPlace(before, id, [limb.lower, limb.end][i])];
          return sum + Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
        }, 0);
        if (Math.hypot(a[0] - c[0], a[1] - c[1], a[2] - c[2]) > 0.9999 * length) return;
        for (const joint of [limb.upper, limb.lower, limb.end]) {
          const { degrees, metres } = apart(jointMatrix(at(back), id, joint), jointMatrix(before, id, joint));
          expect([joint, degrees < 0.01, metres < 1e-5]).toEqual([joint, true, true]);
        }
      }),
      { numRuns: 36 },
    );
  });
});

describe.each(paired)('mirroring %s', (id, rig) => {
  test('twice gives every number back', () => {
    fc.assert(
      fc.property(poses(rig), (pose) => {
        const shot = withValues(shotWith(id), pose);
        const taken = poseAt(shot, id, 1);
        expect(mirrored(rig, mirrored(rig, taken))).toEqual(taken);
      }),
      { numRuns: 30 },
    );
  });

  test('gives the mirror image of the body to 0.1 mm', () => {
    fc.assert(
      fc.property(poses(rig), (pose) => {
        const shot = withValues(shotWith(id), pose);
        const image = withValues(
          shot,
          posed(shot, { rig: id, pose: mirrored(rig, poseAt(shot, id, 1)), frame: 1, share: 1 }),
        );
        const [a, b] = [at(shot), at(image)];
        const has = new Set(rig.joints.map((j) => j.id));
        for (const { id: joint } of rig.joints) {
          const other = joint.endsWith('L')
            ? `${joint.slice(0, -1)}R`
            : joint.endsWith('R')
              ? `${joint.slice(0, -1)}L`
              : joint;
          if (!has.has(other)) continue;
          const [p, q] = [jointPlace(a, id, joint), jointPlace(b, id, other)];
          expect([joint, Math.hypot(p[0] + q[0], p[1] - q[1], p[2] - q[2]) < 1e-4]).toEqual([joint, true]);
        }
      }),
      { numRuns: 36 },
    );
  });
});

describe('a pose', () => {
  test('by half lies between, and by nothing changes nothing', () => {
    const rig = rigs[0];
    fc.assert(
      fc.property(poses(rig), (pose) => {
        const shot = shotWith(rig.id);
        const target = poseAt(withValues(shot, pose), rig.id, 1);
        const put = (share: number) => posed(shot, { rig: rig.id, pose: target, frame: 1, share });
        expect(put(0)).toEqual({});
        expect(poseAt(withValues(shot, put(1)), rig.id, 1)).toEqual(target);
        const half = put(0.5);
        for (const [path, value] of Object.entries(half)) {
          const name = path.slice(rig.id.length + 1);
          if (!name.includes('.turn.'))
            expect(value).toBeCloseTo(((target[name] as number) + (poseAt(shot, rig.id, 1)[name] as number)) / 2, 9);
        }
      }),
      { numRuns: 20 },
    );
  });
});

describe('a change of who carries', () => {
  test('moves nothing by 0.01 mm, whatever the pose, and what is held goes along', () => {
    const rig = rigs.find((r) => r.id === 'porter')!;
    fc.assert(
      fc.property(poses(rig), poses(rig), (one, other) => {
        const animated = Object.entries(one).reduce(
          (shot, [path, value]) => withKeys(shot, path, value, other[path]),
          shotWith('porter'),
        );
        const held = holdMembers.apply(animated, {
          ids: ['porter-handR'],
          by: { is: 'member', member: 'porter', joint: 'handL' },
          frame: 10,
        });
        const planted = holdMembers.apply(held, { ids: ['porter-footL'], by: { is: 'stage' }, frame: 10 });
        const world = (shot: typeof animated, member: string, frame: number) => {
          const f = at(shot, frame);
          const slot = f.layout.slotOf.get(member)! * 16;
          return f.world.slice(slot, slot + 16);
        };
        for (const member of ['porter-handR', 'porter-footL']) {
          expect(apart(world(planted, member, 10), world(animated, member, 10)).metres).toBeLessThan(1e-5);
        }
      }),
      { numRuns: 25 },
    );
  });

  test('keeps a planted hand to 0.5 mm while the body is posed anew', () => {
    const bent = withValues(shotWith('porter'), { 'porter-handL.move.y': 0.2, 'porter-handL.move.z': 0.15 });
    const shot = holdMembers.apply(bent, { ids: ['porter-handL'], by: { is: 'stage' }, frame: 1 });
    const before = jointPlace(at(shot), 'porter', 'handL');
    const posedAnew = withValues(shot, {
      'porter-body.move.y': -0.08,
      'porter-chest.turn.x': 0.25,
      'porter-hips.turn.y': 0.3,
    });
    const after = jointPlace(at(posedAnew), 'porter', 'handL');
    expect(Math.hypot(...after.map((v, c) => v - before[c]))).toBeLessThan(0.0005);
    const feet = jointPlace(at(posedAnew), 'porter', 'footL').map(
      (v, c) => v - jointPlace(at(shot), 'porter', 'footL')[c],
    );
    expect(Math.hypot(...feet)).toBeLessThan(0.0005);
  });

  test('finds the channels that put a control anywhere in its space', () => {
    const shot = withValues(shotWith('porter'), { 'porter-chest.turn.x': 0.7, 'porter-chest.turn.z': -0.4 });
    const frame = at(shot);
    const wanted = jointMatrix(frame, 'porter', 'handR');
    const moved = withValues(shot, channelsAt(shot, frame, 'porter-handL', wanted));
    const slot = at(moved).layout.slotOf.get('porter-handL')! * 16;
    expect(apart(at(moved).world.slice(slot, slot + 16), wanted).metres).toBeLessThan(1e-9);
    expect(apart(at(moved).world.slice(slot, slot + 16), wanted).degrees).toBeLessThan(1e-6);
  });
});

describe('deformers of a rig', () => {
  const points = (shot: Shot, mesh: number): Float64Array => {
    const frame = at(shot);
    const placed = frame.layout.rigs[0];
    const out = new Float64Array(placed.compiled.rig.meshes[mesh].positions.length);
    const matrices = new Float64Array(placed.compiled.rig.joints.length * 16);
    writeSkinMatrices(frame, placed, matrices);
    skinPoints(frame, placed, mesh, matrices, out);
    return out;
  };
  const bent = (kind: 'squash' | 'twist', channel: string, value: number) => {
    const shot = shotWith('sack');
    const deformer = newDeformer(shot.members.at('sack'), kind);
    const with1 = addDeformer.apply(shot, { id: 'sack', deformer });
    return withValues(with1, { [`sack.deform.${deformer.id}.${channel}`]: value });
  };

  test('squash it whole: its height by as much as is said, its volume kept', () => {
    const [still, squashed] = [points(shotWith('sack'), 0), points(bent('squash', 'length', 0.8), 0)];
    const reach = (p: Float64Array, c: number) => {
      const all = Array.from({ length: p.length / 3 }, (_, i) => p[i * 3 + c]);
      return Math.max(...all) - Math.min(...all);
    };
    expect(reach(squashed, 1) / reach(still, 1)).toBeCloseTo(0.8, 6);
    expect((reach(squashed, 0) * reach(squashed, 2)) / (reach(still, 0) * reach(still, 2))).toBeCloseTo(1 / 0.8, 6);
  });

  test('twist it point by point, wherever it stands: every point keeps its height and its distance from the middle', () => {
    const twisted = bent('twist', 'angle', 0.9);
    const [still, moved] = [points(shotWith('sack'), 0), points(withValues(twisted, { 'sack.move.x': 3 }), 0)];
    let furthest = 0;
    for (let p = 0; p < still.length; p += 3) {
      // Bent point by point it is made in its own space: where it stands does not show.
      expect(moved[p + 1]).toBeCloseTo(still[p + 1], 9);
      expect(Math.hypot(moved[p], moved[p + 2])).toBeCloseTo(Math.hypot(still[p], still[p + 2]), 9);
      furthest = Math.max(furthest, Math.hypot(moved[p] - still[p], moved[p + 2] - still[p + 2]));
    }
    expect(furthest).toBeGreaterThan(0.01);
  });
});

function withKeys(shot: Shot, path: string, from: number, to: number): Shot {
  const first = changeChannels.apply(shot, { frame: 1, values: { [path]: from }, autoKey: 'every' });
  return changeChannels.apply(first, { frame: 20, values: { [path]: to }, autoKey: 'every' });
}

describe('the outline of a joint', () => {
  test('holds the joint’s own body', () => {
    const porter = rigs.find((r) => r.id === 'porter')!;
    const compiled = compileRig(porter);
    const outline = jointOutlines(compiled)[compiled.jointAt.get('footL')!];
    const lowest = Math.min(...Array.from({ length: outline.length / 3 }, (_, i) => outline[i * 3 + 1]));
    // The sole is as far under the ankle as the ankle is above the floor.
    expect(lowest).toBeCloseTo(-0.085, 2);
  });
});
