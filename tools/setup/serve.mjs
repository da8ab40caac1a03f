import { spawn } from 'node:child_process';
import { join, resolve } from 'node:path';
import { DiskFull } from './data/cluster.mjs';
import { startOrMakeDatabase } from './database.mjs';
import { root } from './process.mjs';
import { Stop } from './say.mjs';

/** The data folder: `VARRUP_DATA`, or the given one in the checkout. */
export const dataFolder = (fallback) => resolve(root, process.env.VARRUP_DATA || fallback);

/** A server or database that ends by itself is started again at once, then after so long, in milliseconds; then no more. */
const AGAIN_AFTER = [0, 300, 1000, 3000, 8000];
/** One that has run for so long is counted as well. */
const WELL_AFTER = 60_000;
/** How often it is looked whether the database is there. */
const LOOK_EVERY = 500;
/** How often a database that a full disk keeps from starting is tried again. */
const FULL_EVERY = 5000;
/** A server that ends with this has said why, and would end the same way again. */
const GIVEN_UP = 78;

/**
 * Starts the database and the server, and keeps both up: one that ends by itself is started again, a few times. Gives the address once
 * the server answers; `ended`, a promise of the sentence that says why it has been given up; and `stop`, which ends both.
 * @param signal stops a start that is under way, with all that has been started
 * @param watch the server is run from its sources, and restarted when they change
 */
export async function serve({ dataDir, port, env = {}, quiet = false, watch = false, signal, log = () => {} }) {
  const database = await startOrMakeDatabase(dataDir);
  const varrup = new Varrup({ port, env, quiet, watch, database, log });
  const abort = () => varrup.stop();
  signal?.addEventListener('abort', abort, { once: true });
  try {
    if (signal?.aborted) throw new Stop('Stopped.');
    varrup.start();
    await varrup.answering();
  } catch (error) {
    await varrup.stop();
    throw signal?.aborted ? new Stop('Stopped.') : error;
  } finally {
    signal?.removeEventListener('abort', abort);
  }
  return varrup;
}

class Varrup {
  #how;
  #child = null;
  #stopping = null;
  #deaths = [];
  #databaseDeaths = [];
  #look = null;
  #giveUp;
  constructor(how) {
    this.#how = how;
    this.address = `http://127.0.0.1:${how.port}`;
    this.database = how.database;
    /** Why it has been given up. */
    this.ended = new Promise((giveUp) => {
      this.#giveUp = giveUp;
    });
  }

  /** The process of the server. */
  get child() {
    return this.#child;
  }

  start() {
    this.#startServer();
    this.#look = setInterval(() => void this.#lookAtDatabase(), LOOK_EVERY);
  }

  /** Ends the server and then the database; once, however often it is called. */
  stop() {
    this.#stopping ??= (async () => {
      clearInterval(this.#look);
      const child = this.#child;
      if (child && child.exitCode === null && child.signalCode === null) {
        const over = new Promise((done) => child.once('exit', done));
        child.kill('SIGTERM');
        await over;
      }
      await this.database.stop();
    })();
    return this.#stopping;
  }

  async answering() {
    let givenUp = null;
    void this.ended.then((why) => {
      givenUp = why;
    });
    for (let tries = 0; tries < 1200 && !this.#stopping && !givenUp; tries++) {
      try {
        const response = await fetch(`${this.address}/api/health`);
        if (response.ok) return;
      } catch {
        // Not listening yet.
      }
      await new Promise((later) => setTimeout(later, 50));
    }
    throw new Stop(givenUp ?? 'The server does not answer; its last lines say why.');
  }

  #startServer() {
    const { port, env, quiet, watch, database } = this.#how;
    const built = [join(root, 'server/dist/main.js')];
    const args = watch ? ['--watch', '--import', 'tsx', 'server/src/main.ts'] : built;
    const child = spawn(process.execPath, args, {
      cwd: root,
      // The fourth is a line to the server that breaks when this tool dies, however it dies; then the server ends too.
      stdio: ['ignore', quiet ? 'ignore' : 'inherit', 'inherit', 'ipc'],
      env: { ...process.env, ...env, PORT: String(port), VARRUP_DATABASE: database.url, VARRUP_DISK: database.folder },
      // In a process group of its own, so that Ctrl-C reaches this tool alone, which then ends both in order.
      detached: true,
    });
    this.#child = child;
    child.on('exit', (code, killed) => {
      if (this.#stopping || this.#child !== child) return;
      if (code === GIVEN_UP) return this.#giveUp('Varrup was not started.');
      this.#again(this.#deaths, `The server ended by itself (${killed ?? `exit ${code}`})`, () => this.#startServer());
    });
  }

  async #lookAtDatabase() {
    if (this.#stopping || this.database.isUp()) return;
    clearInterval(this.#look);
    this.#again(this.#databaseDeaths, 'The database ended by itself', () => this.#databaseAgain(false));
  }

  /** Starts the database again; where the disk is full, until there is room. @param told whether that has been said */
  async #databaseAgain(told) {
    try {
      await this.database.startAgain();
      if (told) this.#how.log('There is room again, and the database runs.');
    } catch (error) {
      if (error instanceof DiskFull && !this.#stopping) {
        if (!told) this.#how.log(`${error.message} Varrup goes on by itself when there is room.`);
        setTimeout(() => !this.#stopping && void this.#databaseAgain(true), FULL_EVERY).unref();
        return;
      }
      this.#how.log(error.message);
    }
    if (!this.#stopping) this.#look = setInterval(() => void this.#lookAtDatabase(), LOOK_EVERY);
  }

  /** Starts something again that has died, unless it has too often. */
  #again(deaths, what, start) {
    const now = Date.now();
    while (deaths.length > 0 && now - deaths[0] > WELL_AFTER) deaths.shift();
    const wait = AGAIN_AFTER[deaths.length];
    deaths.push(now);
    if (wait === undefined) {
      this.#giveUp(
        `${what}, for the ${deaths.length}th time within a minute. Nothing that was saved is lost; npm start brings it back.`,
      );
      return;
    }
    this.#how.log(`${what}; starting it again. Nothing that was saved is lost.`);
    setTimeout(() => {
      if (!this.#stopping) start();
    }, wait);
  }
}
