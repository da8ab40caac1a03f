import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { ensureDebian } from '../debian.mjs';
import { capture, isRoot } from '../process.mjs';
import { Stop } from '../say.mjs';
import { user } from '../trouble.mjs';

/** PostgreSQL's programs, and the user who runs them. */

const DEBIAN = '/usr/lib/postgresql';
const hasPrograms = (dir) => existsSync(join(dir, 'initdb')) && existsSync(join(dir, 'pg_ctl'));

/** Where the programs are: Debian keeps them by version, others on the path. */
function findPostgres() {
  const versions = existsSync(DEBIAN) ? readdirSync(DEBIAN).sort((a, b) => Number(b) - Number(a)) : [];
  const places = [...versions.map((v) => join(DEBIAN, v, 'bin')), ...(process.env.PATH ?? '').split(delimiter)];
  return places.find(hasPrograms) ?? null;
}

const newest = () => ensureDebian('postgresql', findPostgres);

/** The folder of the programs for a database folder: those of the version that made it, or the newest for a new one. */
export async function programsFor(dir) {
  const file = join(dir, 'PG_VERSION');
  if (!existsSync(file)) return newest();
  const made = readFileSync(file, 'latin1').trim();
  const same = join(DEBIAN, made, 'bin');
  if (/^\d+$/.test(made) && hasPrograms(same)) return same;
  const programs = await newest();
  const [here] = /\d+/.exec((await capture(join(programs, 'postgres'), ['--version'])).output) ?? ['?'];
  if (here === made) return programs;
  throw new Stop(
    /^\d+$/.test(made)
      ? `The database in ${dir} was made by PostgreSQL ${made}, and this machine has PostgreSQL ${here}. Nothing was changed. Install version ${made} beside it: apt-get install postgresql-${made}`
      : `The database in ${dir} is not whole: its file PG_VERSION is spoilt. Nothing was changed. Copy that file again: it holds one line, the version of PostgreSQL that made the database (this machine has ${here}).`,
  );
}

/**
 * The user whose files a database's are: PostgreSQL refuses to run as root, so root runs it as their owner, or as `postgres` where there are
 * none yet. Null for whoever is not root.
 * @throws Stop where the files belong to somebody else
 */
export async function ownerOf(dir) {
  const owner = existsSync(dir) ? statSync(dir) : null;
  if (!isRoot()) {
    if (owner && owner.uid !== process.getuid?.()) throw belongsTo(dir, await nameOf(owner.uid), user());
    return null;
  }
  if (!owner) return postgresUser();
  if (owner.uid === 0) throw belongsTo(dir, 'root', 'postgres');
  return { uid: owner.uid, gid: owner.gid };
}

const belongsTo = (dir, whose, who) =>
  new Stop(
    `The database in ${dir} belongs to the user ${whose}, and ${who} must own it to run it. Nothing was changed. As root, run: chown -R ${who}: ${dir}`,
  );

async function nameOf(uid) {
  const { code, output } = await capture('id', ['-nu', String(uid)]);
  return code === 0 ? output.trim() : String(uid);
}

export async function postgresUser() {
  const ids = await Promise.all(['-u', '-g'].map((flag) => capture('id', [flag, 'postgres'])));
  if (ids.some((r) => r.code !== 0)) {
    throw new Stop(
      'As root, Varrup runs PostgreSQL as the user "postgres", who does not exist here. Please run: adduser --system --group postgres',
    );
  }
  return { uid: Number(ids[0].output), gid: Number(ids[1].output) };
}

/** How a program is run as a user. */
export const runAs = (who) =>
  who ? { uid: who.uid, gid: who.gid, cwd: '/', env: { ...process.env, HOME: '/tmp' } } : { cwd: '/' };
