import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type BounceRow, bounceTable } from '../bounce/index.ts';
import { CurveReader, type NumberCurve } from '../curve/index.ts';
import type { RecipeSettings, Shot } from '../document/index.ts';
import { moveKeys, removeKeys, setKeyValue } from '../edit/index.ts';
import { Program, shapeMatrix } from '../evaluate/index.ts';
import { Ground, type Touch } from '../ground/index.ts';
import { Table } from '../table/table.ts';
import { ball, RADIUS, shotWith, slope, stairs, withKit } from '../testing/sets.ts';
import { removeRecipe } from './commands.ts';
import { cook, isUntouched, kits } from './index.ts';
import { swingsTo } from './settle.ts';

const drop = (settings: RecipeSettings = {}, shot = shotWith(ball())) =>
  withKit(shot, 'bounce', { from: 1, height: 1, material: 'own', liveliness: 0.8, ...settings });

const rowsOf = (shot: Shot): BounceRow[] => bounceTable(shot, 'ball.move.y').flat();

/** How the ball stands to the ground at a frame. */
function touchAt(shot: Shot): (time: number) => Touch {
  const program = new Program(shot);
  const frame = program.createFrame();
  const ground = new Ground(shot);
  return (time) => {
    program.evaluate(time, frame);
    return ground.touch(frame, 'ball')!;
  };
}

const liveliness = fc.integer({ min: 30, max: 90 }).map((v) => v / 100);
const height = fc.integer({ min: 10, max: 400 }).map((v) => v / 100);

