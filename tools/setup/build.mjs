import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { bin, capture, root } from './process.mjs';
import { Stop, say } from './say.mjs';

/** Builds the application where its sources are not those it was built from. */
export async function ensureBuild() {
  await ensure('the application', 'web/dist', ['core/src', 'web', 'package-lock.json'], () =>
    // Whoever has it built: with another environment React comes with all that helps to develop with it, and is twice as slow.
    capture(bin('vite'), ['build'], { cwd: join(root, 'web'), env: { ...process.env, NODE_ENV: 'production' } }),
  );
}

/** Puts the server into few files: it then starts in half the time, which counts when it has to come back. */
export async function ensureServer() {
  const entries = ['server/src/main.ts', 'server/src/work/helper.ts', 'care=server/src/care/main.ts'];
  const how = ['--bundle', '--splitting', '--platform=node', '--format=esm', '--packages=external', '--target=node20'];
  // The project's own parts are put in; only what comes from the registry stays outside.
  const own = ['core', 'demo'].map((part) => `--alias:@varrup/${part}=${join(root, part, 'src/index.ts')}`);
  await ensure('the server', 'server/dist', ['core/src', 'demo/src', 'server/src', 'package-lock.json'], () =>
    capture(bin('esbuild'), [
      ...entries,
      ...how,
      ...own,
      '--outdir=server/dist',
      '--entry-names=[name]',
      '--log-level=warning',
    ]),
  );
}

async function ensure(what, folder, parts, build) {
  const stamp = join(root, folder, '.built-from');
  const sources = fingerprint(parts);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return;
  say(`Building ${what}…`);
  rmSync(join(root, folder), { recursive: true, force: true });
  const { code, output } = await build();
  if (code !== 0) throw new Stop(`${what[0].toUpperCase()}${what.slice(1)} could not be built:\n${output.trim()}`);
  writeFileSync(stamp, sources);
}

/** Names, sizes and times of all that goes into something. */
function fingerprint(parts) {
  const hash = createHash('sha256');
  const visit = (path) => {
    const info = statSync(path);
    if (info.isDirectory()) {
      for (const name of readdirSync(path).sort())
        if (name !== 'node_modules' && name !== 'dist') visit(join(path, name));
      return;
    }
    hash.update(`${path.slice(root.length)} ${info.size} ${info.mtimeMs}\n`);
  };
  for (const part of parts) visit(join(root, part));
  return hash.digest('hex');
}
