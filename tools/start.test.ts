import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';

/** `npm start` at bad moments: whatever is killed, and whenever, the next start goes, and nothing is left running. */

let folder = '';
let port = 0;
const started: Start[] = [];
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'varrup-start-'));
  // The database's own user must be able to go there.
  chmodSync(folder, 0o755);
  port = await freePort();
});
afterEach(async () => {
  for (const start of started.splice(0)) await start.end();
  rmSync(folder, { recursive: true, force: true });
});

const freePort = () =>
  new Promise<number>((found) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => found(typeof address === 'object' && address ? address.port : 0));
    });
  });

/** A start of Varrup in a folder and on a port of the test's own. */
class Start {
  output = '';
  readonly #child: ChildProcess;
  readonly over: Promise<number | string | null>;

  constructor() {
    const env = { ...process.env, VARRUP_DATA: folder, PORT: String(port) };
    this.#child = spawn(process.execPath, ['tools/start.mjs'], { env, stdio: ['ignore', 'pipe', 'pipe'] });
    for (const stream of [this.#child.stdout!, this.#child.stderr!])
      stream.on('data', (data) => {
        this.output += data;
      });
    this.over = new Promise((done) => this.#child.on('exit', (code, signal) => done(signal ?? code)));
    started.push(this);
  }

  kill(signal: NodeJS.Signals): void {
    this.#child.kill(signal);
  }

  async says(words: string): Promise<void> {
    await vi.waitFor(() => expect(this.output).toContain(words), { timeout: 60_000, interval: 25 });
  }

  async end(): Promise<void> {
    this.kill('SIGTERM');
    await this.over;
  }
}

const ready = 'Varrup is ready';
const productions = async (): Promise<string[]> => {
  const answer = await fetch(`http://127.0.0.1:${port}/api/productions`);
  return ((await answer.json()) as { productions: { name: string }[] }).productions.map((p) => p.name);
};
/** The processes whose command names something of this test's. */
const running = (words: string): number[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .filter((pid) => {
      try {
        const env = readFileSync(`/proc/${pid}/environ`, 'latin1');
        const command = readFileSync(`/proc/${pid}/cmdline`, 'latin1');
        return command.includes(words) && (env.includes(folder) || command.includes(folder));
      } catch {
        return false;
      }
    })
    .map(Number);
const postmaster = (): number => running(join(folder, 'db')).find((pid) => isPostmaster(pid)) ?? 0;
const isPostmaster = (pid: number) =>
  readFileSync(`/proc/${pid}/cmdline`, 'latin1').split('\0')[0].endsWith('/postgres');
const server = (): number => running('server/dist/main.js')[0] ?? 0;

/** A start that goes, with the demo in it, and ends in order. */
async function goes(): Promise<void> {
  const start = new Start();
  await start.says(ready);
  expect(await productions()).toContain('Night Ferry');
  await start.end();
  expect(running('')).toEqual([]);
}

test('stopped while it starts, it leaves nothing running and nothing in the way', async () => {
  for (const moment of [50, 900, 1800, 2600]) {
    const start = new Start();
    await new Promise((later) => setTimeout(later, moment));
    start.kill('SIGINT');
    // At the very first moment it has begun nothing it would have to end.
    expect([0, 'SIGINT']).toContain(await start.over);
    expect(running('')).toEqual([]);
  }
  await goes();
});

test('killed while the database is made, the next start makes it', async () => {
  const start = new Start();
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
    const start = new Start();
    await new Promise((later) => setTimeout(later, moment));
    start.kill('SIGKILL');
    await start.over;
  }
  await goes();
});

test('killed, it can be started again at once', async () => {
  const start = new Start();
  await start.says(ready);
  start.kill('SIGKILL');
  await start.over;
  await goes();
});

test('a number in running.pid that is another program’s by now holds nobody up; a running Varrup does', async () => {
  writeFileSync(join(folder, 'running.pid'), `${process.pid}\n`);
  const start = new Start();
  await start.says(ready);
  const second = new Start();
  expect(await second.over).toBe(1);
  expect(second.output).toMatch(/^Varrup is running already with the data in .* \(process \d+\)/);
  expect(await productions()).toContain('Night Ferry');
  await start.end();
});

test('a server or a database that dies comes back by itself', async () => {
  const start = new Start();
  await start.says(ready);
  for (const [who, words] of [
    [server, 'The server ended by itself'],
    [postmaster, 'The database ended by itself'],
    [server, 'The server ended by itself'],
  ] as const) {
    const pid = who();
    expect(pid).toBeGreaterThan(0);
    process.kill(pid, 'SIGKILL');
    await start.says(words);
    await vi.waitFor(async () => expect(await productions()).toContain('Night Ferry'), {
      timeout: 30_000,
      interval: 50,
    });
    expect(who()).not.toBe(pid);
  }
  await start.end();
  expect(running('')).toEqual([]);
});

test('a server that dies again and again is given up, with a sentence', async () => {
  const start = new Start();
  await start.says(ready);
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
  expect(running('')).toEqual([]);
});