describe('the bounce kit', () => {
  test('follows the closed form of a falling body: heights by the square of its liveliness, times by it', () => {
    fc.assert(
      fc.property(liveliness, height, (e, h) => {
        const shot = drop({ liveliness: e, height: h, whole: false });
        const g = 9.81 / (24 * 24);
        const fall = Math.sqrt((2 * h) / g);
        let at = 1 + fall;
        // Bounces lower than a hundredth of the first are not told apart from ripples.
        const seen = rowsOf(shot).filter((row) => row.contact.fall.height > h * 0.01);
        expect(seen.length).toBeGreaterThan(0);
        seen.forEach((row, n) => {
          expect(row.contact.frame).toBeCloseTo(at, 5);
          expect(-row.contact.arrive).toBeCloseTo(Math.sqrt(2 * g * h) * e ** n, 3);
          expect(row.contact.fall.height).toBeCloseTo(h * e ** (2 * n), 6);
          if (row.height !== null && row.height > h * 0.01) expect(row.height / h).toBeCloseTo(e ** (2 * (n + 1)), 6);
          at += 2 * fall * e ** (n + 1);
        });
      }),
      { numRuns: 60 },
    );
  });

  test('lands on whole frames with one gravity for every bounce, each shorter than the last', () => {
    fc.assert(
      fc.property(liveliness, height, (e, h) => {
        const rows = rowsOf(drop({ liveliness: e, height: h }));
        for (const row of rows) {
          expect(row.contact.frame % 1).toBe(0);
          if (row.gravity !== null) expect(row.gravity / rows[0].gravity!).toBeCloseTo(1, 6);
          if (row.height !== null) expect(row.ratio!).toBeLessThan(1);
          // The fall is the height asked for, to the last digit.
          expect(Math.abs(row.gap!)).toBeLessThan(1e-9);
        }
        expect(rows[0].contact.fall.height).toBeCloseTo(h, 9);
      }),
      { numRuns: 60 },
    );
  });

  test('is a parabola at every quarter frame of a flight', () => {
    const rows = rowsOf(drop());
    const reader = new CurveReader(drop().curves.get('ball.move.y') as NumberCurve);
    const { contact } = rows[0];
    const g = rows[0].gravity! / (24 * 24);
    const up = (g * (contact.rise!.frames + rows[0].framesDown!)) / 2;
    for (let t = 0; t <= contact.rise!.frames + rows[0].framesDown!; t += 0.25) {
      expect(reader.at(contact.frame + t)).toBeCloseTo(RADIUS + up * t - (g * t * t) / 2, 9);
    }
  });

  test.each(['rubber', 'cork', 'wood', 'iron', 'sand'])(
    '%s rebounds as lively as it should, and then lies',
    (material) => {
      const shot = drop({ material, height: 2, whole: false });
      const [first] = rowsOf(shot);
      const e = { rubber: 0.85, cork: 0.65, wood: 0.5, iron: 0.3, sand: 0.08 }[material]!;
      const ratio = first?.ratio ?? 0;
      if (material === 'sand') expect(ratio).toBeLessThan(0.01);
      else expect(ratio).toBeCloseTo(e * e, 6);
      const last = shot.curves.at('ball.move.y').keys.at(-1)!;
      expect(last.value).toBeCloseTo(RADIUS, 9);
    },
  );

  test('a number of bounces is that number', () => {
    const rows = rowsOf(drop({ untilItLies: false, bounces: 2 }));
    expect(rows.filter((r) => r.height !== null)).toHaveLength(2);
  });

  test('goes down steps: every landing on its tread, and never into one', () => {
    for (const speed of [1, 1.4, 1.9, 2.6]) {
      for (const material of ['rubber', 'cork', 'wood']) {
        const shot = drop(
          { material, height: 0.6, speed, rolls: 40 },
          shotWith(stairs, ball({ 'move.x': 0.1, 'move.y': 1.5 })),
        );
        const touch = touchAt(shot);
        const rows = rowsOf(shot);
        expect(rows.length).toBeGreaterThan(2);
        for (const row of rows) expect(Math.abs(row.gap!)).toBeLessThan(1e-3);
        const end = shot.curves.at('ball.move.x').keys.at(-1)!.frame;
        for (let f = 1; f <= end; f++) expect(touch(f).gap).toBeGreaterThan(-1e-3);
      }
    }
  });

  test('bounces off a slope down it, touching it within a millimetre at every landing', () => {
    const shot = drop(
      { material: 'wood', height: 0.5, rolls: 40 },
      shotWith(slope, ball({ 'move.x': 0, 'move.y': 3 })),
    );
    const touch = touchAt(shot);
    const table = bounceTable(shot, 'ball.move.y').flat();
    expect(table.length).toBeGreaterThan(0);
    const keys = shot.curves.at('ball.move.x').keys;
    expect(Number(keys.at(-1)!.value)).toBeGreaterThan(1);
    for (const { frame } of keys.slice(1)) expect(Math.abs(touch(frame).gap)).toBeLessThan(1e-3);
  });

  test('rolls off an edge and falls on', () => {
    const quay = { kind: 'box' as const, id: 'quay', name: 'Quay', shape: { width: 2, height: 0.8, depth: 2 } };
    const shot = drop({ height: 0, speed: 1.5, rolls: 60, material: 'cork' }, shotWith(quay, ball({ 'move.y': 1 })));
    const reader = new CurveReader(shot.curves.get('ball.move.y') as NumberCurve);
    expect(reader.at(5)).toBeCloseTo(0.8 + RADIUS, 9);
    expect(reader.at(200)).toBeCloseTo(RADIUS, 9);
    expect(rowsOf(shot).length).toBeGreaterThan(1);
  });

  test('what already lies, and is given neither height nor speed, is left alone with a sentence', () => {
    const shot = shotWith(ball());
    const result = cook(
      shot,
      { id: 'r', kit: 'bounce', member: 'ball', settings: { height: 0, speed: 0 }, written: {} },
      false,
    );
    expect(result.problem).toMatch(/lies on the ground/);
    expect(result.shot).toBe(shot);
  });
});

