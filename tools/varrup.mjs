import { join } from 'node:path';
import { ensureCommandLine } from './setup/build.mjs';
import { backup, mend, restore, verify } from './setup/care.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { root, run } from './setup/process.mjs';
import { main } from './setup/say.mjs';
import { dataFolder } from './setup/serve.mjs';

/** `npm run --silent varrup -- …`: the command line, with paths meant from where the user stands. */
await main(async () => {
  await ensurePackages((line) => process.stderr.write(`${line}\n`));
  const cwd = process.env.npm_lifecycle_event === 'varrup' ? (process.env.INIT_CWD ?? process.cwd()) : process.cwd();
  const [command, file] = process.argv.slice(2);
  const care = { backup, mend, restore, verify };
  if (Object.hasOwn(care, command ?? '')) {
    process.chdir(cwd);
    await care[command](dataFolder('.varrup'), file);
    return;
  }
  await ensureCommandLine();
  process.exitCode = await run(process.execPath, [join(root, 'cli/dist/main.js'), ...process.argv.slice(2)], { cwd });
});
