import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { capture, root } from './process.mjs';
import { Stop, say } from './say.mjs';

const stamp = join(root, 'node_modules/.varrup-installed');

/** Installs the npm packages where they are missing or not those of the lock file. */
export async function ensurePackages(log = say) {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    throw new Stop(
      `Varrup needs Node.js 20.19 or newer; this is ${process.versions.node}. Please install a newer one.`,
    );
  }
  const wanted = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  log('Installing npm packages…');
  const { code, output } = await capture('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  if (code !== 0) {
    throw new Stop(
      `The npm packages could not be installed. With the npm registry in reach, run: npm ci\n${output.trim()}`,
    );
  }
  writeFileSync(stamp, wanted);
}