describe('the roll kit', () => {
  /** The most a ball's lowest point slides in any quarter frame, and over all, in metres. */
  function slip(shot: Shot): { total: number } {
    const x = new CurveReader(shot.curves.get('ball.move.x') as NumberCurve);
    const y = new CurveReader(shot.curves.get('ball.move.y') as NumberCurve);
    const turn = new CurveReader(shot.curves.get('ball.turn.z') as NumberCurve);
    const touch = touchAt(shot);
    let total = 0;
    for (let f = 1; f < 239; f += 0.25) {
      if (Math.abs(touch(f).gap) > 1e-4 || Math.abs(touch(f + 0.25).gap) > 1e-4) continue;
      if (Math.abs(touch(f).normal[0] - touch(f + 0.25).normal[0]) > 1e-6) continue;
      const way = Math.sign(x.at(f + 0.25) - x.at(f)) * Math.hypot(x.at(f + 0.25) - x.at(f), y.at(f + 0.25) - y.at(f));
      total += Math.abs(way + RADIUS * (turn.at(f + 0.25) - turn.at(f)));
    }
    return { total };
  }

  test('rolls without slip to a tenth of a millimetre over the shot, down steps and out on the floor', () => {
    const shot = withKit(
      drop(
        { material: 'cork', height: 0.6, speed: 1.6, rolls: 48 },
        shotWith(stairs, ball({ 'move.x': 0.1, 'move.y': 1.5 })),
      ),
      'roll',
    );
    expect(slip(shot).total).toBeLessThan(1e-4);
  });

  test('rolls without slip on a slope as well, and on the floor after it', () => {
    const shot = withKit(
      drop({ height: 0, material: 'wood', rolls: 60 }, shotWith(slope, ball({ 'move.x': 0, 'move.y': 3 }))),
      'roll',
    );
    expect(slip(shot).total).toBeLessThan(1e-4);
  });

  test('rolls at a slant about the axis across its way', () => {
    const shot = withKit(drop({ height: 0.5, speed: 1.5, heading: 30 }), 'roll');
    const program = new Program(shot);
    const [before, after] = [program.createFrame(), program.createFrame()];
    const last = shot.curves.at('ball.move.x').keys.at(-1)!.frame;
    program.evaluate(last - 8, before);
    program.evaluate(last - 7, after);
    const way = [12, 14].map((i) => after.world[i] - before.world[i]);
    // The point that is lowest before: it must hardly move but for being lifted by its own circle.
    const lowest = [0, 1, 2].map((c) => -RADIUS * before.world[c * 4 + 1]);
    const point = (world: Float64Array) =>
      [0, 1, 2].map((r) => lowest.reduce((s, v, c) => s + world[c * 4 + r] * v, world[12 + r]));
    const [p, q] = [point(before.world), point(after.world)];
    const angle = Math.hypot(...way) / RADIUS;
    const cycloid = RADIUS * (angle - Math.sin(angle));
    expect(Math.hypot(q[0] - p[0], q[2] - p[2])).toBeCloseTo(cycloid, 6);
  });

  test('says why it does not roll what is no ball, does not go anywhere, or bends', () => {
    const told = (shot: Shot, member = 'ball') =>
      cook(shot, { id: 'r', kit: 'roll', member, settings: { from: 1, to: 20 }, written: {} }, false).problem;
    expect(told(shotWith(ball()))).toMatch(/nowhere/);
    expect(told(shotWith(stairs), 'stairs')).toMatch(/Only a ball/);
  });
});

