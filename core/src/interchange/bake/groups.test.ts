import { expect, test } from 'vitest';
import { AT_REST } from '../scene/scene.ts';
import { groupsOf } from './motions.ts';

const node = (parent: number, member = 'm') => ({ member, node: { name: 'n', parent, place: AT_REST } });

test('what hangs together is laid together, however little is to be laid at once', () => {
  // Two trees of 300 nodes, and one that stands alone.
  const tree = (root: number) => [node(-1), ...Array.from({ length: 299 }, (_, i) => node(root + i))];
  const planned = [...tree(0), ...tree(300), node(-1)];
  const groups = groupsOf(planned, 1);
  expect(groups.map((g) => g.size)).toEqual([300, 300, 1]);
  expect(groupsOf(planned, 1e9).map((g) => g.size)).toEqual([601]);
  const all = new Set(groups.flatMap((g) => [...g]));
  expect(all.size).toBe(601);
});

test('what everything stands on where up is another way holds nothing together', () => {
  const planned = [node(-1, ''), ...Array.from({ length: 500 }, () => node(0))];
  expect(groupsOf(planned, 1).length).toBeGreaterThan(1);
});
