import { PassThrough } from 'node:stream';
import type { Request } from 'express';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { arriving } from './arrival.ts';

/** Bodies that stop coming, or come in drops. */

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval', 'performance'] });
});
afterEach(() => {
  vi.useRealTimers();
});

const settled = () => new Promise((done) => setImmediate(done));

/** A body, and what is heard of it. */
function body() {
  const request = new PassThrough();
  const still = vi.fn();
  const read = (async () => {
    let size = 0;
    for await (const chunk of arriving(request as unknown as Request, still)) size += chunk.length;
    return size;
  })();
  read.catch(() => {});
  /** Lets some time go by, and what is to happen then happen. */
  const later = async (seconds: number) => {
    await vi.advanceTimersByTimeAsync(seconds * 1000);
    await settled();
  };
  const sends = async (bytes: number) => {
    request.write(Buffer.alloc(bytes));
    await settled();
  };
  return { request, still, read, later, sends };
}

describe('a body on its way in', () => {
  test('is there when it has come, however long it takes as long as it comes', async () => {
    const { request, read, later, sends } = body();
    for (let i = 0; i < 6; i++) {
      await sends(50_000);
      await later(9);
    }
    request.end();
    expect(await read).toBe(300_000);
  });

  test('that stops coming is waited for ten seconds, and its place is free after one', async () => {
    const { read, later, sends, still } = body();
    await sends(1);
    expect(still).not.toHaveBeenCalled();
    await later(1.5);
    expect(still).toHaveBeenCalled();
    await later(8);
    await sends(1);
    await later(11);
    await expect(read).rejects.toMatchObject({ status: 408 });
  });

  test('that comes in drops does not come for ever', async () => {
    const { read, later, sends } = body();
    for (let i = 0; i < 8; i++) {
      await sends(100);
      await later(5);
    }
    await expect(read).rejects.toMatchObject({ status: 408 });
  });

  test('whose connection breaks is refused', async () => {
    const { request, read, sends } = body();
    await sends(10);
    request.destroy(new Error('gone'));
    await expect(read).rejects.toMatchObject({ status: 400 });
  });
});