describe('squash from speed', () => {
  const squashed = withKit(
    drop(
      { material: 'rubber', height: 1.2, speed: 1.2, rolls: 24 },
      shotWith(stairs, ball({ 'move.x': 0.1, 'move.y': 1.5 })),
    ),
    'squash',
  );

  test('squashes at contact and not before it, stretches beside it, and is round at the top', () => {
    const length = new CurveReader(squashed.curves.get('ball.deform.speed.length') as NumberCurve);
    const rows = rowsOf(squashed);
    const [first] = rows;
    expect(Math.min(...rows.map((r) => length.at(r.contact.frame)))).toBeCloseTo(0.78, 6);
    expect(length.at(first.contact.frame)).toBeLessThan(0.9);
    expect(length.at(first.contact.frame - 1)).toBeGreaterThan(1.05);
    expect(length.at(first.contact.frame + 1)).toBeGreaterThan(1.02);
    expect(length.at(first.contact.rise!.top)).toBeCloseTo(1, 6);
  });

  test('leaves the contacts touching within a millimetre and the volume within a tenth of a percent', () => {
    const touch = touchAt(squashed);
    for (const row of rowsOf(squashed)) expect(Math.abs(touch(row.contact.frame).gap)).toBeLessThan(1e-3);
    const program = new Program(squashed);
    const frame = program.createFrame();
    const m = new Float64Array(16);
    for (let f = 1; f < 120; f += 0.5) {
      program.evaluate(f, frame);
      shapeMatrix(frame, frame.layout.slotOf.get('ball')!, m);
      const volume =
        m[0] * (m[5] * m[10] - m[9] * m[6]) - m[4] * (m[1] * m[10] - m[9] * m[2]) + m[8] * (m[1] * m[6] - m[5] * m[2]);
      expect(Math.abs(volume - 1)).toBeLessThan(1e-3);
    }
  });

  test('on a slope it squashes along the slope’s normal, and touches it', () => {
    const shot = withKit(
      drop(
        { material: 'rubber', height: 0.8, untilItLies: false, bounces: 3 },
        shotWith(slope, ball({ 'move.x': -1, 'move.y': 3 })),
      ),
      'squash',
    );
    const touch = touchAt(shot);
    const rows = rowsOf(shot);
    expect(rows.length).toBeGreaterThan(1);
    for (const row of rows) expect(Math.abs(touch(Math.round(row.contact.frame)).gap)).toBeLessThan(1e-3);
    expect(shot.curves.keys()).toContain('ball.deform.speed.lean.z');
  });
});

describe('settle, overshoot and gather', () => {
  const key = (frame: number, value: number) => ({
    frame,
    value,
    in: { kind: 'smooth' as const },
    out: { kind: 'smooth' as const },
    joined: true,
    role: 'key' as const,
  });
  const strike: Shot = {
    ...shotWith(ball()),
    curves: Table.of({
      'ball.move.x': { type: 'number', keys: [key(10, 0), key(14, 1)], before: 'hold', after: 'hold' },
    }),
  };

  test('a settle dies away evenly, to one percent, and ends at rest', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 8 }), fc.integer({ min: 10, max: 90 }), (swings, decay) => {
        const keys = swingsTo(3, 0.5, decay / 100, 20, swings, swings * 4);
        const peaks = keys.slice(0, -1).map((k) => k.value - 3);
        for (let i = 1; i < peaks.length; i++) expect(-peaks[i] / peaks[i - 1] / (decay / 100)).toBeCloseTo(1, 6);
        expect(keys.at(-1)).toMatchObject({ frame: 20 + swings * 4, value: 3 });
        // What is drawn between the peaks swings no further than they do.
        const curve: NumberCurve = { type: 'number', keys, before: 'hold', after: 'hold' };
        const reader = new CurveReader(curve);
        for (let f = 20; f <= keys.at(-1)!.frame; f += 0.25)
          expect(Math.abs(reader.at(f) - 3)).toBeLessThanOrEqual(0.5 + 1e-9);
      }),
    );
  });

  test('a settle goes on through the end of the move at speed, and past it', () => {
    const shot = withKit(strike, 'settle', { at: 14, swing: 20, swings: 3, decay: 0.5, frames: 12 });
    const reader = new CurveReader(shot.curves.get('ball.move.x') as NumberCurve);
    expect(reader.at(14.5)).toBeGreaterThan(1.03);
    expect(reader.at(16)).toBeCloseTo(1.2, 9);
    expect(reader.at(20)).toBeCloseTo(0.9, 9);
    expect(reader.at(24)).toBeCloseTo(1.05, 9);
    expect(reader.at(26)).toBeCloseTo(1, 9);
  });

  test('an overshoot goes past and comes back once', () => {
    const shot = withKit(strike, 'overshoot', { at: 14, past: 10, out: 2, back: 4 });
    const reader = new CurveReader(shot.curves.get('ball.move.x') as NumberCurve);
    expect(reader.at(16)).toBeCloseTo(1.1, 9);
    expect(reader.at(20)).toBeCloseTo(1, 9);
  });

  test('a gather draws back against the move before it begins, slower than the move', () => {
    const shot = withKit(strike, 'gather', { at: 10, back: 20, frames: 7, hold: 0 });
    const reader = new CurveReader(shot.curves.get('ball.move.x') as NumberCurve);
    expect(reader.at(3)).toBeCloseTo(0, 9);
    expect(reader.at(9)).toBeCloseTo(-0.2, 9);
    expect(reader.at(10)).toBeCloseTo(0, 9);
    expect(reader.at(14)).toBeCloseTo(1, 9);
  });

  test('a kit that finds no move says on which frame it looked', () => {
    for (const kit of ['settle', 'overshoot', 'gather']) {
      const recipe = { id: 'r', kit, member: 'ball', settings: { at: 50, channel: 'every' }, written: {} };
      expect(cook(strike, recipe, false).problem).toMatch(/50/);
    }
  });
});

