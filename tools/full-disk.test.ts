import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, expect, test, vi } from 'vitest';
import { freePort, newFolder, READY, running, Start } from './testing/started.ts';

/** A disk that is full: what was saved stays, reading goes on, it is said what is needed, and all goes on by itself when there is room. */

const mounted: string[] = [];
afterEach(() => {
  for (const folder of mounted.splice(0)) execFileSync('umount', ['-l', folder]);
});

/** A disk of so many megabytes. */
function disk(megabytes: number): string {
  const folder = join(newFolder(), 'disk');
  mkdirSync(folder);
  execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m,mode=755`, 'varrup-test', folder]);
  mounted.push(folder);
  return folder;
}

const mayMount = (() => {
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=1m', 'varrup-test', newFolder()]);
    execFileSync('umount', ['varrup-test']);
    return process.getuid?.() === 0;
  } catch {
    return false;
  }
})();

/** Fills a disk but for so many bytes. */
function fill(folder: string, but: number): void {
  const { bavail, bsize } = statfsSync(folder);
  writeFileSync(join(folder, 'filler'), Buffer.alloc(Math.max(0, bavail * bsize - but)));
}

interface Answer {
  readonly error?: string;
  readonly revision?: number;
  readonly room?: string;
  readonly free?: number;
  readonly document?: object;
}

test.runIf(mayMount)(
  'while Varrup runs: edits are refused with what is needed, reading goes on, and so does all when there is room',
  async () => {
    const folder = disk(700);
    const start = new Start(folder, await freePort());
    await start.says(READY);
    const { id } = await start.ask<{ id: string }>('/productions', 'POST', { name: 'Storm' });
    const { id: shot } = await start.ask<{ id: string }>(`/productions/${id}/shots`, 'POST', { name: 'Gale' });
    const edit = (n: number) =>
      start.ask<Answer>(`/shots/${shot}/edits`, 'POST', {
        base: n,
        edits: [
          {
            id: `e${n}`,
            command: 'shot.rate',
            label: 'rate',
            patches: [{ op: 'replace', path: '/rate', value: 30 + n }],
          },
        ],
      });
    expect(await edit(0)).toMatchObject({ revision: 1 });
    const room = (state: string) =>
      vi.waitFor(async () => expect((await start.ask<Answer>('/health')).room).toBe(state), { timeout: 20_000 });

    fill(folder, 200e6);
    await room('low');
    expect(await edit(1)).toMatchObject({ revision: 2 });
    rmSync(join(folder, 'filler'));
    fill(folder, 100_000);
    await room('full');
    const refused = await edit(2);
    expect(refused.error).toMatch(/disk is full: \d+ MB are free, and \d+ MB are needed\. What was saved is kept/);
    expect(await start.ask<Answer>(`/shots/${shot}`)).toMatchObject({ revision: 2 });
    expect(await start.productions()).toContain('Storm');

    // The database may end meanwhile, and comes back.
    const postmaster = running(folder, join(folder, 'db'))[0];
    process.kill(postmaster, 'SIGKILL');
    await start.says('The database ended by itself');
    await vi.waitFor(async () => expect(await start.ask<Answer>(`/shots/${shot}`)).toMatchObject({ revision: 2 }), {
      timeout: 60_000,
      interval: 200,
    });

    rmSync(join(folder, 'filler'));
    await room('enough');
    expect(await edit(2)).toMatchObject({ revision: 3 });
    await start.end();

    // And started on it.
    fill(folder, 100_000);
    const again = new Start(folder, await freePort());
    await Promise.race([again.says(READY), again.over]);
    if (again.output.includes(READY)) expect(await again.ask<Answer>(`/shots/${shot}`)).toMatchObject({ revision: 3 });
    else expect(again.output).toMatch(/The disk is full: .*MB to start.*Everything that was saved is kept/);
    await again.end();
    rmSync(join(folder, 'filler'));
    const last = new Start(folder, await freePort());
    await last.says(READY);
    expect(await last.ask<Answer>(`/shots/${shot}`)).toMatchObject({ revision: 3 });
    await last.end();
  },
);

test.runIf(mayMount)('before the first start: it is said how much is needed, and nothing is made', async () => {
  const folder = disk(60);
  const start = new Start(join(folder, 'data'), await freePort());
  expect(await start.over).toBe(1);
  expect(start.output).toMatch(/The disk is too full to begin: a new database needs 300 MB, and \d+ MB are free/);
  expect(readdirSync(join(folder, 'data'))).toEqual([]);
  const full = disk(1);
  fill(full, 0);
  const other = new Start(join(full, 'data'), await freePort());
  expect(await other.over).toBe(1);
  expect(other.output).toMatch(/The disk is (too )?full/);
  expect(other.output).not.toMatch(/somebody else|^\s+at /m);
});

test.runIf(mayMount)('a backup for which there is no room leaves nothing, and says how much there is', async () => {
  const data = join(newFolder(), 'data');
  const start = new Start(data, await freePort());
  await start.says(READY);
  const folder = disk(1);
  const tool = new Start(data, 0, ['tools/varrup.mjs', 'backup', join(folder, 'all.backup')]);
  expect(await tool.over).toBe(1);
  expect(tool.output).toMatch(/The disk is full: \d+ MB are free in .* Nothing of it was kept/);
  expect(readdirSync(folder)).toEqual([]);
  expect(existsSync(join(data, 'db'))).toBe(true);
  await start.end();
});
