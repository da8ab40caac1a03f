import { randomBytes } from 'node:crypto';
import {
  existsSync,
  openSync,
  readFileSync,
  readlinkSync,
  readSync,
  realpathSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { alive, capture } from '../process.mjs';
import { Stop, say } from '../say.mjs';
import { freeBytes, megabytes } from '../trouble.mjs';
import { KEEP_OR_RESTORE } from './folder.mjs';
import { runAs } from './postgres.mjs';

/** A database that is there: started, stopped, and asked whether it runs. */

/** The disk has no room for what was to be done. */
export class DiskFull extends Stop {}

/** PostgreSQL writes its log ahead in pieces of 16 MB, and needs some to start. */
const START_NEEDS = 64e6;

export class Cluster {
  #dir;
  #who;
  constructor(dir, programs, who) {
    this.#dir = dir;
    this.programs = programs;
    this.#who = who;
  }

  /** The port of the database where it runs; null where it does not. */
  get port() {
    return postmasterOf(this.#dir)?.port ?? null;
  }

  /** Starts it. @throws Stop that says why it does not start */
  async start(port) {
    this.#letGoOfCopied();
    const { log, from } = this.#log();
    const settings = `-c port=${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c max_connections=40`;
    // A database that was killed may need minutes to read its log.
    const args = ['-D', this.#dir, '-l', log, '-w', '-t', '300', '-o', settings, 'start'];
    const { code } = await this.#run('pg_ctl', args, { stdio: 'ignore' });
    if (code !== 0) throw this.#whyNot(textFrom(log, from));
    return port;
  }

  /** Stops it: in order, or, where that does not come to an end within so many seconds, at once, as if the power had gone. */
  async stop(seconds = 60) {
    const how = (mode) => ['-D', this.#dir, '-m', mode, '-w', '-t', String(seconds), 'stop'];
    const { code } = await this.#run('pg_ctl', how('fast'));
    if (code !== 0) await this.#run('pg_ctl', how('immediate'));
  }

  /** Whether a password opens the database. @throws Stop where it is not the password that keeps one out */
  async opens(port, password) {
    const env = { ...process.env, PGPASSWORD: password, PGCONNECT_TIMEOUT: '20' };
    const args = ['-w', '-h', '127.0.0.1', '-p', String(port), '-U', 'varrup', '-d', 'postgres', '-Atc', 'SELECT 1'];
    const { code, output } = await capture(join(this.programs, 'psql'), args, { cwd: '/', env });
    if (code === 0) return true;
    if (/password/.test(output)) return false;
    throw new Stop(`The database in ${this.#dir} does not answer: ${lastLine(output)}. ${KEEP_OR_RESTORE}`);
  }

  /** Gives the database, which must not run, a new password: whoever owns its files may. */
  async setPassword(file) {
    const secret = randomBytes(24).toString('base64url');
    const handed = `${file}.new`;
    writeFileSync(handed, secret, { mode: 0o600 });
    const { code, output } = await this.#run('postgres', ['--single', '-D', this.#dir, 'postgres'], {
      input: `ALTER ROLE varrup PASSWORD '${secret}'\n`,
    });
    if (code !== 0 || /\b(ERROR|FATAL|PANIC)\b/.test(output)) {
      rmSync(handed);
      throw this.#whyNot(output);
    }
    renameSync(handed, file);
    say(`The password of the database was missing or another one: a new one was set in ${file}.`);
    return secret;
  }

  #run(name, args, options = {}) {
    return capture(join(this.programs, name), args, { ...runAs(this.#who), ...options });
  }

  #log() {
    const log = join(this.#dir, 'server.log');
    return { log, from: statSync(log, { throwIfNoEntry: false })?.size ?? 0 };
  }

  /** A folder that was copied while its database ran has a note of a process that has nothing to do with the copy. */
  #letGoOfCopied() {
    const file = join(this.#dir, 'postmaster.pid');
    if (!existsSync(file) || postmasterOf(this.#dir)) return;
    const [, folder] = readFileSync(file, 'utf8').split('\n');
    if (!folder || folder === this.#dir || samePath(folder, this.#dir)) return;
    say(
      `${this.#dir} was copied from ${folder} while its database ran, or moved after a crash. Such a copy may not be whole: run varrup verify.`,
    );
    rmSync(file);
  }

  #whyNot(log) {
    const home = dirname(this.#dir);
    if (/No space left on device|could not (create|write).*(shared memory|lock file).*space/.test(log))
      return new DiskFull(
        `The disk is full: the database needs about ${megabytes(START_NEEDS)} to start, and ${megabytes(freeBytes(home))} are free for ${home}. Everything that was saved is kept. Make room and try again.`,
      );
    if (/Permission denied/.test(log))
      return new Stop(
        `PostgreSQL may not use all files of the database in ${this.#dir}: ${reason(log)} Nothing was changed. Its files must belong to the owner of that folder: chown -R, or copy the folder again with its owners (cp -a).`,
      );
    if (/Read-only file system/.test(log))
      return new Stop(
        `${home} is on a disk that is mounted read-only, and a database must be able to write. Mount it for writing, or copy the folder to another disk.`,
      );
    return new Stop(`The database in ${this.#dir} cannot be started: ${reason(log)} ${KEEP_OR_RESTORE}`);
  }
}

/** PostgreSQL's own words for why it ended. */
function reason(log) {
  const lines = log.split('\n').filter((line) => /\b(FATAL|PANIC)\b/.test(line));
  const found = /(?:FATAL|PANIC):\s*(.*)/.exec(lines[0] ?? '')?.[1] ?? lastLine(log);
  return found ? `PostgreSQL says “${found}”.` : 'PostgreSQL does not say why.';
}

const lastLine = (text) => text.trim().split('\n').at(-1) ?? '';

function textFrom(file, from) {
  if (!existsSync(file)) return '';
  const bytes = Buffer.alloc(200_000);
  const opened = openSync(file, 'r');
  return bytes.subarray(0, readSync(opened, bytes, 0, bytes.length, from)).toString();
}

/** The process of a database that runs in a folder, and its port; null where none does. */
function postmasterOf(dir) {
  const file = join(dir, 'postmaster.pid');
  if (!existsSync(file)) return null;
  const [number, folder, , port] = readFileSync(file, 'utf8').split('\n');
  const pid = Number(number);
  if (!Number.isInteger(pid) || pid < 1 || !alive(pid) || !(Number(port) > 0)) return null;
  return worksIn(pid, folder, dir) ? { pid, port: Number(port) } : null;
}

/** Whether a process is a database's that works in a folder. What has died may have left its number to another, and copies of the folder note it as well. */
function worksIn(pid, noted, dir) {
  try {
    return samePath(readlinkSync(`/proc/${pid}/cwd`), dir);
  } catch {
    // Not Linux, or another user's process: what the note says must do.
    return samePath(noted, dir);
  }
}

function samePath(a, b) {
  try {
    return realpathSync(a) === realpathSync(b);
  } catch {
    return a === b;
  }
}
