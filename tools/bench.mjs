import { spawn } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { ensureBuild, ensureServer } from './setup/build.mjs';
import { ensureChromium } from './setup/chromium.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { freePort, root } from './setup/process.mjs';
import { main, Stop, say } from './setup/say.mjs';
import { serve } from './setup/serve.mjs';

/**
 * `npm run bench`: measures what the product promises about speed, prints a table, and with `-- --json FILE` writes it
 * as well; with `-- --only NAME` one suite alone. Every row is measured in this run; ratios are against a rival measured beside it.
 */
const only = process.argv.includes('--only') ? process.argv[process.argv.indexOf('--only') + 1] : '';
const suites = [
  'evaluate',
  'rigs',
  'formula',
  'check',
  'gait',
  'mix',
  'cast',
  'edit',
  'long',
  'interchange',
  'review',
  'server',
  'server-crowd',
  'redraw',
]
  .filter((name) => name.includes(only))
  .map((name) => `bench/${name}.bench.ts`);

await main(async () => {
  const json = process.argv.indexOf('--json');
  if (json >= 0 && !process.argv[json + 1]) throw new Stop('Name the file to write: npm run bench -- --json FILE');
  await ensurePackages();
  await ensureBuild();
  await ensureServer();
  const chromium = await ensureChromium();
  const rows = [];
  for (const suite of suites) {
    const own = suite.includes('server') ? await ownServer() : null;
    rows.push(...(await measure(suite, { VARRUP_CHROMIUM: chromium, ...own?.env })));
    await own?.stop();
  }
  const width = Math.max(...rows.map((r) => r.name.length));
  say('');
  for (const row of rows) {
    const value = `${row.value.toFixed(row.unit === 'ratio' ? 3 : 2)} ${row.unit}`.padStart(12);
    say(
      `${row.name.padEnd(width)}  ${value}   goal ${String(row.goal).padStart(5)}   ${row.holds ? 'holds' : 'MISSED'}`,
    );
  }
  if (json >= 0)
    writeFileSync(resolve(process.env.INIT_CWD ?? root, process.argv[json + 1]), `${JSON.stringify(rows, null, 2)}\n`);
});

/** A server to be measured, with a heap of a gigabyte and data of its own. */
async function ownServer() {
  const dataDir = join(root, '.varrup-bench');
  rmSync(dataDir, { recursive: true, force: true });
  const env = { NODE_OPTIONS: '--max-old-space-size=1024' };
  const varrup = await serve({ dataDir, port: await freePort(), env });
  return {
    env: { VARRUP_ADDRESS: varrup.address, VARRUP_SERVER: String(varrup.child.pid) },
    async stop() {
      await varrup.stop();
      rmSync(dataDir, { recursive: true, force: true });
    },
  };
}

/** Runs one suite in a process of its own; what it measured is its last line. */
function measure(suite, more) {
  say(`measuring ${suite}…`);
  return new Promise((done, failed) => {
    const child = spawn(process.execPath, ['--expose-gc', '--import', 'tsx', suite], {
      cwd: root,
      stdio: ['ignore', 'pipe', 'inherit'],
      env: { ...process.env, ...more },
    });
    let output = '';
    child.stdout.on('data', (data) => {
      output += data;
    });
    child.on('exit', (code) => {
      if (code !== 0) failed(new Stop(`${suite} failed:\n${output}`));
      else done(JSON.parse(output.trim().split('\n').at(-1)));
    });
  });
}
