import { beforeEach, describe, expect, test } from 'vitest';
import { Ahead, type Decoder } from './ahead.ts';

/** A decoder that decodes as many pictures as it is let, of a film of so many. */
class Slow implements Decoder<number> {
  readonly ahead = 24;
  /** Where it was begun. */
  readonly begun: number[] = [];
  /** Decoders that were ended. */
  ended = 0;
  #may = 0;
  #waiting: (() => void) | null = null;
  readonly #length: number;

  constructor(length: number) {
    this.#length = length;
  }

  async *from(picture: number): AsyncGenerator<readonly [picture: number, sample: number]> {
    this.begun.push(picture);
    try {
      for (let at = picture; at < this.#length; at++) {
        while (this.#may === 0) await new Promise<void>((resolve) => (this.#waiting = resolve));
        this.#may--;
        yield [at, at];
      }
    } finally {
      this.ended++;
    }
  }

  /** Lets it decode more, and waits until it has. */
  async decodes(pictures: number): Promise<void> {
    this.#may += pictures;
    this.#waiting?.();
    this.#waiting = null;
    await new Promise((resolve) => setTimeout(resolve));
  }
}

let film = new Slow(1000);
let kept = new Set<number>();
let ahead = new Ahead(film, { keep: () => {}, drop: () => {} });

function open(length: number): void {
  film = new Slow(length);
  kept = new Set();
  ahead = new Ahead(film, { keep: (picture) => kept.add(picture), drop: (picture) => kept.delete(picture) });
}
const look = (picture: number) => void ahead.look(picture);
const plays = async (from: number, to: number, decoded: number) => {
  for (let picture = from; picture <= to; picture++) {
    look(picture);
    await film.decodes(decoded);
  }
};

beforeEach(() => open(1000));

describe('played', () => {
  test('every picture is there before it is looked at, from one decoder', async () => {
    look(0);
    await film.decodes(25);
    for (let picture = 1; picture < 300; picture++) {
      expect(kept.has(picture)).toBe(true);
      look(picture);
      await film.decodes(1);
    }
    expect(film.begun).toEqual([0]);
  });

  test('a decoder that falls a little behind goes on, and what has gone by is left out', async () => {
    look(0);
    await film.decodes(5);
    look(4);
    await film.decodes(0);
    look(20);
    await film.decodes(17);
    expect(film.begun).toEqual([0]);
    expect([...kept]).toEqual([0, 1, 2, 3, 4, 20, 21]);
  });

  test('one that has fallen far behind begins anew ahead of what plays', async () => {
    look(0);
    await film.decodes(1);
    for (const picture of [10, 20, 30, 40]) look(picture);
    await film.decodes(1);
    expect(film.begun).toEqual([0, 40 + 16]);
    look(56);
    await film.decodes(10);
    expect(kept.has(56)).toBe(true);
    expect(film.begun).toHaveLength(2);
    expect(film.ended).toBe(1);
  });

  test('no more is kept than four seconds; what is farthest away goes first', async () => {
    look(0);
    await film.decodes(25);
    await plays(1, 300, 1);
    expect(kept.size).toBe(96);
    expect(Math.max(...kept) - Math.min(...kept)).toBe(95);
    expect(kept.has(300)).toBe(true);
  });

  test('the last picture is the last: what lies beyond it is not looked for again and again', async () => {
    open(30);
    look(10);
    await film.decodes(100);
    for (const picture of [29, 30, 40]) await ahead.look(picture);
    expect(Math.max(...kept)).toBe(29);
    expect(film.begun).toEqual([10]);
  });
});

describe('gone to', () => {
  test('another place comes at once, and what was under way is left', async () => {
    look(100);
    await film.decodes(2);
    look(500);
    await film.decodes(3);
    expect(film.begun).toEqual([100, 500]);
    expect(kept.has(500)).toBe(true);
    expect([...kept].filter((picture) => picture < 500)).toEqual([100, 101]);
  });

  test('step by step backwards: those before are decoded along with it', async () => {
    look(200);
    await film.decodes(50);
    look(199);
    await film.decodes(50);
    expect(film.begun).toEqual([200, 199 - 16]);
    for (let picture = 199; picture >= 183; picture--) expect(kept.has(picture)).toBe(true);
    look(198);
    await film.decodes(50);
    expect(film.begun).toHaveLength(2);
  });

  test('the beginning from near it: nothing before the first is asked for', async () => {
    look(5);
    await film.decodes(50);
    look(4);
    await film.decodes(50);
    expect(film.begun).toEqual([5, 0]);
    expect(kept.has(0)).toBe(true);
  });
});

test('what cannot be decoded is told of, once it is looked at', async () => {
  const broken: Decoder<number> = {
    ahead: 24,
    // biome-ignore lint/correctness/useYield: it fails before its first picture.
    async *from() {
      throw new Error('The key frame is missing.');
    },
  };
  const none = new Ahead(broken, { keep: () => {}, drop: () => {} });
  await expect(none.look(3)).rejects.toThrow('The key frame is missing.');
});