describe('a recipe', () => {
  const first = drop();
  const path = 'ball.move.y';

  test('written again as it is changes nothing', () => {
    const again = cook(first, first.recipes.at('bounce'), false);
    expect(again.shot.curves).toEqual(first.curves);
    expect(again.inTheWay).toBe(0);
  });

  test('with other settings replaces its own keys and leaves the hand’s', () => {
    const second = first.curves.at(path).keys[2].frame;
    const touched = setKeyValue.apply(first, { keys: { [path]: [second] }, value: 0.777 });
    const livelier = cook(
      touched,
      { ...first.recipes.at('bounce'), settings: { ...first.recipes.at('bounce').settings, liveliness: 0.6 } },
      false,
    );
    expect(livelier.inTheWay).toBe(1);
    const kept = livelier.shot.curves.at(path).keys.find((k) => k.frame === second);
    expect(kept?.value).toBe(0.777);
    const others = livelier.shot.curves.at(path).keys.filter((k) => k.frame !== second);
    for (const k of others) expect(isUntouched(livelier.shot.recipes, path, k as never)).toBe(true);
    expect(isUntouched(livelier.shot.recipes, path, kept as never)).toBe(false);
  });

  test('a moved key is a hand’s, and the frame it left stays empty', () => {
    const { frame } = first.curves.at(path).keys[2];
    const moved = moveKeys.apply(first, { keys: { [path]: [frame] }, by: 0.5 });
    const again = cook(moved, first.recipes.at('bounce'), false);
    const frames = again.shot.curves.at(path).keys.map((k) => k.frame);
    expect(frames).toContain(frame + 0.5);
    expect(frames).not.toContain(frame);
  });

  test('a key a hand took away does not come back unasked', () => {
    const { frame } = first.curves.at(path).keys[2];
    const less = removeKeys.apply(first, { keys: { [path]: [frame] } });
    expect(
      cook(less, first.recipes.at('bounce'), false)
        .shot.curves.at(path)
        .keys.map((k) => k.frame),
    ).not.toContain(frame);
    expect(
      cook(less, first.recipes.at('bounce'), true)
        .shot.curves.at(path)
        .keys.map((k) => k.frame),
    ).toContain(frame);
  });

  test('asked to, it takes the hand’s keys within its frames away', () => {
    const hand = setKeyValue.apply(first, { keys: { [path]: [first.curves.at(path).keys[2].frame] }, value: 0.777 });
    expect(cook(hand, first.recipes.at('bounce'), true).shot.curves).toEqual(first.curves);
  });

  test('taken back it leaves the shot as it was; made plain it leaves the keys', () => {
    const before = shotWith(ball());
    expect(removeRecipe.apply(first, { id: 'bounce', keys: 'take' }).curves).toEqual(before.curves);
    const plain = removeRecipe.apply(first, { id: 'bounce', keys: 'keep' });
    expect(plain.curves).toBe(first.curves);
    expect(plain.recipes.toJSON()).toEqual({});
  });

  test('every kit has a name, a sentence, and settings that stay within their range', () => {
    for (const kit of kits) {
      expect(kit.about).toMatch(/[.]$/);
      for (const field of kit.fields) {
        if (field.kind === 'number') expect(field.start).toBeGreaterThanOrEqual(field.min);
        if (field.kind === 'number') expect(field.start).toBeLessThanOrEqual(field.max);
      }
    }
  });
});
