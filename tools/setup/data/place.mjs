import { createHash } from 'node:crypto';
import { chownSync, existsSync, mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { capture, isRoot } from '../process.mjs';
import { Stop } from '../say.mjs';
import { postgresUser } from './postgres.mjs';

/**
 * Where the database of a data folder lies: in it, or, where the user `postgres` may not go there (a home folder of root's), in a home of
 * its own. Then each of the two has a note of the other, so that a folder that was moved finds its database, and a copy of the folder
 * is not taken for a copy of the database.
 */
const NOTE = 'db-place';
const OF = 'varrup-folder';
const HOMES = '/var/lib/postgresql';

/** The folder that holds the database `db` and its `db-password`. @throws Stop for a copy whose database belongs to another folder */
export async function homeOf(dataDir) {
  if (existsSync(join(dataDir, 'db'))) return dataDir;
  const note = join(dataDir, NOTE);
  if (existsSync(note)) return noted(dataDir, readFileSync(note, 'utf8').trim());
  return (await isClosed(dataDir)) ? homeByName(dataDir) : dataDir;
}

function noted(dataDir, home) {
  const file = join(home, OF);
  if (!existsSync(join(home, 'db')) || !existsSync(file))
    throw new Stop(
      `The database of ${dataDir} was in ${home}, and is not there. Nothing was changed. Bring that folder back, or restore a backup into an empty folder.`,
    );
  const [folder, id] = readFileSync(file, 'utf8').split('\n');
  const moved = id === identityOf(dataDir) || folder === dataDir || !existsSync(folder);
  if (!moved)
    throw new Stop(
      `${dataDir} is a copy of ${folder}, but the database is not in that folder: it is in ${home}, and was not copied. Nothing was changed. To copy the data, use: npm run varrup -- backup FILE, and restore it into an empty folder.`,
    );
  return home;
}

/** Whether root's `postgres` may not go into a folder. */
async function isClosed(dataDir) {
  if (!isRoot()) return false;
  const { uid, gid } = await postgresUser();
  return (await capture('test', ['-x', dataDir], { uid, gid, cwd: '/' })).code !== 0;
}

const homeByName = (dataDir) =>
  join(HOMES, `varrup-${createHash('sha256').update(dataDir).digest('hex').slice(0, 12)}`);

/** Makes a home that lies elsewhere, where it is not there. */
export async function ensureHome(dataDir, home) {
  if (home === dataDir || existsSync(home)) return;
  const { uid, gid } = await postgresUser();
  mkdirSync(home, { recursive: true, mode: 0o700 });
  chownSync(home, uid, gid);
}

/** Notes where the database of a folder is, in both places. */
export function noteHome(dataDir, home) {
  if (home === dataDir) return;
  writeFileSync(join(home, OF), `${dataDir}\n${identityOf(dataDir)}\n`);
  writeFileSync(join(dataDir, NOTE), `${home}\n`);
}

/** What a folder is known by wherever it is moved to; a copy of it is known by something else. */
export function identityOf(folder) {
  const { dev, ino } = statSync(folder);
  return `${dev}:${ino}`;
}
