import { describe, expect, test } from 'vitest';
import { Turns } from './turns.ts';

/** Work that ends when it is let. */
function gate() {
  let open = () => {};
  const passed = new Promise<void>((done) => {
    open = done;
  });
  return { passed, open: () => open() };
}

describe('those who change the same', () => {
  test('wait for each other, and those who have gathered are done together', async () => {
    const groups: (readonly number[])[] = [];
    const first = gate();
    const turns = new Turns<number, number>(async (_, given) => {
      groups.push(given);
      if (groups.length === 1) await first.passed;
      return given.map((n) => n * 10);
    });
    const results = [1, 2, 3, 4].map((n) => turns.take('shot', n));
    first.open();
    expect(await Promise.all(results)).toEqual([10, 20, 30, 40]);
    expect(groups).toEqual([[1], [2, 3, 4]]);
  });

  test('do not wait for those who change something else', async () => {
    const held = gate();
    const turns = new Turns<number, number>(async (id, given) => {
      if (id === 'held') await held.passed;
      return given;
    });
    const waiting = turns.take('held', 1);
    expect(await turns.take('free', 2)).toBe(2);
    held.open();
    expect(await waiting).toBe(1);
  });

  test('have an error each of their own, and one of them all where the work fails', async () => {
    const first = gate();
    const turns = new Turns<number, number>(async (_, given) => {
      if (given.includes(1)) await first.passed;
      if (given.includes(9)) throw new Error('all');
      return given.map((n) => (n === 3 ? new Error('three') : n));
    });
    const asked = [1, 2, 3].map((n) => turns.take('shot', n));
    asked[2].catch(() => {});
    first.open();
    expect(await asked[0]).toBe(1);
    expect(await asked[1]).toBe(2);
    await expect(asked[2]).rejects.toThrow('three');
    await expect(turns.take('shot', 9)).rejects.toThrow('all');
    expect(await turns.take('shot', 4)).toBe(4);
  });

  test('keep their order around what is done alone', async () => {
    const order: string[] = [];
    const turns = new Turns<string, void>(async (_, given) => {
      order.push(given.join('+'));
      return given.map(() => undefined);
    });
    await Promise.all([
      turns.take('shot', 'a'),
      turns.take('shot', 'b'),
      turns.alone('shot', async () => void order.push('alone')),
      turns.take('shot', 'c'),
    ]);
    expect(order).toEqual(['a', 'b', 'alone', 'c']);
  });
});
