import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { documentOf, SHOT_VERSION, type Shot } from '../document/shot.ts';
import { applyPatches, type Patch, PatchError } from '../edit/patch.ts';
import { castWithRigs, key } from '../testing/arbitraries.ts';
import { randomChanges } from '../testing/edits.ts';
import { parseChanged } from './changed.ts';
import { parseShot } from './parse.ts';

/** A shot as it is kept: normalised, by reading it once. */
function read(shot: Shot): Shot {
  const parsed = parseShot(shot, shot.rigs);
  if (!parsed.ok) throw new Error(parsed.problems[0].sentence);
  return parsed.value;
}

const text = (shot: Shot) => JSON.parse(JSON.stringify(documentOf(shot)));

/** Both ways of reading what patches have made of a shot say the same of it. */
function saysTheSame(before: Shot, patches: readonly Patch[]): Shot | null {
  const patched = applyPatches(documentOf(before), patches);
  const inParts = parseChanged(before, patched, before.rigs);
  const whole = parseShot(patched, before.rigs);
  const version = (patched as { version: unknown }).version;
  expect(inParts.ok).toBe(whole.ok && version === SHOT_VERSION);
  if (!inParts.ok || !whole.ok) return null;
  expect(text(inParts.value)).toEqual(text(whole.value));
  return inParts.value;
}

test('after any edits it says what reading the whole says', () => {
  fc.assert(
    fc.property(castWithRigs, randomChanges, (start, changes) => {
      let shot = read(start);
      for (const change of changes) {
        const done = change(shot);
        if (done) shot = saysTheSame(shot, done.edit.patches) ?? shot;
      }
    }),
    { numRuns: 60 },
  );
});

/** Where in a document a patch may lead: to any part of it, and to some that it has not. */
function placesIn(value: unknown, path = ''): string[] {
  if (typeof value !== 'object' || value === null) return [path];
  const names = [...Object.keys(value), 'nothing', 'constructor'];
  return [path, ...names.flatMap((name) => placesIn((value as Record<string, unknown>)[name], `${path}/${name}`))];
}

const junk = fc.oneof(
  fc.constantFrom<unknown>(null, true, -1, 0, 1e308, '', 'constructor', 'toString', '__proto__', [], {}, [[]]),
  fc.jsonValue({ maxDepth: 2 }).filter((v) => !JSON.stringify(v).includes('__proto__')),
  key(5),
);

test('after any patch to any place it says what reading the whole says', () => {
  const patch = fc.record({ op: fc.constantFrom('add', 'replace', 'remove' as const), at: fc.nat(), value: junk });
  fc.assert(
    fc.property(castWithRigs, fc.array(patch, { minLength: 1, maxLength: 3 }), (start, picks) => {
      const before = read(start);
      const places = placesIn(text(before)).filter((p) => p !== '');
      const patches = picks.map(({ op, at, value }) => ({ op, path: places[at % places.length], value }) as Patch);
      try {
        saysTheSame(before, patches);
      } catch (error) {
        if (!(error instanceof PatchError)) throw error;
      }
    }),
    { numRuns: 500 },
  );
});

describe('what is read in parts', () => {
  const before = read(fc.sample(castWithRigs, { numRuns: 1, seed: 4 })[0]);
  const [id] = before.members.keys();

  test('keeps its parts that no patch has touched', () => {
    const patched = applyPatches(documentOf(before), [{ op: 'replace', path: `/members/${id}/name`, value: 'Buoy' }]);
    const parsed = parseChanged(before, patched, before.rigs);
    if (!parsed.ok) throw new Error('It should read.');
    expect(parsed.value.members.at(id).name).toBe('Buoy');
    expect(parsed.value.members.at(id).custom).toBe(before.members.at(id).custom);
    expect(parsed.value.curves).toBe(before.curves);
  });

  test('gets what it leaves out', () => {
    const { locked: _, ...bare } = text(before).members[id];
    const patched = applyPatches(documentOf(before), [{ op: 'replace', path: `/members/${id}`, value: bare }]);
    const parsed = parseChanged(before, patched, before.rigs);
    expect(parsed.ok && parsed.value.members.at(id).locked).toBe(false);
  });

  test('does not change its version', () => {
    const patched = applyPatches(documentOf(before), [{ op: 'replace', path: '/version', value: SHOT_VERSION - 1 }]);
    const parsed = parseChanged(before, patched, before.rigs);
    expect(parsed).toEqual({
      ok: false,
      problems: [{ pointer: '/version', sentence: 'is not for an edit to change' }],
    });
  });
});
