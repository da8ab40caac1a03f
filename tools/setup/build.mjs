import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { bin, capture, root } from './process.mjs';
import { Stop, say } from './say.mjs';

const stamp = join(root, 'web/dist/.built-from');

/** Builds the application where its sources are not those it was built from. */
export async function ensureBuild() {
  const sources = fingerprint();
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return;
  say('Building the application…');
  const { code, output } = await capture(bin('vite'), ['build'], { cwd: join(root, 'web') });
  if (code !== 0) throw new Stop(`The application could not be built:\n${output.trim()}`);
  writeFileSync(stamp, sources);
}

/** Names, sizes and times of all that goes into the application. */
function fingerprint() {
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
  for (const part of ['core/src', 'web', 'package-lock.json']) visit(join(root, part));
  return hash.digest('hex');
}
