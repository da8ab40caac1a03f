import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type NumberCurve, valueAt } from '../curve/index.ts';
import { emptyShot, type Formula, type Shot } from '../document/index.ts';
import {
  addMember,
  bakeFormulas,
  duplicateMembers,
  newMember,
  perform,
  removeFormulas,
  removeMembers,
  renameMember,
  setFormula,
} from '../edit/index.ts';
import { frameOf, Program } from '../evaluate/index.ts';
import { formulaProblem, parseShot } from '../parse/index.ts';
import { Rigs } from '../rig/rigs.ts';
import { Table } from '../table/table.ts';
import { envOf } from './functions.ts';
import { compileFormula, fittedText, formulaFunctions, functionByName } from './index.ts';
import { numberText, withArgument } from './text.ts';

const env = envOf({ rate: 24, first: 1, last: 48 }, [{ at: (t: number) => t * 2 }, { at: () => 5 }]);
env.frame = 7;
env.keyed = 2;
env.values.set([3, 4]);
const value = (text: string, frame = 7): number => {
  const made = compileFormula(text, ['a', 'b']);
  if (!made.ok) throw new Error(made.problem.sentence);
  return made.formula.run({ ...env, frame });
};
const problem = (text: string) => {
  const made = compileFormula(text, ['a', 'b']);
  return made.ok ? null : made.problem;
};

const formula = (text: string, inputs: Formula['inputs'] = [], mode: Formula['mode'] = 'instead'): Formula => ({
  text,
  inputs,
  mode,
});
const base = ['ball', 'lamp', 'door'].reduce<Shot>(
  (shot, id) => addMember.apply(shot, { member: newMember(shot, { kind: 'ball', id, name: id }) }),
  emptyShot('s', 'S'),
);
const line = (from: number, to: number): NumberCurve => ({
  type: 'number',
  before: 'slope',
  after: 'slope',
  keys: [
    { frame: 1, value: from, in: { kind: 'linear' }, out: { kind: 'linear' }, joined: false, role: 'key' },
    { frame: 25, value: to, in: { kind: 'linear' }, out: { kind: 'linear' }, joined: false, role: 'key' },
  ],
});
const withFormula = (shot: Shot, path: string, f: Formula) => setFormula.apply(shot, { path, formula: f });
const at = (shot: Shot, member: string, channel: string, frame: number) => frameOf(shot, frame).value(member, channel);

