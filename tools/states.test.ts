import { execFileSync } from 'node:child_process';
import {
  chmodSync,
  chownSync,
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, test } from 'vitest';
import { freePort, newFolder, READY, running, Start } from './testing/started.ts';

/**
 * Folders of data as machines and people leave them: copied badly, cut, emptied, of somebody else. Whatever is done with one, nothing that was
 * in it is less than before, and what cannot be done is refused with a sentence that says what to do.
 */

const SHOT = 'The work of a week';
let whole = '';
let backup = '';
beforeAll(async () => {
  whole = join(newFolder({ keep: true }), 'data');
  const start = new Start(whole, await freePort());
  await start.says(READY);
  const { id } = await start.ask<{ id: string }>('/productions', 'POST', { name: SHOT });
  await start.ask(`/productions/${id}/shots`, 'POST', { name: SHOT });
  await start.end();
  backup = `${whole}.backup`;
  expect((await varrup(whole, 'backup', backup)).code).toBe(0);
}, 120_000);

const varrup = async (folder: string, ...args: string[]) => {
  const tool = new Start(folder, 0, ['tools/varrup.mjs', ...args]);
  return { code: await tool.over, output: tool.output };
};

/** A copy of the whole folder, with its owners. */
function copy(): string {
  const folder = join(newFolder(), 'data');
  execFileSync('cp', ['-a', whole, folder]);
  return folder;
}

/** All that lies in a folder, with its size, but for what says who is at work there and the database's own diary. */
function inventory(folder: string): Map<string, number> {
  const found = new Map<string, number>();
  const visit = (path: string) => {
    const info = statSync(path, { throwIfNoEntry: false });
    if (!info) return;
    if (!info.isDirectory()) found.set(path.slice(folder.length), info.size);
    else for (const name of readdirSync(path)) visit(join(path, name));
  };
  visit(folder);
  for (const path of found.keys())
    if (/running\.pid|server\.log|postmaster\.(pid|opts)|pg_stat|pg_internal\.init/.test(path)) found.delete(path);
  return found;
}

/** A refusal is sentences for a person: no stack, no name of a function, and something to do. */
function isSentence(output: string): void {
  expect(output).not.toMatch(/^\s+at .*:\d+:\d+/m);
  expect(output).not.toMatch(/\b(undefined|ENOENT|EACCES|EEXIST|TypeError|Error:)/);
  expect(output).toMatch(/[.”]/);
  expect(output).toMatch(
    /copy|Copy|copied|restore|Choose|choose|run:|Run|Install|Mount|Name|Wait|Stop|Bring|belong|try again|Start it/,
  );
}

const inDb = (name: string) => (folder: string) => join(folder, 'db', name);
const gone = (name: string) => (folder: string) => rmSync(inDb(name)(folder), { recursive: true });
const emptied = (name: string) => (folder: string) => truncateSync(inDb(name)(folder), 0);
const cut = (name: string, to: number) => (folder: string) => truncateSync(inDb(name)(folder), to);
const isRoot = process.getuid?.() === 0;
const asRoot = (damage: (folder: string) => unknown) => (isRoot ? damage : null);
const closed = (name: string, mode: number) => (folder: string) => chmodSync(inDb(name)(folder), mode);
const ofRoot = (name: string) => asRoot((folder) => chownSync(inDb(name)(folder), 0, 0));
/** The newest piece of the log that the database writes ahead. */
const wal = (folder: string) => {
  const names = readdirSync(inDb('pg_wal')(folder)).filter((name) => /^[0-9A-F]{24}$/.test(name));
  return inDb(`pg_wal/${names.sort().at(-1)}`)(folder);
};

/** Every command is tried on every folder with `VARRUP_STATES=all`; otherwise one after the other, on folder after folder. */
let turn = 0;
const someOf = <T>(commands: readonly T[]): readonly T[] =>
  process.env.VARRUP_STATES === 'all' ? commands : [commands[turn++ % commands.length]];

type Damage = ((folder: string) => unknown) | null;

