import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { identityOf } from './data/place.mjs';
import { alive, startedAt } from './process.mjs';
import { Stop } from './say.mjs';

/**
 * One Varrup a data folder: a second one would pull the database from under the first when it stops. The file says which process holds
 * it and when that began (a number alone may be another program's by now), which folder it is of (a copy of the folder has a copy of it),
 * and what the process is.
 * @param what the command that holds it
 * @returns `release`, and whether the last one did not end in order
 */
export async function lock(file, what = 'npm start') {
  const last = existsSync(file) ? readFileSync(file, 'utf8') : null;
  const holder = last === null ? null : await holderOf(file, last);
  if (holder?.what === 'npm start')
    throw new Stop(
      `Varrup is running already with the data in ${dirname(file)} (process ${holder.pid}). For a second one, set VARRUP_DATA and PORT.`,
    );
  if (holder)
    throw new Stop(
      `${holder.what} is at work with the data in ${dirname(file)} (process ${holder.pid}). Wait until it is done, and try again.`,
    );
  rmSync(file, { force: true });
  const text = `${process.pid}\n${await startedAt(process.pid)}\n${identityOf(dirname(file))}\n${what}\n`;
  try {
    writeFileSync(file, text, { flag: 'wx' });
  } catch (error) {
    if (error.code !== 'EEXIST') {
      // A file that a full disk has left empty would be in the way.
      if (error.code === 'ENOSPC') rmSync(file, { force: true });
      throw error;
    }
    throw new Stop(`Varrup is being started with the data in ${dirname(file)} by somebody else.`);
  }
  return { followsACrash: last !== null, release: () => rmSync(file, { force: true }) };
}

/** What holds a folder: the process and its command; null where nothing does. */
export const heldBy = async (file) => (existsSync(file) ? holderOf(file, readFileSync(file, 'utf8')) : null);

async function holderOf(file, text) {
  const [number, began, folder, what] = text.split('\n');
  const pid = Number(number);
  if (!Number.isInteger(pid) || pid < 1 || pid === process.pid || !alive(pid)) return null;
  if (folder && folder !== identityOf(dirname(file))) return null;
  return began === (await startedAt(pid)) ? { pid, what: what || 'npm start' } : null;
}
