import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Table } from './table.ts';

/** Keys also of the language's own: they are keys like any others. */
const key = fc.oneof(
  fc.nat(300).map((n) => `k${n}`),
  fc.constantFrom('__proto__', 'constructor', 'toString', 'valueOf', ''),
);
const change = fc.record({ key, value: fc.option(fc.nat(5)) });
const changes = fc.array(change, { maxLength: 400 });

/** The same changes on a Map, which knows nothing of sharing. */
function modelled(steps: readonly { key: string; value: number | null }[]): Map<string, number> {
  const out = new Map<string, number>();
  for (const { key, value } of steps) value === null ? out.delete(key) : out.set(key, value);
  return out;
}

const built = (start: Table<number>, steps: readonly { key: string; value: number | null }[]) =>
  steps.reduce((t, { key, value }) => (value === null ? t.without(key) : t.with(key, value)), start);

const sorted = (entries: Iterable<readonly [string, number]>) => [...entries].sort(([a], [b]) => (a < b ? -1 : 1));

describe('a table', () => {
  test('holds what a map holds after the same changes, one by one or in one draft', () => {
    fc.assert(
      fc.property(changes, (steps) => {
        const model = modelled(steps);
        const draft = Table.empty<number>().edit();
        for (const { key, value } of steps) value === null ? draft.delete(key) : draft.set(key, value);
        for (const table of [built(Table.empty(), steps), draft.done()]) {
          expect(table.size).toBe(model.size);
          expect(sorted(table)).toEqual(sorted(model));
          expect(table.keys()).toEqual(table.entries().map(([k]) => k));
          for (const { key } of steps) expect(table.get(key)).toBe(model.get(key));
        }
      }),
    );
  });

  test('stays as it is whatever is made of it', () => {
    fc.assert(
      fc.property(changes, changes, changes, (first, left, right) => {
        const table = built(Table.empty(), first);
        const before = table.entries();
        const [a, b] = [built(table, left), built(table, right)];
        expect(table.entries()).toEqual(before);
        // Two branches of one table share the places of their keys, and see nothing of one another.
        expect(sorted(a)).toEqual(sorted(modelled([...first, ...left])));
        expect(sorted(b)).toEqual(sorted(modelled([...first, ...right])));
      }),
    );
  });

  test('tells exactly what differs from another, related or not', () => {
    fc.assert(
      fc.property(changes, changes, fc.boolean(), (first, more, related) => {
        const before = built(Table.empty(), first);
        const after = related ? built(before, more) : Table.of(built(before, more).entries());
        const told = new Map<string, [number | undefined, number | undefined]>();
        before.changesTo(after, (k, a, b) => {
          expect(told.has(k)).toBe(false);
          told.set(k, [a, b]);
        });
        const keys = new Set([...before.keys(), ...after.keys()]);
        const differing = [...keys].filter((k) => before.get(k) !== after.get(k));
        expect([...told.keys()].sort()).toEqual(differing.sort());
        for (const [k, [a, b]] of told) expect([a, b]).toEqual([before.get(k), after.get(k)]);
      }),
    );
  });

  test('is itself where nothing changes', () => {
    const table = Table.of({ a: 1, b: 2 });
    expect(table.with('a', 1)).toBe(table);
    expect(table.without('c')).toBe(table);
    expect(table.map((v) => v)).toBe(table);
    expect(table.filter(() => true)).toBe(table);
    expect(table.edit().done()).toBe(table);
  });

  test('goes on from a draft that is used again, and keeps what was made of it before', () => {
    const draft = Table.of({ a: 1 }).edit();
    draft.set('b', 2);
    const first = draft.done();
    draft.set('b', 3);
    draft.delete('a');
    expect([first.entries(), draft.done().entries()]).toEqual([
      [
        ['a', 1],
        ['b', 2],
      ],
      [['b', 3]],
    ]);
  });

  test('is a plain object as JSON', () => {
    const text = '{"a":{"x":1},"__proto__":{"x":2}}';
    expect(JSON.stringify(Table.of(JSON.parse(text) as Record<string, { x: number }>))).toBe(text);
  });

  test('says which key it has not', () => {
    expect(() => Table.of({ a: 1 }).at('b')).toThrow('There is no "b" here.');
  });

  test('that has lost nearly all it held keeps no room for it', () => {
    const large = Table.of(Array.from({ length: 5_000 }, (_, i) => [`k${i}`, i] as const));
    const small = large.filter((v) => v % 100 === 0);
    expect(small.size).toBe(50);
    expect(small.entries()).toEqual(large.entries().filter(([, v]) => v % 100 === 0));
    let told = 0;
    small.changesTo(small.with('new', 1), () => told++);
    expect(told).toBe(1);
  });
});