/** What is refused: by every command, with nothing changed. */
const refused: readonly (readonly [string, Damage, RegExp])[] = [
  ['PG_VERSION is missing', gone('PG_VERSION'), /not whole.*PG_VERSION/],
  ['PG_VERSION is empty', emptied('PG_VERSION'), /not whole.*PG_VERSION/],
  ['PG_VERSION is spoilt', (f) => writeFileSync(inDb('PG_VERSION')(f), 'hello\n'), /PG_VERSION is spoilt/],
  ['it was made by another PostgreSQL', (f) => writeFileSync(inDb('PG_VERSION')(f), '9\n'), /made by PostgreSQL 9/],
  ['the control file is missing', gone('global/pg_control'), /not whole.*global\/pg_control/],
  ['the control file is empty', emptied('global/pg_control'), /not whole.*global\/pg_control/],
  ['the control file is cut', cut('global/pg_control', 100), /cannot be started.*pg_control/],
  [
    'the control file is spoilt',
    (f) => writeFileSync(inDb('global/pg_control')(f), Buffer.alloc(8192, 7)),
    /cannot be started/,
  ],
  ['the folder global is missing', gone('global'), /not whole.*the folder global/],
  ['the folder base is missing', gone('base'), /not whole.*the folder base/],
  ['the folder pg_wal is missing', gone('pg_wal'), /not whole.*the folder pg_wal/],
  ['the folder pg_xact is missing', gone('pg_xact'), /not whole.*the folder pg_xact/],
  ['the folder pg_multixact is missing', gone('pg_multixact'), /not whole.*pg_multixact/],
  ['the map of files is missing', gone('global/pg_filenode.map'), /not whole.*pg_filenode/],
  ['the map of files is empty', emptied('global/pg_filenode.map'), /not whole.*pg_filenode/],
  ['the map of files is spoilt', cut('global/pg_filenode.map', 20), /cannot be started|does not answer/],
  [
    'the log ahead is empty',
    (f) =>
      readdirSync(inDb('pg_wal')(f))
        .filter((n) => n.length === 24)
        .map((n) => rmSync(inDb(`pg_wal/${n}`)(f))),
    /cannot be started/,
  ],
  ['the newest of the log ahead is cut', (f) => truncateSync(wal(f), 100), /cannot be started/],
  ['all of db is missing', gone(''), /db-password, and no folder db/],
  [
    'db is an empty folder',
    (f) => {
      gone('')(f);
      mkdirSync(inDb('')(f), { mode: 0o700 });
      if (isRoot) execFileSync('chown', ['postgres:', inDb('')(f)]);
    },
    /not whole/,
  ],
  [
    'db is a file',
    (f) => {
      gone('')(f);
      writeFileSync(join(f, 'db'), 'hello');
    },
    /is a file, and should be the folder/,
  ],
  ['settings are spoilt', (f) => writeFileSync(inDb('postgresql.conf')(f), 'nonsense {'), /cannot be started/],
  ['the database belongs to root', ofRoot(''), /belongs to the user root/],
  ['a file of it belongs to root', ofRoot('global/pg_control'), /may not use all files/],
  ['the folder is read-only', closed('', 0o500), /may not use all files/],
  ['a folder in it may not be read', closed('global', 0o000), /may not use all files/],
];