describe('a formula computes', () => {
  test.each([
    ['1 + 2 * 3', 7],
    ['-(1 + 2) * 3', -9],
    ['a > 2 ? b : 10', 4],
    ['min(a, b, 2)', 2],
    ['clamp(9, 0, 5)', 5],
    ['mix(a, b, 0.5)', 3.5],
    ['smoothstep(0, 1, 0.5)', 0.5],
    ['mod(-1, 12)', 11],
    ['sin(90)', 1],
    ['heading(1, 1)', 45],
    ['fit(5, 0, 10, 100, 200)', 150],
    ['frame', 7],
    ['time', 0.25],
    ['keyed * 2', 4],
    ['delay(a, 3)', 8],
    ['speed(a)', 2],
    ['wave(2, 24)', 2],
    ['triangle(1, 24)', 1],
    ['saw(1, 12)', 0.5],
  ])('%s', (text, expected) => expect(value(text)).toBeCloseTo(expected, 12));

  test('every listed function can be called as its example is written, and gives a number', () => {
    for (const f of formulaFunctions)
      for (const frame of [1, 12.5, 300]) expect(value(f.example, frame), f.example).not.toBeNaN();
    expect(new Set(formulaFunctions.map((f) => f.name)).size).toBe(formulaFunctions.length);
  });

  test('noise is the same for a seed at any time and in any order, within its strength, and smooth', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 500 }),
        fc.integer({ min: -200, max: 200 }).map((v) => v / 8),
        (seed, frame) => {
          const [here, beside] = [value(`noise(2, 8, ${seed})`, frame), value(`noise(2, 8, ${seed})`, frame + 1e-4)];
          expect(value(`noise(2, 8, ${seed})`, frame)).toBe(here);
          expect(Math.abs(here)).toBeLessThanOrEqual(2);
          expect(Math.abs(beside - here)).toBeLessThan(1e-3);
        },
      ),
    );
    expect(value('noise(1, 8, 1)', 12)).not.toBe(value('noise(1, 8, 2)', 12));
  });

  test('fitted waves and noise close to 1e-9 whatever the period and the length', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 90 }),
        fc.integer({ min: 8, max: 240 }),
        fc.integer({ min: 1, max: 60 }),
        (period, length, frame) => {
          for (const text of [`wave(3, ${period}, 2)`, `triangle(1, ${period})`, `noise(2, ${period}, 5)`]) {
            const made = compileFormula(text, []);
            if (!made.ok) throw new Error('does not compile');
            const fitted = fittedText({ text }, made.formula.calls, length);
            expect(Math.abs(value(fitted, frame) - value(fitted, frame + length)), fitted).toBeLessThan(1e-9);
            expect(
              Math.abs(value(fitted, frame + 0.37) - value(fitted, frame + 0.37 + 3 * length)),
              fitted,
            ).toBeLessThan(1e-9);
          }
        },
      ),
    );
  });

  test('a number in the text can be exchanged where it stands', () => {
    const text = 'keyed + wave(0.2, 24) * 2';
    const made = compileFormula(text, []);
    if (!made.ok) throw new Error('does not compile');
    expect(withArgument(text, made.formula.calls[0], 0, 0.35)).toBe('keyed + wave(0.35, 24) * 2');
    expect(numberText(0.1 + 0.2)).toBe('0.3');
  });
});

describe('a formula that is wrong says where', () => {
  test.each([
    ['1 +', 2, /missing/],
    ['a b', 2, /operator/],
    ['foo(1)', 0, /no function called foo/],
    ['2 * sway', 4, /nothing here is called sway/],
    ['wave(1)', 0, /wave\(strength, period, shift\)/],
    ['1 + wave', 4, /is a function/],
    ['delay(3, 1)', 6, /must be an input/],
    ['', 0, /empty/],
    ['min()', 0, /min\(a, b, …\)/],
  ])('%s', (text, place, sentence) => {
    expect(problem(text)?.at).toBe(place);
    expect(problem(text)?.sentence).toMatch(sentence);
  });

  test('nothing outside can be reached, by whatever name', () => {
    const words = [
      'constructor',
      '__proto__',
      'toString',
      'hasOwnProperty',
      'globalThis',
      'process',
      'window',
      'this',
      'Function',
      'eval',
      'require',
      'valueOf',
    ];
    for (const w of words) {
      for (const text of [
        w,
        `${w}()`,
        `${w}(1)`,
        `a.${w}`,
        `a.${w}()`,
        `a["${w}"]`,
        `min.${w}`,
        `min.${w}(1)`,
        `wave(1, 2).${w}`,
      ])
        expect(problem(text), text).not.toBeNull();
    }
    for (const text of [
      'a = 1',
      'a => a',
      '"x"',
      '`x`',
      '[1]',
      '{}',
      'a; b',
      'new Date()',
      '1, 2',
      '!a',
      '~a',
      'a && b',
      'a ?? b',
      'a++',
      '/x/',
    ])
      expect(problem(text), text).not.toBeNull();
  });

  test('hostile text is refused quickly, never hangs and never throws', () => {
    const long = [
      '('.repeat(1999),
      '-'.repeat(1999),
      `${'1+'.repeat(999)}1`,
      'a?'.repeat(900),
      `${'abs('.repeat(400)}1${')'.repeat(400)}`,
      '9'.repeat(2000),
      '1e'.repeat(900),
      `${'min(1,'.repeat(300)}1`,
    ];
    for (const text of long) expect(() => compileFormula(text, ['a'])).not.toThrow();
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), (text) => {
        const made = compileFormula(text, ['a', 'b']);
        if (made.ok) expect(typeof made.formula.run(env)).toBe('number');
        else expect(made.problem.at).toBeLessThanOrEqual(Math.max(1, text.length));
      }),
      { numRuns: 2000 },
    );
  });
});

