import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { addMember, newMember } from '../edit/index.ts';
import { Table } from '../table/table.ts';
import { shot as anyShot } from '../testing/arbitraries.ts';
import { castOrder, childrenOf, freeName, isLocked, parentLoop, topmost, withDescendants } from './hierarchy.ts';
import { emptyShot, type Shot } from './shot.ts';

const add = (s: Shot, id: string, parent: string | null, locked = false) =>
  addMember.apply(s, { member: newMember(s, { kind: 'box', id, parent, locked }) });

/** a holds b and c; b holds d; e stands alone. */
const family = () =>
  [
    ['a', null],
    ['b', 'a'],
    ['c', 'a'],
    ['d', 'b'],
    ['e', null],
  ].reduce((s, [id, p]) => add(s, id as string, p), emptyShot('s1', 'Family'));

describe('the cast', () => {
  test('is listed parents first, each with its depth, brothers in order', () => {
    expect(castOrder(family()).map(({ member, depth }) => `${member.id}${depth}`)).toEqual([
      'a0',
      'b1',
      'd2',
      'c1',
      'e0',
    ]);
    expect(childrenOf(family(), 'a').map((m) => m.id)).toEqual(['b', 'c']);
  });

  test('lists everybody once and nobody before their parent, in any shot', () => {
    fc.assert(
      fc.property(anyShot, (s) => {
        const seen = new Set<string>();
        for (const { member } of castOrder(s)) {
          if (member.parent !== null) expect(seen.has(member.parent)).toBe(true);
          seen.add(member.id);
        }
        expect(seen.size).toBe(s.members.size);
      }),
    );
  });

  test('knows who hangs on whom', () => {
    expect([...withDescendants(family(), ['b'])].sort()).toEqual(['b', 'd']);
    expect(topmost(family(), ['d', 'a', 'e'])).toEqual(['a', 'e']);
  });

  test('is locked with whoever carries it', () => {
    let s = add(emptyShot('s1', 'Locks'), 'a', null, true);
    s = add(s, 'b', 'a');
    s = add(s, 'c', null);
    expect(['a', 'b', 'c'].map((id) => isLocked(s, id))).toEqual([true, true, false]);
  });

  test('a chain of thousands is no trouble', () => {
    const members = Table.of(
      Array.from(
        { length: 4000 },
        (_, i) =>
          [
            `m${i}`,
            { ...newMember(emptyShot('s', 's'), { kind: 'group', id: `m${i}` }), parent: i > 0 ? `m${i - 1}` : null },
          ] as const,
      ),
    );
    expect(castOrder({ ...emptyShot('s1', 'Deep'), members }).at(-1)?.depth).toBe(3999);
  });

  test('finds those who go round in a circle, and only those', () => {
    const ring = { a: { parent: 'c' }, b: { parent: 'a' }, c: { parent: 'b' }, d: { parent: 'a' } };
    expect(parentLoop(Table.of(ring))?.sort()).toEqual(['a', 'b', 'c']);
    expect(parentLoop(Table.of<{ parent: string | null }>({ a: { parent: null }, b: { parent: 'a' } }))).toBeNull();
    expect(parentLoop(Table.of({ a: { parent: 'a' } }))).toEqual(['a']);
  });

  test('gives a new one a name nobody has', () => {
    const s = add(add(emptyShot('s1', 'Names'), 'a', null), 'b', null);
    expect(s.members.values().map((m) => m.name)).toEqual(['Box', 'Box 2']);
    expect(freeName(s, 'Box 2')).toBe('Box 3');
    expect(freeName(s, 'Crate')).toBe('Crate');
  });
});