/** What goes, by itself or with a sentence: all that was in it is there. */
const goes: readonly (readonly [string, Damage, RegExp])[] = [
  ['nothing is wrong', () => {}, /ready/],
  ['the password is missing', (f) => rmSync(join(f, 'db-password')), /a new one was set/],
  ['the password is empty', (f) => truncateSync(join(f, 'db-password'), 0), /a new one was set/],
  ['the password is another', (f) => writeFileSync(join(f, 'db-password'), 'another'), /a new one was set/],
  [
    'settings are missing',
    (f) => ['postgresql.conf', 'pg_hba.conf', 'pg_ident.conf', 'postgresql.auto.conf'].map((n) => gone(n)(f)),
    /holds no work: postgresql\.conf/,
  ],
  [
    'settings are empty',
    (f) => ['postgresql.conf', 'pg_hba.conf'].map((n) => emptied(n)(f)),
    /holds no work: postgresql\.conf/,
  ],
  [
    'empty folders were left out',
    (f) => {
      for (const name of [
        'pg_notify',
        'pg_replslot',
        'pg_tblspc',
        'pg_twophase',
        'pg_snapshots',
        'pg_serial',
        'pg_dynshmem',
      ])
        gone(name)(f);
    },
    /holds no work: pg_dynshmem/,
  ],
  ['others may read it', closed('', 0o755), /ready/],
  ['it was moved', (f) => renameSync(f, `${f}-elsewhere`), /ready/],
  [
    'it is reached by a link',
    (f) => {
      renameSync(f, `${f}-elsewhere`);
      symlinkSync(`${f}-elsewhere`, f);
    },
    /ready/,
  ],
  [
    'a start that was killed left its note',
    (f) => writeFileSync(join(f, 'running.pid'), '999999\nMon Jan  1 00:00:00 2024\n'),
    /ready/,
  ],
  ['its note is empty', (f) => writeFileSync(join(f, 'running.pid'), ''), /ready/],
  ['its note is nonsense', (f) => writeFileSync(join(f, 'running.pid'), 'hello\0there'), /ready/],
  [
    'a database that was being made lies beside it',
    (f) => {
      mkdirSync(join(f, 'db.making-999999', 'db'), { recursive: true });
      writeFileSync(join(f, 'db.making-999999', 'VARRUP-IS-MAKING-THIS'), '999999\n');
    },
    /ready/,
  ],
];

describe('a folder of data in which', () => {
  test.each(refused.filter(([, damage]) => damage))(
    '%s is refused by every command, and stays as it is',
    async (_, damage, words) => {
      const folder = copy();
      damage!(folder);
      const before = inventory(folder);
      const start = new Start(folder, await freePort());
      expect(await start.over).toBe(1);
      const told = [start.output];
      for (const args of someOf([['backup', `${folder}.backup`], ['verify'], ['mend', 'some-shot']]))
        told.push((await varrup(folder, ...args)).output);
      for (const output of told) {
        expect(output).toMatch(words);
        isSentence(output);
      }
      const restored = await varrup(folder, 'restore', backup);
      expect(restored).toMatchObject({ code: 1, output: expect.stringContaining('There are data in') });
      expect(inventory(folder)).toEqual(before);
      expect(existsSync(`${folder}.backup`)).toBe(false);
      expect(running(folder)).toEqual([]);
    },
  );

  test.each(goes.filter(([, damage]) => damage))('%s goes, with all that was in it', async (_, damage, words) => {
    const given = copy();
    damage!(given);
    const folder = existsSync(given) ? given : `${given}-elsewhere`;
    const first = new Start(folder, await freePort());
    await first.says(READY);
    expect(first.output).toMatch(words);
    expect(await first.productions()).toEqual(['Night Ferry', SHOT]);
    await first.end();
    for (const args of someOf([['backup', `${given}.backup`], ['verify']]))
      expect(await varrup(folder, ...args)).toMatchObject({
        code: 0,
        output: expect.stringMatching(/whole\.|All is well\./),
      });
    expect(running(folder)).toEqual([]);
  });
});

/** The largest file of a table: of footage, or of snapshots. */
function largest(folder: string): string {
  const base = inDb('base')(folder);
  const files = readdirSync(base).flatMap((name) =>
    readdirSync(join(base, name)).map((file) => join(base, name, file)),
  );
  return files.reduce((a, b) => (statSync(a).size >= statSync(b).size ? a : b));
}

test.each<[string, (file: string) => void]>([
  ['missing', (file) => rmSync(file)],
  ['empty', (file) => truncateSync(file, 0)],
  ['cut', (file) => truncateSync(file, Math.floor(statSync(file).size / 3))],
  ['overwritten', (file) => writeFileSync(file, Buffer.alloc(statSync(file).size, 7))],
])(
  'a file of a table that is %s is found, and costs nothing else',
  async (_, damage) => {
    const folder = copy();
    damage(largest(folder));
    const before = inventory(folder);
    const verified = await varrup(folder, 'verify');
    expect(verified.code).not.toBe(0);
    expect(verified.output).not.toMatch(/^\s+at /m);
    expect(verified.output).toMatch(/is wrong|are wrong|does not read/);
    const backedUp = await varrup(folder, 'backup', `${folder}.backup`);
    if (backedUp.code !== 0) isSentence(backedUp.output);
    const start = new Start(folder, await freePort());
    await Promise.race([start.says(READY), start.over]);
    if (!start.output.includes(READY)) isSentence(start.output);
    await start.end();
    const after = inventory(folder);
    for (const [path, size] of before)
      expect(after.get(path) ?? 0, path).toBeGreaterThanOrEqual(path.includes('pg_wal') ? 0 : size);
  },
  180_000,
);

