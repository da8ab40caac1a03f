import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { ensurePackages } from './setup/packages.mjs';
import { bin, freePort, root } from './setup/process.mjs';
import { main, say } from './setup/say.mjs';
import { dataFolder, serve } from './setup/serve.mjs';

/** `npm run dev`: the server, restarted when its sources change, and the application as it is being written. */
await main(async () => {
  await ensurePackages();
  const page = Number(process.env.PORT || 5173);
  const varrup = await serve({
    dataDir: dataFolder('.varrup-dev'),
    port: await freePort(),
    watch: true,
    env: { VARRUP_ORIGINS: `http://localhost:${page},http://127.0.0.1:${page}` },
  });
  const vite = spawn(bin('vite'), ['--port', String(page), '--strictPort'], {
    cwd: join(root, 'web'),
    stdio: 'inherit',
    env: { ...process.env, VARRUP_API: varrup.address },
  });
  say(`\n  Varrup while you write: http://localhost:${page}\n`);
  const stop = async () => {
    vite.kill();
    await varrup.stop();
    process.exit(0);
  };
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
  vite.once('exit', stop);
});
