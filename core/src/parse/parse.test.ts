import { describe, expect, test } from 'vitest';
import { smoothKey } from '../curve/key.ts';
import type { Member } from '../document/member.ts';
import { emptyShot, type Shot } from '../document/shot.ts';
import { addMember, newMember } from '../edit/index.ts';
import { frameOf } from '../evaluate/program.ts';
import { Rigs } from '../rig/rigs.ts';
import { problemText } from '../schema/problem.ts';
import { Table } from '../table/table.ts';
import { aFilm } from '../testing/plan-edits.ts';
import { parseShot } from './parse.ts';

const curve = (...frames: number[]) => ({
  type: 'number' as const,
  keys: frames.map((f) => smoothKey(f, 0)),
  before: 'hold' as const,
  after: 'hold' as const,
});

function good(): Shot {
  let s = emptyShot('s1', 'Good');
  s = addMember.apply(s, { member: newMember(s, { kind: 'ball', id: 'a', name: 'Float' }) });
  s = addMember.apply(s, { member: newMember(s, { kind: 'box', id: 'b', parent: 'a' }) });
  return { ...s, curves: Table.of({ 'a.move.x': curve(1, 5) }) };
}

const sentences = (json: unknown): string[] => {
  const parsed = parseShot(json, Rigs.none);
  return parsed.ok ? [] : parsed.problems.map(problemText);
};