describe('where there are no data', () => {
  test('only a start makes some, and only in an empty folder', async () => {
    const folder = join(newFolder(), 'data');
    for (const args of [['backup', `${folder}.backup`], ['verify'], ['mend', 'some-shot']])
      expect(await varrup(folder, ...args)).toMatchObject({ code: 1, output: `There are no data in ${folder}.\n` });
    expect(existsSync(folder)).toBe(false);

    mkdirSync(folder);
    writeFileSync(join(folder, 'thesis.txt'), 'hello');
    const start = new Start(folder, await freePort());
    expect(await start.over).toBe(1);
    expect(start.output).toMatch(/holds other things \(thesis\.txt\).*Choose an empty folder/);
    expect(readdirSync(folder)).toEqual(['thesis.txt']);
  });

  test('a folder that is a file, or has no place, is refused with a sentence', async () => {
    const folder = newFolder();
    writeFileSync(join(folder, 'file'), 'hello');
    for (const path of [join(folder, 'file'), join(folder, 'file', 'data')]) {
      const start = new Start(path, await freePort());
      expect(await start.over).toBe(1);
      isSentence(start.output);
      for (const args of [['verify'], ['restore', backup]]) {
        const { code, output } = await varrup(path, ...args);
        expect(code).toBe(1);
        expect(output).not.toMatch(/^\s+at /m);
      }
    }
    expect(readFileSync(join(folder, 'file'), 'utf8')).toBe('hello');
  });

  test('a backup goes to no folder that is not there, and is restored from none', async () => {
    const folder = copy();
    expect(await varrup(folder, 'backup', join(folder, 'nowhere', 'b'))).toMatchObject({
      code: 1,
      output: expect.stringMatching(/There is no folder .*nowhere/),
    });
    const other = join(newFolder(), 'data');
    expect(await varrup(other, 'restore', folder)).toMatchObject({
      code: 1,
      output: expect.stringMatching(/is not a file/),
    });
    expect(existsSync(join(other, 'db'))).toBe(false);
  });
});

test('a folder copied while Varrup runs is a folder of its own: the two do not share a database', async () => {
  const folder = copy();
  const first = new Start(folder, await freePort());
  await first.says(READY);
  const other = join(newFolder(), 'data');
  cpSync(folder, other, { recursive: true, preserveTimestamps: true });
  if (isRoot) execFileSync('chown', ['-R', 'postgres:', join(other, 'db')]);
  const second = new Start(other, await freePort());
  await second.says(READY);
  expect(second.output).toMatch(/was copied from .* while its database ran.*verify/);
  await second.ask('/productions', 'POST', { name: 'Only in the copy' });
  await second.end();
  expect(await first.productions()).toEqual(['Night Ferry', SHOT]);
  await first.end();
  expect(await varrup(other, 'verify')).toMatchObject({ code: 0 });
});

test('killed while a backup is put back, it leaves a folder in which that can be done again', async () => {
  const folder = join(newFolder(), 'data');
  const tool = new Start(folder, 0, ['tools/varrup.mjs', 'restore', backup]);
  while (!existsSync(join(folder, 'running.pid'))) await new Promise((later) => setTimeout(later, 5));
  await new Promise((later) => setTimeout(later, 1200));
  tool.kill('SIGKILL');
  await tool.over;
  expect(existsSync(join(folder, 'db'))).toBe(false);
  expect(await varrup(folder, 'restore', backup)).toMatchObject({ code: 0 });
  const start = new Start(folder, await freePort());
  await start.says(READY);
  expect(await start.productions()).toEqual(['Night Ferry', SHOT]);
  await start.end();
});
