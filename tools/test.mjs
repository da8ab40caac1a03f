import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuild, ensureCommandLine, ensureServer } from './setup/build.mjs';
import { ensureChromium } from './setup/chromium.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { bin, freePort, root, run } from './setup/process.mjs';
import { main, say } from './setup/say.mjs';
import { serve } from './setup/serve.mjs';

/**
 * `npm test`: everything, from format to the application in a browser, with ports and data of its own, so that it runs
 * beside a started Varrup. Ends with one line that adds all of it up.
 */
const totals = { passed: 0, failed: 0, skipped: 0 };
/** What failed, to be said once more at the end: what is printed before is long. */
const failures = [];
const results = join(root, 'test-results');
const dataDir = join(root, '.varrup-test', String(process.pid));

await main(async () => {
  await ensurePackages();
  const chromium = await ensureChromium();
  rmSync(results, { recursive: true, force: true });
  mkdirSync(results, { recursive: true });

  // Types are checked on one core, and what does not need them goes on beside.
  const parts = ['core', 'demo', 'server', 'cli', 'web', 'e2e', 'bench', 'tools'];
  await Promise.all([
    check('format, lint and import rules', bin('biome'), ['check', '--error-on-warnings', '.']),
    ...inTurn(parts.map((part) => () => check(`types of ${part}`, bin('tsc'), ['-p', part]))),
    ...inTurn([ensureBuild, ensureServer, ensureCommandLine]),
  ]);
  const varrup = await serve({ dataDir, port: await freePort(), quiet: true });
  try {
    const env = {
      ...process.env,
      VARRUP_TEST_DATABASE: varrup.database.url,
      VARRUP_ADDRESS: varrup.address.replace('127.0.0.1', 'localhost'),
      VARRUP_CHROMIUM: chromium,
      PLAYWRIGHT_JSON_OUTPUT_NAME: join(results, 'interface.json'),
    };
    // Two cores: what computes, and beside it what waits for servers.
    const vitest = (file, ...projects) => [
      bin('vitest'),
      [
        'run',
        ...projects.flatMap((project) => ['--project', project]),
        '--reporter=default',
        '--reporter=json',
        `--outputFile.json=${join(results, file)}`,
      ],
      { env },
    ];
    await Promise.all([
      suite('unit tests', join(results, 'units.json'), vitestCounts, vitest('units.json', 'unit', 'web')),
      suite('server tests', join(results, 'server.json'), vitestCounts, vitest('server.json', 'server', 'starter')),
    ]);
    await suite('interface tests', join(results, 'interface.json'), playwrightCounts, [
      bin('playwright'),
      [
        'test',
        '--config',
        'e2e/playwright.config.ts',
        '--reporter=list,json',
        '--output',
        join(results, 'interface'),
        ...process.argv.slice(2),
      ],
      { env },
    ]);
  } finally {
    await varrup.stop();
    rmSync(dataDir, { recursive: true, force: true });
  }
  for (const failure of failures) say(`\nFAIL ${failure}`);
  say(`\n${totals.passed} passed, ${totals.failed} failed, ${totals.skipped} skipped`);
  process.exitCode = totals.failed > 0 ? 1 : 0;
});

/** One after another, as promises of all of them. */
function inTurn(tasks) {
  let last = Promise.resolve();
  return tasks.map((task) => (last = last.then(task)));
}

/** A check that passes or fails as a whole. */
async function check(what, command, args) {
  const code = await run(command, args);
  if (code === 0) totals.passed++;
  else {
    totals.failed++;
    failures.push(what);
  }
  say(`${code === 0 ? 'ok  ' : 'FAIL'} ${what}`);
}

/** A test runner that leaves its counts in a file. One that ends badly without counting a failure counts as one. */
async function suite(what, file, counts, [command, args, options]) {
  say(`\n${what}`);
  const code = await run(command, args, options);
  let found;
  try {
    found = counts(JSON.parse(readFileSync(file, 'utf8')));
  } catch (error) {
    found = { passed: 0, failed: 1, skipped: 0, failures: [`${what}: no report that can be read (${error.message})`] };
  }
  if (code !== 0 && found.failed === 0) {
    found.failed = 1;
    found.failures.push(`${what}: ended with ${code}`);
  }
  failures.push(...found.failures);
  for (const key of Object.keys(totals)) totals[key] += found[key];
}

function vitestCounts(report) {
  return {
    passed: report.numPassedTests,
    failed: report.numFailedTests,
    skipped: report.numPendingTests + report.numTodoTests,
    failures: report.testResults.flatMap((file) => [
      ...(file.status === 'failed' && file.assertionResults.length === 0 ? [told(file.name, '', file.message)] : []),
      ...file.assertionResults
        .filter((test) => test.status === 'failed')
        .map((test) => told(file.name, test.fullName, test.failureMessages.join('\n'))),
    ]),
  };
}

function playwrightCounts({ stats, suites }) {
  const specs = (suite) => [...suite.specs, ...(suite.suites ?? []).flatMap(specs)];
  return {
    passed: stats.expected + stats.flaky,
    failed: stats.unexpected,
    skipped: stats.skipped,
    failures: suites
      .flatMap(specs)
      .flatMap(({ file, title, tests }) =>
        tests
          .filter((test) => test.status === 'unexpected')
          .map(({ results }) => told(file, title, results.at(-1)?.error?.message ?? '')),
      ),
  };
}

/** A failure in a few lines. */
function told(file, title, message) {
  return `${file.replace(root, '.')} › ${title}\n${message.split('\n').slice(0, 12).join('\n')}`;
}
