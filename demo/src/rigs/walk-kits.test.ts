import {
  addClip,
  addMember,
  applyRecipe,
  CurveReader,
  clipAtWork,
  cook,
  copiesOf,
  duplicateMembers,
  findingsOf,
  footfallOf,
  holdFeet,
  isUntouched,
  moveClip,
  type NumberCurve,
  newClip,
  newMember,
  Program,
  putPose,
  type Recipe,
  removeMembers,
  resizeClip,
  type SeenFootfall,
  type Shot,
  setTravel,
  Table,
  takeVersion,
  varyClip,
  wayOver,
} from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { gaitSettings, withGait } from '../walking.ts';
import { porterPoses } from './poses/porter.ts';
import { jointPlace, shotWith } from './testing.ts';

type Settings = Recipe['settings'];

const walking = (rig: string, choices: Settings = {}, dials: Settings = {}, travelling = false): Shot => {
  const shot = shotWith(rig);
  return withGait(shot, rig, { name: 'Walk', settings: gaitSettings(shot, rig, choices, dials), travelling });
};
const oneRound = (shot: Shot, rig: string): Shot => {
  const { first, length } = clipAtWork(shot, rig)!;
  const span = { first, last: first + length };
  return { ...shot, range: span, play: span };
};
const cooked = (shot: Shot, kit: string, member: string, settings: Settings): Shot =>
  applyRecipe.apply(shot, { recipe: { id: `r-${kit}`, kit, member, settings, written: {} }, replace: true });

/** Where a control is in every frame of the cycle, and how it is turned there: 16 numbers a frame. */
function motionOf(shot: Shot, rig: string, control: string): Float64Array[] {
  const program = new Program(shot);
  const frame = program.createFrame();
  const slot = program.layout.slotOf.get(`${rig}-${control}`)!;
  return Array.from({ length: clipAtWork(shot, rig)!.length }, (_, i) => {
    program.evaluate(1 + i, frame);
    return frame.world.slice(slot * 16, slot * 16 + 16);
  });
}
const spread = (values: number[]) => Math.max(...values) - Math.min(...values);

describe('steady', () => {
  test.each([0, 20, 55])('leaves %s %% of a head’s movement, within two per cent', (left) => {
    const loose = walking('goat', {}, { steady: 0, bob: 6 });
    // A head that goes along with the chest altogether: no keys of its own.
    const free = {
      ...loose,
      curves: loose.curves.filter((_, p) => !p.startsWith('goat-head.')),
      recipes: Table.empty<Recipe>(),
    };
    const before = motionOf(free, 'goat', 'head');
    const after = motionOf(cooked(free, 'steady', 'goat-head', { what: 'both', left }), 'goat', 'head');
    for (const c of [13, 14]) {
      const was = spread(before.map((m) => m[c]));
      if (was > 0.004) expect(spread(after.map((m) => m[c])) / was).toBeCloseTo(left / 100, 1.7);
    }
    // How far the way it faces goes up and down.
    expect(spread(after.map((m) => m[9])) / spread(before.map((m) => m[9]))).toBeCloseTo(left / 100, 1.5);
  });

  test('keeps a facing and leaves the place alone where only that is asked for', () => {
    const loose = walking('goat', {}, { steady: 0 });
    const before = motionOf(loose, 'goat', 'head');
    const after = motionOf(cooked(loose, 'steady', 'goat-head', { what: 'facing', left: 0 }), 'goat', 'head');
    for (const [i, m] of before.entries()) expect(after[i][13]).toBeCloseTo(m[13], 9);
  });
});

describe('counter', () => {
  test('turns the chest against the hips by a share, so many frames later', () => {
    const plain = walking('porter');
    const shot = {
      ...plain,
      curves: plain.curves.filter((_, p) => !p.startsWith('porter-chest.')),
      recipes: Table.empty<Recipe>(),
    };
    const done = cooked(shot, 'counter', 'porter-chest', { against: 'hips', share: 80, lag: 2 });
    const hips = new CurveReader(done.curves.get('porter-hips.turn.y') as NumberCurve);
    const chest = new CurveReader(done.curves.get('porter-chest.turn.y') as NumberCurve);
    for (let f = 1; f < 25; f += 0.5) expect(chest.at(f + 2)).toBeCloseTo(-0.8 * hips.at(f), 9);
  });
});

