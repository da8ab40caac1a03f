import { spawn } from 'node:child_process';
import { createReadStream, existsSync, statSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { readHead, requireUnchanged, writeBackup } from './backup-file.mjs';
import { ensureServer } from './build.mjs';
import { isEmpty } from './data/folder.mjs';
import { ensureFolder, hasDatabase, makeWhereEmpty, startDatabase } from './database.mjs';
import { heldBy, lock } from './lock.mjs';
import { capture, root, run } from './process.mjs';
import { Stop, say } from './say.mjs';
import { freeBytes, megabytes } from './trouble.mjs';

/** The care of the data: backups, putting them back, looking all of it through, and having back what still reads of a shot. */

/** `varrup backup FILE` */
export async function backup(dataDir, given) {
  const file = resolve(given ?? `varrup-${new Date().toISOString().slice(0, 10)}.backup`);
  if (existsSync(file)) throw new Stop(`${file} is there already; name another file.`);
  if (!existsSync(dirname(file)) || !statSync(dirname(file)).isDirectory())
    throw new Stop(`There is no folder ${dirname(file)}. Make it first, or name a file elsewhere.`);
  await withDatabase(dataDir, 'varrup backup', async (database) => {
    const shots = await shotsIn(database);
    const { stream, over } = dumpOf(database);
    const size = await writeBackup(file, stream, over).catch((error) => {
      if (error.code !== 'ENOSPC') throw error;
      throw new Stop(
        `The disk is full: ${megabytes(freeBytes(dirname(file)))} are free in ${dirname(file)}, which is too little for the backup. Nothing of it was kept. Make room, or name a file on another disk.`,
      );
    });
    say(`${file}: ${shots} shots, ${(size / 1e6).toFixed(1)} MB, read back and whole.`);
  });
}

/** How many shots there are. @throws Stop where there is nothing that could be kept */
async function shotsIn({ url, programs }) {
  const { code, output } = await capture(join(programs, 'psql'), [
    '-w',
    '-d',
    url,
    '-Atc',
    'SELECT count(*) FROM shots',
  ]);
  if (code === 0) return Number(output);
  if (/relation "shots" does not exist/.test(output))
    throw new Stop('There is nothing in the database yet. Start Varrup once with npm start, then make a backup.');
  throw new Stop(
    `The database cannot be read: PostgreSQL says “${errorIn(output)}”. Run varrup verify, or restore a backup into an empty folder.`,
  );
}

/** The database as PostgreSQL dumps it, and a promise that it came to its end. */
function dumpOf({ url, programs }) {
  const child = spawn(join(programs, 'pg_dump'), ['-Fc', '-d', url], { stdio: ['ignore', 'pipe', 'pipe'] });
  let output = '';
  child.stderr.on('data', (data) => {
    output += data;
  });
  const code = new Promise((done) => child.on('exit', done));
  const over = async () => {
    if ((await code) === 0) return;
    throw new Stop(
      `The database cannot be read as a whole, and no backup was made: PostgreSQL says “${errorIn(output)}”. Run varrup verify, which says what still reads, or restore an older backup into an empty folder.`,
    );
  };
  return { stream: child.stdout, over };
}

/** The server's own words in what a program of PostgreSQL's has printed. */
const errorIn = (output) => /ERROR:\s*(.*)/.exec(output)?.[1] ?? output.trim().split('\n').at(-1);

/** `varrup restore FILE`, into a data folder that has nothing in it */
export async function restore(dataDir, file) {
  if (!file) throw new Stop('Name the backup: varrup restore FILE');
  const head = readHead(file);
  await requireUnchanged(file, head).catch((error) => {
    if (!(error instanceof Stop)) throw error;
    throw new Stop(`${error.message} Nothing was put back.`);
  });
  ensureFolder(dataDir);
  const elsewhere = 'Put the backup into another folder: set VARRUP_DATA.';
  const holder = await heldBy(join(dataDir, 'running.pid'));
  if (holder?.what === 'npm start') throw new Stop(`Varrup is running with the data in ${dataDir}. ${elsewhere}`);
  if ((await hasDatabase(dataDir)) || !isEmpty(dataDir))
    throw new Stop(`There are data in ${dataDir} already, which stay. ${elsewhere}`);
  await ensureServer();
  let code = 0;
  await whileHeld(dataDir, 'varrup restore', () =>
    makeWhereEmpty(dataDir, async (database) => {
      await putBack(database, file, head.start);
      code = await care(database, 'migrate', 'verify');
      if (code > 1) throw new Stop('The backup could not be looked through. Nothing was put back.');
    }),
  );
  say(`Put back into ${dataDir}${code === 0 ? '' : ', with what is wrong in it as it was: see above'}.`);
  process.exitCode = code;
}

/** `varrup verify` */
export async function verify(dataDir) {
  await ensureServer();
  await withDatabase(dataDir, 'varrup verify', async (database) => {
    process.exitCode = await care(database, 'verify');
  });
}

/** `varrup mend SHOT`: a copy of a shot as it was at the last of its revisions that holds. */
export async function mend(dataDir, shot) {
  if (!shot) throw new Stop('Name the shot by its id, which varrup verify tells: varrup mend SHOT');
  await ensureServer();
  await withDatabase(dataDir, 'varrup mend', async (database) => {
    process.exitCode = await care(database, 'mend', shot);
  });
}

/** Has the server's own code work at the database. @returns 0 where all is well, 1 where something is wrong, more where it could not work */
const care = (database, ...what) =>
  run(process.execPath, [join(root, 'server/dist/care.js'), ...what], {
    env: { ...process.env, VARRUP_DATABASE: database.url },
  });

/** The database of a folder: that of the Varrup that runs, or one that is started and stopped again while nobody else may. */
async function withDatabase(dataDir, what, work) {
  if (!(await hasDatabase(dataDir))) return void (await startDatabase(dataDir));
  const holder = await heldBy(join(dataDir, 'running.pid'));
  if (holder?.what === 'npm start') return work(await startDatabase(dataDir, { shared: true }));
  await whileHeld(dataDir, what, async () => {
    const database = await startDatabase(dataDir);
    try {
      await work(database);
    } finally {
      if (!database.ranBefore) await database.stop();
    }
  });
}

async function whileHeld(dataDir, what, work) {
  const held = await lock(join(dataDir, 'running.pid'), what);
  const release = () => held.release();
  process.once('exit', release);
  try {
    await work();
  } finally {
    release();
    process.off('exit', release);
  }
}

/** Hands a dump to the database from a place of a file on: by a pipe, since the program would go back to the file's beginning. */
async function putBack({ url, programs }, file, start) {
  const args = ['--no-owner', '--exit-on-error', '--single-transaction', '-d', url];
  const child = spawn(join(programs, 'pg_restore'), args, { stdio: ['pipe', 'ignore', 'pipe'] });
  let output = '';
  child.stderr.on('data', (data) => {
    output += data;
  });
  const over = new Promise((done) => child.on('exit', done));
  // Where it ends early it says why itself.
  await pipeline(createReadStream(file, { start }), child.stdin).catch(() => {});
  if ((await over) === 0) return;
  if (/No space left on device/.test(output))
    throw new Stop('The disk is too full for what is in the backup. Nothing was put back. Make room and try again.');
  throw new Stop(`The backup cannot be restored: PostgreSQL says “${errorIn(output)}”. Nothing was put back.`);
}
