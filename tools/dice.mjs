import { randomInt } from 'node:crypto';
import { ensurePackages } from './setup/packages.mjs';
import { bin, run } from './setup/process.mjs';
import { main, say } from './setup/say.mjs';

/**
 * `npm run dice [how often] [files…]`: the properties, tried on other examples than `npm test` tries them on. Every round says
 * its seed; `VARRUP_SEED=… npm test` tries that one again.
 */
const [rounds = '3', ...files] = process.argv.slice(2);

await main(async () => {
  await ensurePackages();
  const failed = [];
  for (let round = 0; round < Number(rounds); round++) {
    const seed = String(randomInt(1, 2 ** 31));
    say(`\nseed ${seed}`);
    const args = ['run', '--project', 'unit', '--project', 'web', '--reporter=dot', ...files];
    if ((await run(bin('vitest'), args, { env: { ...process.env, VARRUP_SEED: seed } })) !== 0) failed.push(seed);
  }
  say(failed.length === 0 ? '\nAll rounds passed.' : `\nFailed with seed ${failed.join(', ')}`);
  process.exitCode = failed.length > 0 ? 1 : 0;
});
