import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { closeSync, createReadStream, createWriteStream, existsSync, openSync, readSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { ensureServer } from './build.mjs';
import { hasDatabase, postgresPrograms, removeDatabase, startDatabase } from './database.mjs';
import { isLocked } from './lock.mjs';
import { capture, root, run } from './process.mjs';
import { Stop, say } from './say.mjs';

/**
 * The care of the data: backups, putting them back, and looking all of it through. A backup is one file: a line of JSON that says what it
 * is, with the hash of what follows, and then the database as PostgreSQL dumps it, all of one moment, also of a Varrup that runs.
 */
const FORMAT = 'varrup backup';

/** `varrup backup FILE` */
export async function backup(dataDir, given) {
  const file = given ?? `varrup-${new Date().toISOString().slice(0, 10)}.backup`;
  if (existsSync(file)) throw new Stop(`${file} is there already; name another file.`);
  if (!(await hasDatabase(dataDir))) throw new Stop(`There are no data in ${dataDir}.`);
  const dump = `${file}.making`;
  await withDatabase(dataDir, async (database) => {
    const { code, output } = await capture(join(await postgresPrograms(), 'pg_dump'), [
      '-Fc',
      '-f',
      resolve(dump),
      '-d',
      database.url,
    ]);
    if (code !== 0) throw new Stop(`The database could not be read:\n${output.trim()}`);
  });
  const { hash, size } = await hashOf(dump, 0);
  const out = createWriteStream(file, { flags: 'wx', mode: 0o600 });
  out.write(`${JSON.stringify({ format: FORMAT, made: new Date().toISOString(), size, hash })}\n`);
  await pipeline(createReadStream(dump), out);
  rmSync(dump);
  say(`${file}: ${(size / 1e6).toFixed(1)} MB, whole.`);
}

/** `varrup restore FILE`, into a data folder that has nothing in it */
export async function restore(dataDir, file) {
  if (!file) throw new Stop('Name the backup: varrup restore FILE');
  const { start, size, hash } = readHead(file);
  const found = await hashOf(file, start);
  if (found.size !== size || found.hash !== hash)
    throw new Stop(`${file} is not as it was made: it has been cut off or changed. Nothing was put back.`);
  if (await isLocked(join(dataDir, 'running.pid')))
    throw new Stop(
      `Varrup is running with the data in ${dataDir}. Put the backup into another folder: set VARRUP_DATA.`,
    );
  if (await hasDatabase(dataDir))
    throw new Stop(
      `There are data in ${dataDir} already, which stay. Put the backup into another folder: set VARRUP_DATA.`,
    );
  try {
    await withDatabase(dataDir, async (database) => {
      await putBack(database, file, start);
      await ensureServer();
      await look(database);
    });
  } catch (error) {
    // Half of it would be in the way of the next try.
    await removeDatabase(dataDir);
    throw error;
  }
  say(`Put back into ${dataDir}.`);
}

/** `varrup verify` */
export async function verify(dataDir) {
  if (!(await hasDatabase(dataDir))) throw new Stop(`There are no data in ${dataDir}.`);
  await ensureServer();
  await withDatabase(dataDir, look);
}

async function look(database) {
  const env = { ...process.env, VARRUP_DATABASE: database.url };
  const code = await run(process.execPath, [join(root, 'server/dist/care.js')], { env });
  if (code !== 0) throw new Stop('Something is wrong in the data; it is named above.');
}

/** The database of a folder: the one that runs, or one that is started and stopped again. */
async function withDatabase(dataDir, work) {
  const database = await startDatabase(dataDir);
  try {
    return await work(database);
  } finally {
    if (!database.ranBefore) await database.stop();
  }
}

function readHead(file) {
  if (!existsSync(file)) throw new Stop(`There is no file ${file}.`);
  const bytes = Buffer.alloc(1000);
  const opened = openSync(file, 'r');
  const length = readSync(opened, bytes, 0, bytes.length, 0);
  closeSync(opened);
  const end = bytes.subarray(0, length).indexOf('\n');
  try {
    const head = JSON.parse(bytes.subarray(0, end).toString());
    if (head.format === FORMAT) return { ...head, start: end + 1 };
  } catch {
    // Said below.
  }
  throw new Stop(`${file} is not a backup of Varrup.`);
}

async function hashOf(file, start) {
  const hash = createHash('sha256');
  let size = 0;
  for await (const chunk of createReadStream(file, { start })) {
    size += chunk.length;
    hash.update(chunk);
  }
  return { hash: hash.digest('hex'), size };
}

/** Hands a dump to the database from a place of a file on: by a pipe, since the program would go back to the file's beginning. */
async function putBack(database, file, start) {
  const args = ['--no-owner', '--exit-on-error', '--single-transaction', '-d', database.url];
  const child = spawn(join(await postgresPrograms(), 'pg_restore'), args, { stdio: ['pipe', 'ignore', 'pipe'] });
  let output = '';
  child.stderr.on('data', (data) => {
    output += data;
  });
  const over = new Promise((done) => child.on('exit', done));
  // Where it ends early it says why itself.
  await pipeline(createReadStream(file, { start }), child.stdin).catch(() => {});
  if ((await over) !== 0) throw new Stop(`The backup could not be put back:\n${output.trim()}`);
}
