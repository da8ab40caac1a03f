import { chmodSync, chownSync, existsSync, mkdirSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Stop, say } from '../say.mjs';

/** What is in a data folder, and whether the database in it is whole as far as one can see from outside. */

/** What may lie in a folder in which a database has still to be made. */
const NOT_DATA = (name) =>
  name.startsWith('.') || name.startsWith('db.making') || /^(running\.pid|lost\+found)$/.test(name);

/** Whether a folder holds nothing: only then a new database is made in it. */
export const isEmpty = (folder) => !existsSync(folder) || readdirSync(folder).every(NOT_DATA);

/** What a database cannot be without. */
const FILES = ['PG_VERSION', 'global/pg_control', 'global/pg_filenode.map'];
const FOLDERS = ['base', 'base/1', 'global', 'pg_wal', 'pg_xact', 'pg_multixact/members', 'pg_multixact/offsets'];

/** Folders that hold nothing from one run to the next. Some ways of copying leave out what is empty. */
const PASSING = [
  'pg_commit_ts',
  'pg_dynshmem',
  'pg_logical',
  'pg_logical/mappings',
  'pg_logical/snapshots',
  'pg_notify',
  'pg_replslot',
  'pg_serial',
  'pg_snapshots',
  'pg_stat',
  'pg_stat_tmp',
  'pg_subtrans',
  'pg_tblspc',
  'pg_twophase',
  'pg_wal/archive_status',
];

/** Files of settings: Varrup gives its own when it starts the database, so that these hold no work. */
const SETTINGS = {
  'postgresql.conf': '# Varrup gives its settings when it starts the database.\n',
  'postgresql.auto.conf': '',
  'pg_hba.conf': 'host all all 127.0.0.1/32 scram-sha-256\n',
  'pg_ident.conf': '',
};

export const KEEP_OR_RESTORE =
  'Nothing was changed. If the folder is a copy, stop Varrup and copy the whole folder again. Otherwise restore a backup into an empty folder: VARRUP_DATA=FOLDER npm run varrup -- restore FILE';

/**
 * Looks whether all of a database is there.
 * @throws Stop that names what is missing
 */
export function requireWhole(dir) {
  if (!is(dir, 'isDirectory'))
    throw new Stop(`${dir} is a file, and should be the folder of the database. ${KEEP_OR_RESTORE}`);
  const missing = [
    ...FOLDERS.filter((name) => !is(join(dir, name), 'isDirectory')).map((name) => `the folder ${name}`),
    ...FILES.filter((name) => !is(join(dir, name), 'isFile') || statSync(join(dir, name)).size === 0),
  ];
  if (missing.length === 0) return;
  const names = missing.slice(0, 3).join(', ') + (missing.length > 3 ? ` and ${missing.length - 3} more` : '');
  throw new Stop(`The database in ${dir} is not whole. Missing or empty: ${names}. ${KEEP_OR_RESTORE}`);
}

function is(path, what) {
  const info = statSync(path, { throwIfNoEntry: false });
  return info?.[what]() ?? false;
}

/** Puts back what holds no work and is missing, closes what others could read, and says so. @param who whose files these are; null: one's own */
export function mendOutside(dir, who) {
  const done = [];
  const make = (name, how) => {
    const path = join(dir, name);
    how(path);
    if (who) chownSync(path, who.uid, who.gid);
    done.push(name);
  };
  if ((statSync(dir).mode & 0o077) !== 0) chmodSync(dir, 0o700);
  for (const name of PASSING) if (!existsSync(join(dir, name))) make(name, (path) => mkdirSync(path, { mode: 0o700 }));
  for (const [name, text] of Object.entries(SETTINGS)) {
    const size = statSync(join(dir, name), { throwIfNoEntry: false })?.size;
    if (size === undefined || (size === 0 && text !== ''))
      make(name, (path) => writeFileSync(path, text, { mode: 0o600 }));
  }
  if (done.length > 0)
    say(
      `Missing in ${dir} and made again, for it holds no work: ${done.join(', ')}. If this is a copy, run: varrup verify`,
    );
}
