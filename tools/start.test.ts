import { readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeEach, expect, test, vi } from 'vitest';
import { freePort, newFolder, programOf, READY, running, Start } from './testing/started.ts';

/** `npm start` at bad moments: whatever is killed, and whenever, the next start goes, and nothing is left running. */

let folder = '';
let port = 0;
beforeEach(async () => {
  folder = newFolder();
  port = await freePort();
});
const begun = () => new Start(folder, port);

const postmaster = (): number =>
  running(folder, join(folder, 'db')).find((pid) => programOf(pid).endsWith('/postgres')) ?? 0;
const server = (): number => running(folder, 'server/dist/main.js')[0] ?? 0;

/** A start that goes, with the demo in it, and ends in order. */
async function goes(): Promise<void> {
  const start = begun();
  await start.says(READY);
  expect(await start.productions()).toContain('Night Ferry');
  await start.end();
  expect(running(folder)).toEqual([]);
}

test('stopped while it starts, it leaves nothing running and nothing in the way', async () => {
  for (const moment of [50, 900, 1800, 2600]) {
    const start = begun();
    await new Promise((later) => setTimeout(later, moment));
    start.kill('SIGINT');
    // At the very first moment it has begun nothing it would have to end.
    expect([0, 'SIGINT']).toContain(await start.over);
    expect(running(folder)).toEqual([]);
  }
  await goes();
});

test('killed while the database is made, the next start makes it', async () => {
  const start = begun();
  await vi.waitFor(() => expect(readdirSync(folder).some((name) => name.startsWith('db.making'))).toBe(true), {
    timeout: 30_000,
    interval: 5,
  });
  start.kill('SIGKILL');
  await start.over;
  await goes();
});

test('killed at any moment of the first start, the next one goes and has the demo', async () => {
  for (const moment of [1500, 2200, 2900]) {
    const start = begun();
    await new Promise((later) => setTimeout(later, moment));
    start.kill('SIGKILL');
    await start.over;
  }
  await goes();
});

test('killed, it can be started again at once', async () => {
  const start = begun();
  await start.says(READY);
  start.kill('SIGKILL');
  await start.over;
  await goes();
});

test('a number in running.pid that is another program’s by now holds nobody up; a running Varrup does', async () => {
  writeFileSync(join(folder, 'running.pid'), `${process.pid}\n`);
  const start = begun();
  await start.says(READY);
  const second = begun();
  expect(await second.over).toBe(1);
  expect(second.output).toMatch(/^Varrup is running already with the data in .* \(process \d+\)/);
  expect(await start.productions()).toContain('Night Ferry');
  await start.end();
});

test('a server or a database that dies comes back by itself', async () => {
  const start = begun();
  await start.says(READY);
  for (const [who, words] of [
    [server, 'The server ended by itself'],
    [postmaster, 'The database ended by itself'],
    [server, 'The server ended by itself'],
  ] as const) {
    const pid = who();
    expect(pid).toBeGreaterThan(0);
    process.kill(pid, 'SIGKILL');
    await start.says(words);
    await vi.waitFor(async () => expect(await start.productions()).toContain('Night Ferry'), {
      timeout: 30_000,
      interval: 50,
    });
    expect(who()).not.toBe(pid);
  }
  await start.end();
  expect(running(folder)).toEqual([]);
});

test('a server that dies again and again is given up, with a sentence', async () => {
  const start = begun();
  await start.says(READY);
  let last = 0;
  const hunt = setInterval(() => {
    const pid = server();
    if (pid && pid !== last) {
      last = pid;
      process.kill(pid, 'SIGKILL');
    }
  }, 50);
  expect(await start.over).toBe(1);
  clearInterval(hunt);
  expect(start.output).toContain('for the 6th time within a minute. Nothing that was saved is lost');
  expect(running(folder)).toEqual([]);
});
