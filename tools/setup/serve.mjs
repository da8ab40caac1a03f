import { spawn } from 'node:child_process';
import { resolve } from 'node:path';
import { startDatabase } from './database.mjs';
import { root } from './process.mjs';
import { Stop } from './say.mjs';

/** The data folder: `VARRUP_DATA`, or the given one in the checkout. */
export const dataFolder = (fallback) => resolve(root, process.env.VARRUP_DATA || fallback);

/**
 * Starts the database and the server. Gives the address once the server answers, a promise that ends with the server,
 * and `stop`, which ends both.
 */
export async function serve({ dataDir, port, env = {}, quiet = false, watch = false }) {
  const database = await startDatabase(dataDir);
  const args = [...(watch ? ['--watch'] : []), '--import', 'tsx', 'server/src/main.ts'];
  const child = spawn(process.execPath, args, {
    cwd: root,
    // The fourth is a line to the server that breaks when this tool dies, however it dies; then the server ends too.
    stdio: ['ignore', quiet ? 'ignore' : 'inherit', 'inherit', 'ipc'],
    env: { ...process.env, ...env, PORT: String(port), VARRUP_DATABASE: database.url },
    // In a process group of its own, so that Ctrl-C reaches this tool alone, which then ends both in order.
    detached: true,
  });
  const ended = new Promise((done) => {
    child.on('exit', (code) => done(code ?? 0));
  });
  const stop = async () => {
    child.kill('SIGTERM');
    await ended;
    await database.stop();
  };
  const address = `http://127.0.0.1:${port}`;
  try {
    await answering(address, ended);
  } catch (error) {
    await stop();
    throw error;
  }
  return { address, ended, stop, child, database };
}

async function answering(address, ended) {
  let over = false;
  ended.then(() => {
    over = true;
  });
  for (let tries = 0; tries < 600 && !over; tries++) {
    try {
      const response = await fetch(`${address}/api/health`);
      if (response.ok) return;
    } catch {
      // Not listening yet.
    }
    await new Promise((later) => setTimeout(later, 100));
  }
  throw new Stop(
    over ? 'The server ended before it could answer; its last lines say why.' : 'The server does not answer.',
  );
}
