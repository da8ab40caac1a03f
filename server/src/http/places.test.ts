import { EventEmitter } from 'node:events';
import type { Request, Response } from 'express';
import { describe, expect, test } from 'vitest';
import { Places } from './places.ts';

const request = (who: string) => ({ headers: { 'x-varrup': who } }) as unknown as Request;
const response = () => Object.assign(new EventEmitter(), { closed: false }) as unknown as Response & EventEmitter;

/** Asks for a place. @returns whether one was had so far, and how it is given back */
function asks(places: Places, who: string) {
  const asked = { has: false, response: response(), leave: () => {} };
  void places.take(request(who), asked.response).then((leave) => {
    asked.has = true;
    asked.leave = leave;
  });
  return asked;
}
const settled = () => new Promise((done) => setImmediate(done));

describe('places', () => {
  test('are shared: whoever holds all they may waits, and others do not', async () => {
    const places = new Places(3, 2);
    const mine = [1, 2, 3].map(() => asks(places, 'a'));
    const other = asks(places, 'b');
    await settled();
    expect(mine.map((a) => a.has)).toEqual([true, true, false]);
    expect(other.has).toBe(true);
    mine[0].leave();
    mine[0].leave();
    await settled();
    expect(mine[2].has).toBe(true);
  });

  test('are given in the order they were asked for, as far as the house has some', async () => {
    const places = new Places(1, 1);
    const all = ['a', 'b', 'c'].map((who) => asks(places, who));
    await settled();
    for (let i = 0; i < all.length; i++) {
      expect(all.map((a) => a.has)).toEqual(all.map((_, n) => n <= i));
      all[i].response.emit('close');
      await settled();
    }
  });

  test('are not kept for who has gone away while waiting', async () => {
    const places = new Places(1, 1);
    const [first, second, third] = ['a', 'b', 'c'].map((who) => asks(places, who));
    await settled();
    Object.assign(second.response, { closed: true });
    second.response.emit('close');
    await settled();
    first.leave();
    await settled();
    expect(third.has).toBe(true);
  });
});