describe('the gait kit', () => {
  test('is adjustable: new dials replace its keys, a hand’s key stays', () => {
    const shot = walking('porter');
    const recipe = shot.recipes.values()[0];
    const taller = applyRecipe.apply(shot, {
      recipe: { ...recipe, settings: { ...recipe.settings, lift: 20 } },
      replace: false,
    });
    expect(taller.recipes.keys()).toEqual(shot.recipes.keys());
    const peak = (s: Shot) =>
      Math.max(...(s.curves.get('porter-footL.move.y') as NumberCurve).keys.map((k) => k.value));
    expect(peak(taller)).toBeGreaterThan(peak(shot) * 1.5);
    const back = applyRecipe.apply(taller, { recipe, replace: false });
    expect(back.curves).toEqual(shot.curves);
  });

  test('writes over a walk by hand altogether, where that is asked for', () => {
    const empty = addClip.apply(shotWith('porter'), { clip: newClip(shotWith('porter'), 'porter', { id: 'walk' }) });
    const byHand = ['Contact', 'Down', 'Passing', 'Up'].reduce((shot, name, i) => {
      const pose = porterPoses().find((p) => p.name === name)!.values;
      const how = { rig: 'porter', pose, frame: 1 + i * 3, share: 1, name, autoKey: 'every', key: true } as const;
      return putPose.apply(shot, how);
    }, empty);
    const seen = footfallOf(byHand, clipAtWork(byHand, 'porter')!) as SeenFootfall;
    const held = holdFeet.apply(byHand, { id: 'walk', ...seen });
    expect(findingsOf(oneRound(held, 'porter')).map((f) => f.text)).toEqual([]);
    const settings = gaitSettings(held, 'porter', { character: 'heavy' }, { limp: -60 });
    const recipe: Recipe = { id: 'gait', kit: 'gait', member: 'porter', settings, written: {} };
    expect(cook(held, recipe, false).inTheWay).toBeGreaterThan(200);
    const limping = applyRecipe.apply(held, { recipe, replace: true });
    expect(findingsOf(oneRound(limping, 'porter')).map((f) => f.text)).toEqual([]);
    for (const [path, keys] of Object.entries(limping.recipes.at('gait').written))
      expect((limping.curves.get(path) as NumberCurve).keys.length, path).toBe(keys.length);
  });

  test('knows its keys again where the clip begins on another frame', () => {
    const shot = moveClip.apply(walking('porter'), { id: 'porter-gait', first: 40 });
    const [recipe] = shot.recipes.values();
    for (const [path, curve] of shot.curves.entries())
      for (const key of (curve as NumberCurve).keys) expect(isUntouched(shot.recipes, path, key)).toBe(true);
    expect(applyRecipe.apply(shot, { recipe, replace: false }).curves).toEqual(shot.curves);
  });

  test('a limp stands shorter on the sore foot, and everything still holds', () => {
    const shot = walking('porter', { character: 'heavy' }, { limp: 70 });
    const clip = clipAtWork(shot, 'porter')!;
    const down = (foot: string) => clip.stances[foot][0].to - clip.stances[foot][0].from;
    expect(clip.halves).toBe('free');
    expect(down('footR')).toBeLessThan(down('footL') * 0.85);
    expect(findingsOf(oneRound(shot, 'porter')).map((f) => f.text)).toEqual([]);
  });

  test('refuses what has no legs, with a sentence', () => {
    const sack = shotWith('sack');
    expect(cooked(sack, 'gait', 'sack', {})).toBe(sack);
  });
});

describe('rounds that differ', () => {
  const varied = (seed: number) =>
    varyClip.apply(walking('porter'), {
      id: 'porter-gait',
      copy: 'varied',
      name: 'Varied',
      how: { times: 3, amount: 0.15, seed },
    });

  test('are no two alike, the same for the same seed, and stand on the same ground', () => {
    const shot = varied(4);
    const clip = clipAtWork(shot, 'porter')!;
    expect([clip.id, clip.length, clip.halves]).toEqual(['varied', 72, 'free']);
    const hips = (shot.curves.get('porter-hips.turn.z') as NumberCurve).keys.map((k) => k.value);
    expect(new Set(hips).size).toBe(hips.length - 1);
    expect(varied(4).curves).toEqual(shot.curves);
    expect(varied(5).curves).not.toEqual(shot.curves);
    const faults = findingsOf(oneRound(shot, 'porter')).filter((f) => f.check !== 'hipsTiming');
    expect(faults.map((f) => f.text)).toEqual([]);
  });
});

