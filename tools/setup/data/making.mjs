import { randomBytes } from 'node:crypto';
import {
  chownSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { alive, must } from '../process.mjs';
import { Stop } from '../say.mjs';
import { freeBytes, megabytes } from '../trouble.mjs';
import { runAs } from './postgres.mjs';

/**
 * A new database is made beside its place, in a folder that a sign of ours marks as unfinished, and moved to its place when it is whole.
 * Only what bears that sign is ever deleted: a database in its place never is, by anybody.
 */
const SIGN = 'VARRUP-IS-MAKING-THIS';
const BEGINNING = 'db.making';

/** A database with the demo and room for its log. */
const NEEDS = 300e6;

/**
 * Makes a database in a home that has none.
 * @param work what is to be done with it before it counts, given its folder and its password; where that fails there is no database
 */
export async function makeDatabase(home, programs, who, work = async () => {}) {
  const free = freeBytes(home);
  if (free < NEEDS)
    throw new Stop(
      `The disk is too full to begin: a new database needs ${megabytes(NEEDS)}, and ${megabytes(free)} are free for ${home}. Nothing was made. Make room, or choose another folder: VARRUP_DATA=FOLDER`,
    );
  clearUnfinished(home);
  const making = join(home, `${BEGINNING}-${process.pid}`);
  mkdirSync(making, { mode: 0o755 });
  writeFileSync(join(making, SIGN), `${process.pid}\nVarrup is making a database here, and it holds no work yet.\n`);
  const [dir, password] = [join(making, 'db'), join(making, 'db-password')];
  mkdirSync(dir, { mode: 0o700 });
  const secret = randomBytes(24).toString('base64url');
  writeFileSync(password, secret, { mode: 0o600 });
  // initdb reads the password from a file that its user may read, and nobody else.
  if (who) for (const path of [dir, password]) chownSync(path, who.uid, who.gid);
  try {
    const args = ['-D', dir, '-U', 'varrup', '--pwfile', password, '-A', 'scram-sha-256', '-E', 'UTF8'];
    // With checksums PostgreSQL notices pages that a disk or a copy has spoilt.
    await must('Making the database', join(programs, 'initdb'), [...args, '--locale=C.UTF-8', '-k'], runAs(who));
    if (who) chownSync(password, process.getuid(), process.getgid());
    await work(dir, secret);
    // The database first: one without its password gets a new one, and a password without its database would look like a loss.
    renameSync(dir, join(home, 'db'));
    renameSync(password, join(home, 'db-password'));
  } finally {
    clearAway(making);
  }
}

/** Clears away what others began to make and did not finish, since they were killed. */
function clearUnfinished(home) {
  for (const name of readdirSync(home)) {
    const sign = join(home, name, SIGN);
    if (!name.startsWith(BEGINNING) || !existsSync(sign)) continue;
    const pid = Number.parseInt(readFileSync(sign, 'utf8'), 10);
    if (pid === process.pid || !alive(pid)) clearAway(join(home, name));
  }
}

/** Deletes an unfinished folder; the sign goes last, so that a half-deleted one still bears it. */
function clearAway(making) {
  // What was killed may have left somebody behind who still writes there: once more until they are through.
  const how = { recursive: true, force: true, maxRetries: 20, retryDelay: 50 };
  rmSync(join(making, 'db'), how);
  rmSync(making, how);
}
