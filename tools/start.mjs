import { join } from 'node:path';
import { ensureBuild, ensureServer } from './setup/build.mjs';
import { ensureFolder } from './setup/database.mjs';
import { lock } from './setup/lock.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { portTaken } from './setup/process.mjs';
import { main, Stop, say } from './setup/say.mjs';
import { dataFolder, serve } from './setup/serve.mjs';

/** `npm start`: everything from an empty machine to the address in the browser, until Ctrl-C. */
await main(async () => {
  const port = Number(process.env.PORT || 4173);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Stop(`PORT is "${process.env.PORT}"; it must be a number from 1 to 65535.`);
  const dataDir = dataFolder('.varrup');
  const leaving = new AbortController();
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
    process.on(signal, () => {
      if (!leaving.signal.aborted) say('\nStopping…');
      leaving.abort();
    });
  ensureFolder(dataDir);
  const held = await lock(join(dataDir, 'running.pid'));
  try {
    await portFree(port, held.followsACrash);
    await ensurePackages();
    await ensureBuild();
    await ensureServer();
    if (leaving.signal.aborted) return;
    const varrup = await serve({ dataDir, port, signal: leaving.signal, log: say });
    const left = new Promise((done) => leaving.signal.addEventListener('abort', () => done(null), { once: true }));
    say(`\n  Varrup is ready: http://localhost:${port}\n  Ctrl-C stops it. Everything is saved in ${dataDir}\n`);
    const givenUp = leaving.signal.aborted ? null : await Promise.race([varrup.ended, left]);
    await varrup.stop();
    if (givenUp) throw new Stop(givenUp);
  } catch (error) {
    if (!leaving.signal.aborted) throw error;
  } finally {
    held.release();
  }
});
process.exit();

/** Waits for the port to be free where a server of ours may still be leaving it. */
async function portFree(port, wait) {
  for (let tries = 0; await portTaken(port); tries++) {
    if (!wait || tries > 40)
      throw new Stop(
        `Port ${port} is taken by another program. Stop it, or choose another: PORT=${port + 1} npm start`,
      );
    await new Promise((later) => setTimeout(later, 250));
  }
}