describe('a cycle over the stage', () => {
  /** Joints of both feet that touch the ground through a stance, with how far they slip while it is flat. */
  function slips(shot: Shot, rig: string, joints: readonly [string, string], rounds: number): number {
    const program = new Program(shot);
    const frame = program.createFrame();
    const { stances, length, first } = clipAtWork(shot, rig)!;
    let worst = 0;
    for (const [foot, joint] of Object.entries({ footL: joints[0], footR: joints[1] })) {
      for (let n = 0; n < rounds; n++) {
        const { from, to } = stances[foot][0];
        // From where the heel is down to before the toe is rolled over.
        const flat = Array.from({ length: 6 }, (_, i) => {
          program.evaluate(first + n * length + from + (to - from) * (0.3 + i * 0.09), frame);
          return jointPlace(frame, rig, joint);
        });
        for (const p of flat) worst = Math.max(worst, Math.hypot(...p.map((v, c) => v - flat[0][c])));
      }
    }
    return worst;
  }

  test('gets as far as its travel, wherever it stands and whichever way it faces', () => {
    const shot = walking('porter', {}, {}, true);
    const clip = clipAtWork(shot, 'porter')!;
    const program = new Program(shot);
    const frame = program.createFrame();
    program.evaluate(1, frame);
    const from = jointPlace(frame, 'porter', 'hips');
    program.evaluate(1 + 3 * clip.length, frame);
    const to = jointPlace(frame, 'porter', 'hips');
    expect(to[2] - from[2]).toBeCloseTo(3 * clip.travel, 9);
    expect(slips(shot, 'porter', ['toesL', 'toesR'], 4)).toBeLessThan(1e-6);
  });

  test('along a bent way every foot stands where it is put, and the body stays on the way', () => {
    const straight = walking('porter', {}, {}, true);
    const way = wayOver(
      straight,
      [
        [0, 0, 0],
        [0.6, 0, 2],
        [2.4, 0, 3],
        [4.5, 0, 2.2],
      ],
      1,
    );
    const shot = setTravel.apply(straight, { id: 'porter-gait', change: { way } });
    expect(slips(shot, 'porter', ['toesL', 'toesR'], 3)).toBeLessThan(2e-5);
    const program = new Program(shot);
    const frame = program.createFrame();
    for (let f = 1; f <= 90; f += 4) {
      program.evaluate(f, frame);
      const [x, , z] = jointPlace(frame, 'porter', 'hips');
      const far = Math.min(...Array.from({ length: 400 }, (_, i) => i / 80).map((d) => near(way.points, x, z, d)));
      expect(far).toBeLessThan(0.35);
    }
  });

  test('up a flight of steps each foot stands on a tread, and up a ramp on the slope', () => {
    for (const [kind, shape, turn] of [
      ['steps', { count: 5, tread: 0.5, rise: 0.16, depth: 2 }, Math.PI],
      ['wedge', { width: 4, height: 0.6, depth: 2 }, Math.PI],
    ] as const) {
      const flat = walking('porter', {}, { stride: 56 }, true);
      const set = newMember(flat, { kind, id: 'up', shape, values: { 'move.x': 2.4, 'turn.y': turn } });
      const staged = addMember.apply(flat, { member: set });
      const way = wayOver(
        staged,
        [
          [-1.5, 0, 0],
          [1, 0, 0],
          [5, 0, 0],
        ],
        1,
      );
      const shot = setTravel.apply(staged, { id: 'porter-gait', change: { way } });
      expect(Math.max(...way.ground.map(([, y]) => y))).toBeGreaterThan(0.5);
      expect(slips(shot, 'porter', ['toesL', 'toesR'], 4)).toBeLessThan(2e-5);
      const program = new Program(shot);
      const frame = program.createFrame();
      const { stances, length } = clipAtWork(shot, 'porter')!;
      for (let n = 0; n < 4; n++) {
        for (const [foot, joint] of [
          ['footL', 'toesL'],
          ['footR', 'toesR'],
        ] as const) {
          const { from, to } = stances[foot][0];
          program.evaluate(1 + n * length + (from + to) / 2, frame);
          const [x, y] = jointPlace(frame, 'porter', joint);
          const ground = heightUnder(way, x + 1.5);
          // The joint is 24 mm above its sole.
          expect(y - ground, `${kind} ${foot} ${n}`).toBeGreaterThan(0.019);
          expect(y - ground, `${kind} ${foot} ${n}`).toBeLessThan(0.029);
        }
      }
    }
  });

  test.each([
    ['up a flight of steps', 'steps', { count: 5, tread: 0.5, rise: 0.16, depth: 2 }, [-1.5, 2.2]],
    ['down it', 'steps', { count: 5, tread: 0.5, rise: 0.16, depth: 2 }, [2.2, -1.5]],
    ['up a ramp', 'wedge', { width: 4, height: 0.6, depth: 2 }, [-1.5, 3.2]],
    ['down it', 'wedge', { width: 4, height: 0.6, depth: 2 }, [3.2, -1.5]],
  ] as const)('%s, on %s, the body is where its legs reach the ground', (_, kind, shape, [from, to]) => {
    const flat = walking('porter', {}, { stride: 56 }, true);
    const set = newMember(flat, { kind, id: 'way', shape, values: { 'move.x': 2.4, 'turn.y': Math.PI } });
    const staged = addMember.apply(flat, { member: set });
    const points = [from, (from + to) / 2, to].map((x) => [x, 0, 0] as const);
    const shot = setTravel.apply(staged, { id: 'porter-gait', change: { way: wayOver(staged, points, 1) } });
    const { travel, length } = clipAtWork(shot, 'porter')!;
    const last = Math.floor((Math.abs(to - from) / travel - 0.5) * length);
    const walked = { ...shot, range: { first: 1, last }, play: { first: 1, last } };
    expect(findingsOf(walked).map((f) => f.text)).toEqual([]);
  });

  test('slower or faster, every foot stays planted', () => {
    for (const length of [16, 36]) {
      const shot = resizeClip.apply(walking('porter', {}, {}, true), { id: 'porter-gait', length });
      expect(slips(shot, 'porter', ['toesL', 'toesR'], 3)).toBeLessThan(1e-6);
    }
  });
});