describe('a shot from outside', () => {
  test('is taken as it is when all is well', () => {
    const json = JSON.parse(JSON.stringify(good()));
    const parsed = parseShot(json, Rigs.none);
    expect(parsed.ok && JSON.parse(JSON.stringify(parsed.value))).toEqual(json);
  });

  test('what was loose at every frame stands on the first that plays', () => {
    const json = { ...JSON.parse(JSON.stringify(good())), version: 5 };
    const path = Object.keys(json.curves)[0];
    const parsed = parseShot({ ...json, play: { ...json.play, first: 3 }, loose: { [path]: 2 } }, Rigs.none);
    expect(parsed.ok && parsed.value.loose.toJSON()).toEqual({ [path]: [{ frame: 3, value: 2 }] });
  });

  test('loose changes are of the kind of their channel, in the order of their frames', () => {
    const json = JSON.parse(JSON.stringify(good()));
    const path = Object.keys(json.curves)[0];
    const sentence = (loose: unknown) => {
      const parsed = parseShot({ ...json, loose: { [path]: loose } }, Rigs.none);
      return parsed.ok ? '' : parsed.problems[0].sentence;
    };
    expect(sentence([{ frame: 3, value: 2 }])).toBe('');
    const turned = { frame: 4, value: [0, 0, 0, 1] };
    expect(sentence([{ frame: 3, value: 2 }, turned])).toContain('its channel is a number');
    expect(sentence([])).not.toBe('');
    expect(
      sentence([
        { frame: 3, value: 2 },
        { frame: 3, value: 1 },
      ]),
    ).toContain('in order');
  });

  test('needs no list of loose values', () => {
    const { loose: _, ...json } = JSON.parse(JSON.stringify(good()));
    const parsed = parseShot(json, Rigs.none);
    expect(parsed.ok && parsed.value.loose.size).toBe(0);
  });

  test('takes footage of before there were runs for a film', () => {
    const { pictures: _, ...film } = aFilm;
    const json = { ...JSON.parse(JSON.stringify(good())), version: 9, footage: { film } };
    const parsed = parseShot(json, Rigs.none);
    expect(parsed.ok && parsed.value.footage.at('film').pictures).toEqual([]);
  });

  test.each<[string, (s: Shot) => unknown, RegExp]>([
    ['is not a shot at all', () => 'hello', /^the document: .*expected object/],
    ['is from the future', (s) => ({ ...s, version: 99 }), /written by a newer Varrup \(version 99/],
    ['is from before the first version', (s) => ({ ...s, version: 0 }), /can no longer read/],
    ['has a name of blanks', (s) => ({ ...s, name: '   ' }), /^\/name: .*give it a name/],
    ['has a rate of 0', (s) => ({ ...s, rate: 0 }), /^\/rate: /],
    ['has an unknown field', (s) => ({ ...s, surprise: 1 }), /surprise/],
    ['ends before it begins', (s) => ({ ...s, range: { first: 9, last: 2 } }), /^\/range: ends before it begins/],
    ['plays outside its range', (s) => ({ ...s, play: { first: 1, last: 500 } }), /^\/play: reaches outside/],
    [
      'has keys out of order',
      (s) => ({ ...s, curves: { 'a.move.x': curve(5, 1) } }),
      /^\/curves\/a.move.x\/keys: must be in order/,
    ],
    ['has two keys on a frame', (s) => ({ ...s, curves: { 'a.move.x': curve(5, 5) } }), /one key a frame/],
    ['has a curve of nobody', (s) => ({ ...s, curves: { 'zz.move.x': curve(1) } }), /"zz", who is not in the cast/],
    ['has a curve of no channel', (s) => ({ ...s, curves: { 'a.glow': curve(1) } }), /is not a channel of "Float"/],
    [
      'has numbers for an orientation',
      (s) => ({ ...s, curves: { 'a.orientation': curve(1) } }),
      /must hold orientations/,
    ],
    [
      'has a missing parent',
      (s) => ({ ...s, members: s.members.with('b', { ...s.members.at('b'), parent: 'gone' }) }),
      /"gone", who is not/,
    ],
    [
      'has parents in a circle',
      (s) => ({ ...s, members: s.members.with('a', { ...s.members.at('a'), parent: 'b' }) }),
      /goes round in a circle: "Float", "Box"|goes round in a circle: "Box", "Float"/,
    ],
    [
      'has a ball with no radius',
      (s) => ({
        ...s,
        members: s.members.with('a', { ...s.members.at('a'), shape: { radius: 0, band: null } } as Member),
      }),
      /^\/members\/a\/shape\/radius: /,
    ],
    [
      'has a value that is no number',
      (s) =>
        JSON.parse(
          JSON.stringify({
            ...s,
            curves: { 'a.move.x': { ...curve(1), keys: [{ ...smoothKey(1, 0), value: null }] } },
          }),
        ),
      /keys\/0\/value/,
    ],
  ])('that %s is refused with a sentence that says where', (_, spoil, sentence) => {
    expect(sentences(spoil(good())).join('\n')).toMatch(sentence);
  });

  test.each(['constructor', 'toString', 'valueOf', 'hasOwnProperty', '__proto__'])(
    'takes nothing for there that is called %s, as the language itself has it',
    (name) => {
      const json = () => JSON.parse(JSON.stringify(good()));
      const member = (change: object) => ({
        ...json(),
        members: { ...json().members, a: { ...json().members.a, ...change } },
      });
      const recipe = { id: 'r', kit: 'bounce', member: name, settings: {}, written: {} };
      const wrong = [
        member({ parent: name }),
        member({ holds: [{ frame: 1, by: { is: 'member', member: name, joint: null } }] }),
        member({ values: JSON.parse(`{"${name}":1}`) }),
        { ...json(), recipes: { r: recipe } },
        { ...json(), curves: { [`${name}.move.x`]: curve(1) } },
        { ...json(), curves: { [`a.${name}`]: curve(1) } },
        { ...json(), formulas: { [`a.${name}`]: { text: '1', inputs: [], mode: 'instead' } } },
        { ...json(), [name]: {} },
      ];
      for (const spoilt of wrong.slice(0, name === '__proto__' ? -1 : undefined))
        expect(sentences(spoilt)).not.toEqual([]);
      // A member may be called so, and is one then.
      const filed = JSON.parse(`{"${name}":${JSON.stringify({ ...json().members.a, id: name })}}`);
      const parsed = parseShot({ ...json(), curves: {}, members: filed }, Rigs.none);
      if (parsed.ok) expect(parsed.value.members.keys()).toEqual([name]);
      else expect(name).toBe('__proto__');
      // What reads somewhere that is not there reads nothing, and sets may name what is gone.
      const reading = { text: 'x', inputs: [{ name: 'x', path: `${name}.${name}` }], mode: 'instead' };
      const set = { id: 's', name: 'All', paths: [`a.${name}`] };
      const harmless = parseShot({ ...json(), formulas: { 'a.move.y': reading }, sets: { s: set } }, Rigs.none);
      if (harmless.ok) expect(frameOf(harmless.value, 1).value('a', 'move.y')).toBe(0);
    },
  );

  test('names no more problems than one can read', () => {
    const curves = Object.fromEntries(Array.from({ length: 100 }, (_, i) => [`n${i}.move.x`, curve(1)]));
    expect(sentences({ ...good(), curves })).toHaveLength(20);
  });
});
