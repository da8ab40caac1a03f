import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { alive, startedAt } from './process.mjs';
import { Stop } from './say.mjs';

/**
 * One Varrup a data folder: a second one would pull the database from under the first when it stops. The file says which process holds
 * it and when that began: a number alone may be another program's by now.
 * @returns `release`, and whether the last one did not end in order
 */
export async function lock(file) {
  mkdirSync(dirname(file), { recursive: true });
  const last = existsSync(file) ? readFileSync(file, 'utf8') : null;
  if (last !== null && (await isHeld(last))) {
    const [pid] = last.split('\n');
    throw new Stop(
      `Varrup is running already with the data in ${dirname(file)} (process ${pid}). For a second one, set VARRUP_DATA and PORT.`,
    );
  }
  rmSync(file, { force: true });
  try {
    writeFileSync(file, `${process.pid}\n${await startedAt(process.pid)}\n`, { flag: 'wx' });
  } catch {
    throw new Stop(`Varrup is being started with the data in ${dirname(file)} by somebody else.`);
  }
  return { followsACrash: last !== null, release: () => rmSync(file, { force: true }) };
}

/** Whether a Varrup that runs holds a file. */
export const isLocked = async (file) => existsSync(file) && (await isHeld(readFileSync(file, 'utf8')));

async function isHeld(text) {
  const [number, began] = text.split('\n');
  const pid = Number(number);
  if (!Number.isInteger(pid) || pid < 1 || pid === process.pid || !alive(pid)) return false;
  return began === (await startedAt(pid));
}
