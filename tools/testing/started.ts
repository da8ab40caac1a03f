import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, expect, vi } from 'vitest';

/** Varrup as `npm start` starts it, in a folder and on a port of a test's own; nothing of it is left when the test is over. */

const started: Start[] = [];
const folders: string[] = [];
const kept: string[] = [];
afterEach(async () => {
  for (const start of started.splice(0)) await start.end();
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});

afterAll(() => {
  for (const folder of kept.splice(0)) rmSync(folder, { recursive: true, force: true });
});

/** A folder for data. @param how `keep` where more than one test needs it */
export function newFolder(how: { readonly keep?: boolean } = {}): string {
  const folder = mkdtempSync(join(tmpdir(), 'varrup-start-'));
  // The database's own user must be able to go there.
  chmodSync(folder, 0o755);
  (how.keep ? kept : folders).push(folder);
  return folder;
}

export const freePort = () =>
  new Promise<number>((found) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => found(typeof address === 'object' && address ? address.port : 0));
    });
  });

export const READY = 'Varrup is ready';

export class Start {
  output = '';
  readonly #child: ChildProcess;
  readonly #port: number;
  readonly over: Promise<number | string | null>;

  constructor(folder: string, port: number, args: readonly string[] = ['tools/start.mjs']) {
    const env = { ...process.env, VARRUP_DATA: folder, PORT: String(port) };
    this.#port = port;
    this.#child = spawn(process.execPath, args, { env, stdio: ['ignore', 'pipe', 'pipe'] });
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

  /** Asks the server for something, or tells it something. */
  async ask<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
    const answer = await fetch(`http://127.0.0.1:${this.#port}/api${path}`, {
      method,
      headers: { 'x-varrup': 'test', 'content-type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    return (await answer.json()) as T;
  }

  async productions(): Promise<string[]> {
    return (await this.ask<{ productions: { name: string }[] }>('/productions')).productions.map((p) => p.name);
  }

  async end(): Promise<void> {
    this.kill('SIGTERM');
    await this.over;
  }
}

/** What `/proc` says of a process; nothing when it has ended, as a process may between being listed and being asked about. */
function told(pid: string | number, what: 'cmdline' | 'environ'): string {
  try {
    return readFileSync(`/proc/${pid}/${what}`, 'latin1');
  } catch {
    return '';
  }
}

/** The program a process runs, without what it was told. */
export const programOf = (pid: number): string => told(pid, 'cmdline').split('\0')[0];

/** The processes whose command has some words in it and that belong to a folder. */
export const running = (folder: string, words = ''): number[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .filter((pid) => {
      const command = told(pid, 'cmdline');
      return command !== '' && command.includes(words) && (told(pid, 'environ') + command).includes(folder);
    })
    .map(Number);