describe('a channel with a formula', () => {
  test('has its value instead of its keys, or added to them, in the units one sees', () => {
    const keyed: Shot = { ...base, curves: Table.of({ 'ball.turn.z': line(0, Math.PI) }) };
    expect(at(withFormula(keyed, 'ball.turn.z', formula('90')), 'ball', 'turn.z', 13)).toBeCloseTo(Math.PI / 2, 12);
    expect(at(withFormula(keyed, 'ball.turn.z', formula('90', [], 'add')), 'ball', 'turn.z', 13)).toBeCloseTo(
      Math.PI,
      12,
    );
    expect(at(withFormula(keyed, 'ball.turn.z', formula('keyed / 2')), 'ball', 'turn.z', 13)).toBeCloseTo(
      Math.PI / 4,
      12,
    );
  });

  test('rolls with its travel: inputs are read in metres and degrees', () => {
    const shot: Shot = { ...base, curves: Table.of({ 'ball.move.x': line(0, 2.4) }) };
    const rolled = withFormula(
      shot,
      'ball.turn.z',
      formula('-x / 0.2 * 180 / pi', [{ name: 'x', path: 'ball.move.x' }]),
    );
    expect(at(rolled, 'ball', 'turn.z', 13)).toBeCloseTo(-1.2 / 0.2, 12);
  });

  test('one dial drives many, through others, and at other moments', () => {
    let shot: Shot = { ...base, curves: Table.of({ 'ball.move.x': line(0, 2.4) }) };
    shot = withFormula(shot, 'door.move.x', formula('delay(l, 4) + 1', [{ name: 'l', path: 'lamp.move.x' }]));
    shot = withFormula(shot, 'lamp.move.x', formula('2 * x', [{ name: 'x', path: 'ball.move.x' }]));
    expect(at(shot, 'lamp', 'move.x', 13)).toBeCloseTo(2.4, 12);
    expect(at(shot, 'door', 'move.x', 13)).toBeCloseTo(2 * 0.1 * 8 + 1, 12);
  });

  test('outlives the renaming of everybody in it, and is copied with those it reads', () => {
    let shot: Shot = { ...base, curves: Table.of({ 'ball.move.x': line(0, 2.4) }) };
    shot = withFormula(shot, 'lamp.move.x', formula('2 * x', [{ name: 'x', path: 'ball.move.x' }]));
    const renamed = renameMember.apply(shot, { id: 'ball', name: 'Something else' });
    expect(at(renamed, 'lamp', 'move.x', 13)).toBeCloseTo(2.4, 12);
    const copied = duplicateMembers.apply(shot, { ids: ['ball', 'lamp'], copies: { ball: 'ball2', lamp: 'lamp2' } });
    expect(copied.formulas.at('lamp2.move.x').inputs[0].path).toBe('ball2.move.x');
    expect(parseShot(removeMembers.apply(copied, { ids: ['ball2'] }), Rigs.none).ok).toBe(true);
  });

  test('after any edit evaluates as if compiled afresh', () => {
    const f = formula('wave(x, 12) + delay(x, 2.5)', [{ name: 'x', path: 'ball.move.x' }]);
    const program = new Program(base);
    const states: Shot[] = [
      { ...base, curves: Table.of({ 'ball.move.x': line(0, 2.4) }) },
      withFormula({ ...base, curves: Table.of({ 'ball.move.x': line(0, 2.4) }) }, 'lamp.move.y', f),
      withFormula({ ...base, curves: Table.of({ 'ball.move.x': line(1, 2) }) }, 'lamp.move.y', f),
      withFormula(
        { ...base, curves: Table.of({ 'ball.move.x': line(1, 2) }), over: Table.of({ 'ball.move.x': 3 }) },
        'lamp.move.y',
        f,
      ),
      base,
    ];
    for (const shot of states) {
      program.update(shot);
      const frame = program.createFrame();
      program.evaluate(9.5, frame);
      expect([...frame.world]).toEqual([...frameOf(shot, 9.5).world]);
    }
  });

  test('that is no number leaves the channel as it was', () => {
    const shot: Shot = { ...base, curves: Table.of({ 'ball.move.x': line(0, 2.4) }) };
    for (const text of ['1 / 0', '0 / 0', 'log(-1)', 'exp(9999)'])
      expect(at(withFormula(shot, 'ball.move.x', formula(text)), 'ball', 'move.x', 13)).toBeCloseTo(1.2, 12);
  });

  test('turned into keys moves as it did, within the tolerance, in one step that can be undone', () => {
    const shot = withFormula(
      { ...base, range: { first: 1, last: 96 }, play: { first: 1, last: 96 } },
      'ball.move.y',
      formula('wave(0.5, 24) + frame / 48'),
    );
    const baked = perform(shot, bakeFormulas, { paths: ['ball.move.y'], tolerance: 0.001 })!.shot;
    expect(baked.formulas.toJSON()).toEqual({});
    const curve = baked.curves.get('ball.move.y') as NumberCurve;
    expect(curve.keys.length).toBeLessThan(40);
    for (let f = 1; f <= 96; f++)
      expect(Math.abs(valueAt(curve, f) - at(shot, 'ball', 'move.y', f)!)).toBeLessThan(0.0011);
    expect(removeFormulas.apply(shot, { paths: ['ball.move.y'] }).formulas.toJSON()).toEqual({});
  });
});

