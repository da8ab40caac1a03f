import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuild, ensureServer } from './setup/build.mjs';
import { ensureChromium } from './setup/chromium.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { bin, freePort, root, run } from './setup/process.mjs';
import { main } from './setup/say.mjs';
import { serve } from './setup/serve.mjs';

/** `npm run shots`: takes the pictures in docs/screenshots/ anew, from a database that holds only the demo. */
await main(async () => {
  await ensurePackages();
  await ensureBuild();
  await ensureServer();
  const chromium = await ensureChromium();
  const dataDir = join(root, '.varrup-shots');
  rmSync(dataDir, { recursive: true, force: true });
  // The pictures on the cards come with the demo: without them they are drawn anew, and kept.
  rmSync(join(root, 'demo/pictures'), { recursive: true, force: true });
  const varrup = await serve({ dataDir, port: await freePort(), quiet: true });
  try {
    const env = {
      ...process.env,
      VARRUP_ADDRESS: varrup.address.replace('127.0.0.1', 'localhost'),
      VARRUP_CHROMIUM: chromium,
    };
    const args = ['test', '--config', 'e2e/playwright.config.ts', '--reporter=list'];
    process.exitCode = await run(bin('playwright'), [...args], { env: { ...env, VARRUP_SHOTS: '1' } });
  } finally {
    await varrup.stop();
    rmSync(dataDir, { recursive: true, force: true });
  }
});
