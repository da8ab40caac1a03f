import { createHash } from 'node:crypto';
import {
  closeSync,
  createReadStream,
  createWriteStream,
  existsSync,
  fsyncSync,
  openSync,
  readdirSync,
  readSync,
  renameSync,
  rmSync,
  statSync,
  writeSync,
} from 'node:fs';
import { basename, dirname } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { alive } from './process.mjs';
import { Stop } from './say.mjs';

/**
 * A backup is one file: a line of JSON that says what it is, with the size and hash of what follows, and then the database as PostgreSQL
 * dumps it. It has its name when it is whole and was read back; until then it has another.
 */
const FORMAT = 'varrup backup';
/** The line is written last and has its room kept. */
const LINE = 512;

/** Writes a backup of what comes out of a stream. @returns how many bytes that was */
export async function writeBackup(file, stream, over) {
  const making = `${file}.making-${process.pid}`;
  clearUnfinished(file);
  const { hash, counted } = counting();
  const leaving = () => rmSync(making, { force: true });
  process.once('exit', leaving);
  try {
    await pipeline(stream, counted, createWriteStream(making, { flags: 'wx', mode: 0o600, start: LINE }));
    await over();
    const size = counted.size;
    const head = { format: FORMAT, made: new Date().toISOString(), size, hash: hash.digest('hex') };
    const opened = openSync(making, 'r+');
    writeSync(opened, `${JSON.stringify(head).padEnd(LINE - 1)}\n`, 0);
    fsyncSync(opened);
    closeSync(opened);
    await requireUnchanged(making, readHead(making));
    if (existsSync(file)) throw new Stop(`${file} is there already; name another file.`);
    renameSync(making, file);
    return size;
  } finally {
    leaving();
    process.off('exit', leaving);
  }
}

/** What the first line of a backup says. @throws Stop where the file is none */
export function readHead(file) {
  const info = statSync(file, { throwIfNoEntry: false });
  if (!info) throw new Stop(`There is no file ${file}.`);
  if (!info.isFile()) throw new Stop(`${file} is not a file. Name the file that varrup backup has made.`);
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

/** @throws Stop where what follows the first line is not what was written */
export async function requireUnchanged(file, { start, size, hash: wanted }) {
  const { hash, counted } = counting();
  await pipeline(createReadStream(file, { start }), counted, async (stream) => {
    for await (const _ of stream);
  });
  if (counted.size !== size || hash.digest('hex') !== wanted)
    throw new Stop(`${file} is not as it was made: it has been cut off or changed.`);
}

/** A stream that passes on what it is given, and counts it. */
function counting() {
  const hash = createHash('sha256');
  const counted = new Transform({
    transform(chunk, _encoding, done) {
      hash.update(chunk);
      counted.size += chunk.length;
      done(null, chunk);
    },
  });
  counted.size = 0;
  return { hash, counted };
}

/** Deletes what backups to the same file have left that were killed. */
function clearUnfinished(file) {
  const beginning = `${basename(file)}.making-`;
  for (const name of existsSync(dirname(file)) ? readdirSync(dirname(file)) : [])
    if (name.startsWith(beginning) && !alive(Number(name.slice(beginning.length))))
      rmSync(`${dirname(file)}/${name}`, { force: true });
}
