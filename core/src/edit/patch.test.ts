import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Table } from '../table/table.ts';
import { applyPatches, difference, type Patch, PatchesSchema } from './patch.ts';

const patchesOf = (before: unknown, after: unknown) => difference(before, after).patches;

const json = fc.jsonValue({ maxDepth: 4 }).filter((v) => !JSON.stringify(v).includes('__proto__'));

describe('patches', () => {
  test('between any two documents lead from one to the other and back, and leave the first alone', () => {
    fc.assert(
      fc.property(json, json, (before, after) => {
        const kept = JSON.stringify(before);
        const { patches, inverse } = difference(before, after);
        expect(applyPatches(before, patches)).toEqual(after);
        expect(applyPatches(after, inverse)).toEqual(before);
        expect(JSON.stringify(before)).toBe(kept);
      }),
      { numRuns: 1000 },
    );
  });

  test('between two tables name only what differs, and leave tables', () => {
    const table = fc.dictionary(fc.constantFrom('a', 'b', 'c/d', 'e~f', 'toString'), fc.nat(3));
    fc.assert(
      fc.property(table, table, (a, b) => {
        const before = { rate: 24, curves: Table.of(a) };
        const after = { rate: 24, curves: before.curves.withAll(b).filter((_, key) => Object.hasOwn(b, key)) };
        const { patches, inverse } = difference(before, after);
        const [there, back] = [applyPatches(before, patches), applyPatches(after, inverse)];
        expect(there.curves).toBeInstanceOf(Table);
        expect([there.curves.toJSON(), back.curves.toJSON()]).toEqual([b, a]);
        expect(before.curves.toJSON()).toEqual(a);
        for (const { path } of patches) expect(path.startsWith('/curves/')).toBe(true);
      }),
    );
  });

  test('that bring records by key in whole leave a table', () => {
    const after = applyPatches({ curves: Table.of({ a: 1 }) }, [{ op: 'replace', path: '/curves', value: { b: 2 } }]);
    expect(after.curves).toBeInstanceOf(Table);
    expect(after.curves.toJSON()).toEqual({ b: 2 });
  });

  test('for a key put among many is one patch', () => {
    const keys = Array.from({ length: 10_000 }, (_, frame) => ({ frame, value: frame * 2 }));
    const more = keys.toSpliced(5000, 0, { frame: 4999.5, value: 1 });
    expect(patchesOf({ keys }, { keys: more })).toEqual([
      { op: 'add', path: '/keys/5000', value: { frame: 4999.5, value: 1 } },
    ]);
    expect(patchesOf({ keys: more }, { keys })).toEqual([{ op: 'remove', path: '/keys/5000' }]);
  });

  test('for a long list that is nearly all new is one patch with the list', () => {
    const keys = Array.from({ length: 500 }, (_, frame) => ({ frame, value: 1 }));
    const moved = keys.map((k) => ({ ...k, frame: k.frame + 1 }));
    expect(patchesOf({ keys }, { keys: moved })).toEqual([{ op: 'replace', path: '/keys', value: moved }]);
    const some = keys.map((k, i) => (i % 100 === 0 ? { ...k, value: 2 } : k));
    expect(patchesOf({ keys }, { keys: some }).length).toBeLessThanOrEqual(5);
  });

  test('for what is the same object are none, and cost no reading', () => {
    const trap = new Proxy(
      {},
      {
        ownKeys: () => {
          throw new Error('read');
        },
      },
    );
    expect(patchesOf({ a: trap, b: 1 }, { a: trap, b: 2 })).toEqual([{ op: 'replace', path: '/b', value: 2 }]);
  });

  test('share what they do not touch', () => {
    const before = { a: { deep: [1, 2] }, b: { c: 1 } };
    const after = applyPatches(before, [{ op: 'replace', path: '/b/c', value: 2 }]);
    expect(after.a).toBe(before.a);
  });

  test.each<[Patch, RegExp]>([
    [{ op: 'replace', path: '/list/7', value: 1 }, /a place the list does not have/],
    [{ op: 'add', path: '/list/9', value: 1 }, /beyond the end/],
    [{ op: 'remove', path: '/nobody' }, /not there/],
    [{ op: 'add', path: '/nobody/home', value: 1 }, /not there/],
    [{ op: 'replace', path: '/name/deep', value: 1 }, /has no parts/],
    [{ op: 'replace', path: '/toString', value: 1 }, /not there/],
    [{ op: 'remove', path: '' }, /whole document/],
  ])('that do not fit are refused with a sentence: %j', (patch, why) => {
    const document = { list: [1, 2], name: 'x' };
    expect(() => applyPatches(document, [{ op: 'replace', path: '/list/0', value: 5 }, patch])).toThrow(why);
    expect(document).toEqual({ list: [1, 2], name: 'x' });
  });

  test.each<[string, unknown, RegExp]>([
    ['nothing', null, /is not a patch/],
    ['another operation', { op: 'move', path: '/a', value: 1 }, /^0.op is none of add/],
    ['no pointer', { op: 'remove', path: 'a' }, /^0.path is not a JSON pointer/],
    ['a pointer of numbers', { op: 'remove', path: 7 }, /^0.path is not a JSON pointer/],
    ['an endless pointer', { op: 'remove', path: `/${'x'.repeat(400)}` }, /^0.path is not a JSON pointer/],
    ['no value', { op: 'add', path: '/a' }, /^0.value is missing/],
    ['a value to remove', { op: 'remove', path: '/a', value: 1 }, /^0.value is not needed/],
    ['more than there is', { op: 'remove', path: '/a', from: '/b' }, /parts that no patch has/],
  ])('from outside that are %s are refused', (_, given, why) => {
    const parsed = PatchesSchema.safeParse([given]);
    expect(parsed.error?.issues.map((issue) => `${issue.path.join('.')} ${issue.message}`).join()).toMatch(why);
  });

  test('that put a long list together from its front are refused before they take for ever', () => {
    const patches = Array.from({ length: 30_000 }, (): Patch => ({ op: 'add', path: '/list/0', value: 1 }));
    expect(() => applyPatches({ list: [] }, patches)).toThrow(/Patch 14143 \(add \/list\/0\) asks for too much/);
    const atTheEnd = patches.map((_, i): Patch => ({ op: 'add', path: `/list/${i}`, value: 1 }));
    expect(applyPatches({ list: [] as number[] }, atTheEnd).list).toHaveLength(30_000);
  });

  test('that reach for a prototype are refused at the door', () => {
    for (const path of ['/__proto__/polluted', '/members/constructor', '/a/prototype/b']) {
      expect(PatchesSchema.safeParse([{ op: 'add', path, value: 1 }]).success).toBe(false);
    }
    expect(PatchesSchema.safeParse([{ op: 'add', path: '/curves/a.move.x', value: 1 }]).success).toBe(true);
  });
});