/** How far a place is from a point of a chain of straight lines, `d` of the way along. */
function near(points: readonly (readonly [number, number, number])[], x: number, z: number, d: number): number {
  let left = d;
  for (let i = 0; i + 1 < points.length; i++) {
    const [a, b] = [points[i], points[i + 1]];
    const length = Math.hypot(b[0] - a[0], b[2] - a[2]);
    if (left <= length) {
      const t = left / length;
      return Math.hypot(a[0] + (b[0] - a[0]) * t - x, a[2] + (b[2] - a[2]) * t - z);
    }
    left -= length;
  }
  return Number.POSITIVE_INFINITY;
}

/** The height of a way's ground so far along it. */
function heightUnder({ ground }: ReturnType<typeof wayOver>, d: number): number {
  const i = ground.findIndex(([at]) => at >= d);
  if (i <= 0) return ground[Math.max(0, i)][1];
  const [a, b] = [ground[i - 1], ground[i]];
  return a[1] + ((b[1] - a[1]) * (d - a[0])) / (b[0] - a[0] || 1);
}

describe('clips and their rigs', () => {
  test('a rig that is deleted takes its clips along', () => {
    const shot = walking('porter');
    expect(removeMembers.apply(shot, { ids: ['porter'] }).clips.toJSON()).toEqual({});
  });

  test('a rig that is duplicated walks in a clip of its own', () => {
    const shot = walking('porter');
    const copies = copiesOf(shot, ['porter']);
    const two = duplicateMembers.apply(shot, { ids: ['porter'], copies });
    const own = clipAtWork(two, copies.porter)!;
    expect(own.id).not.toBe('porter-gait');
    expect(own.stances).toEqual(clipAtWork(two, 'porter')!.stances);
  });

  test('a rig taken in another version keeps walking', () => {
    const shot = walking('porter');
    const older = takeVersion.apply(shot, { id: 'porter', version: 1 });
    expect(clipAtWork(older, 'porter')!.length).toBe(24);
    expect(older.curves.size).toBe(shot.curves.size);
  });
});
