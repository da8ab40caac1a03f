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
export const ensureServer = () =>
  ensureBundle('the server', 'server', [
    'main=server/src/main.ts',
    'helper=server/src/work/helper.ts',
    'looker=server/src/store/media/looker.ts',
    'care=server/src/care/main.ts',
  ]);

/** The same for the command line. What it prints may be read by another program, so that it is built in silence. */
export const ensureCommandLine = () => ensureBundle('the command line', 'cli', ['cli/src/main.ts'], () => {});

function ensureBundle(what, part, entries, tell = say) {
  const how = ['--bundle', '--splitting', '--platform=node', '--format=esm', '--packages=external', '--target=node20'];
  // The project's own parts are put in; only what comes from the registry stays outside.
  const own = ['core', 'demo'].map((name) => `--alias:@varrup/${name}=${join(root, name, 'src/index.ts')}`);
  const sources = ['core/src', 'demo/src', `${part}/src`, 'package-lock.json'];
  const to = [`--outdir=${part}/dist`, '--entry-names=[name]', '--log-level=warning'];
  return ensure(
    what,
    `${part}/dist`,
    sources,
    () => capture(bin('esbuild'), [...entries, ...how, ...own, ...to]),
    tell,
  );
}

async function ensure(what, folder, parts, build, tell = say) {
  const stamp = join(root, folder, '.built-from');
  const sources = fingerprint(parts);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return;
  tell(`Building ${what}…`);
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