describe('formulas that read one another', () => {
  const x = (path: string): Formula => formula('i + 1', [{ name: 'i', path }]);

  test('in a ring are refused with everybody’s name, and nothing changes', () => {
    const shot = withFormula(withFormula(base, 'lamp.move.x', x('ball.move.x')), 'door.move.x', x('lamp.move.x'));
    const said = formulaProblem(shot, 'ball.move.x', x('door.move.x'));
    for (const name of ['ball', 'lamp', 'door']) expect(said?.sentence).toContain(name);
    expect(withFormula(shot, 'ball.move.x', x('door.move.x'))).toBe(shot);
    expect(withFormula(shot, 'ball.move.x', x('ball.move.x'))).toBe(shot);
  });

  test('in a ring are refused in a document from outside, with the place', () => {
    const parsed = parseShot(
      {
        ...base,
        formulas: { 'ball.move.x': x('lamp.move.x'), 'lamp.move.x': x('ball.move.x') },
      },
      Rigs.none,
    );
    expect(parsed.ok).toBe(false);
    if (!parsed.ok) expect(parsed.problems[0]).toMatchObject({ sentence: expect.stringMatching(/circle/) });
  });

  test('many times over at other moments are refused before they could hang', () => {
    let shot = base;
    const inputs = (path: string) => Array.from({ length: 20 }, (_, i) => ({ name: `i${i}`, path }));
    const sum = Array.from({ length: 20 }, (_, i) => `delay(i${i}, 1)`).join(' + ');
    const channels = ['move.x', 'move.y', 'move.z', 'turn.x', 'turn.y', 'turn.z', 'size.x'];
    let refused = false;
    for (let i = 1; i < channels.length; i++) {
      const next = withFormula(shot, `ball.${channels[i]}`, formula(sum, inputs(`ball.${channels[i - 1]}`)));
      if (next === shot) refused = true;
      shot = next;
    }
    expect(refused).toBe(true);
    frameOf(shot, 5);
  });

  test('in a document from outside must be readable: the sentence names the character', () => {
    const parsed = parseShot({ ...base, formulas: { 'ball.move.x': formula('1 + sway') } }, Rigs.none);
    expect(parsed.ok).toBe(false);
    if (!parsed.ok) expect(parsed.problems[0].sentence).toMatch(/character 5/);
  });
});

test('functions are found by their names', () => {
  expect(functionByName.get('wave')?.form).toBe('wave(strength, period, shift)');
});
