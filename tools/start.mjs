import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuild } from './setup/build.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { alive, portTaken } from './setup/process.mjs';
import { main, Stop, say } from './setup/say.mjs';
import { dataFolder, serve } from './setup/serve.mjs';

/** `npm start`: everything from an empty machine to the address in the browser, until Ctrl-C. */
await main(async () => {
  const port = Number(process.env.PORT || 4173);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Stop(`PORT is "${process.env.PORT}"; it must be a number from 1 to 65535.`);
  const dataDir = dataFolder('.varrup');
  const unlock = lock(dataDir);
  try {
    if (await portTaken(port)) {
      throw new Stop(
        `Port ${port} is taken by another program. Stop it, or choose another: PORT=${port + 1} npm start`,
      );
    }
    await ensurePackages();
    await ensureBuild();
    const varrup = await serve({ dataDir, port });
    let stopping = false;
    const stop = async () => {
      if (stopping) return;
      stopping = true;
      say('\nStopping…');
      await varrup.stop();
      unlock();
      process.exit(0);
    };
    process.on('SIGINT', stop);
    process.on('SIGTERM', stop);
    process.on('SIGHUP', stop);
    say(`\n  Varrup is ready: http://localhost:${port}\n  Ctrl-C stops it. Everything is saved in ${dataDir}\n`);
    const code = await varrup.ended;
    if (stopping) return;
    await varrup.stop();
    throw new Stop(
      `The server ended by itself (exit ${code}). Nothing that was saved is lost; npm start brings it back.`,
    );
  } catch (error) {
    unlock();
    throw error;
  }
});

/** One Varrup a data folder: a second one would pull the database from under the first when it stops. */
function lock(dataDir) {
  mkdirSync(dataDir, { recursive: true });
  const file = join(dataDir, 'running.pid');
  if (existsSync(file)) {
    const pid = Number(readFileSync(file, 'utf8'));
    if (pid !== process.pid && alive(pid)) {
      throw new Stop(
        `Varrup is running already with the data in ${dataDir} (process ${pid}). For a second one, set VARRUP_DATA and PORT.`,
      );
    }
  }
  writeFileSync(file, String(process.pid));
  return () => rmSync(file, { force: true });
}
