import { capture, isRoot } from './process.mjs';
import { Stop, say } from './say.mjs';

/**
 * Makes sure a program of Debian's is there. `find` looks for it and gives its place or null; where it is missing and
 * this user may install, the package is installed, and otherwise one sentence says what to do.
 */
export async function ensureDebian(name, find) {
  const there = find();
  if (there) return there;
  const please = `Varrup needs Debian's package "${name}". Please have an administrator run: apt-get install ${name}`;
  const prefix = isRoot() ? [] : ['sudo', '-n'];
  if (!isRoot() && (await capture('sudo', ['-n', 'true'])).code !== 0) throw new Stop(please);
  say(`Installing ${name}…`);
  const apt = async (...args) => {
    const [command, ...rest] = [...prefix, 'env', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', ...args];
    return capture(command, rest);
  };
  let last = await apt('install', '-y', '--no-install-recommends', name);
  if (last.code !== 0) {
    // The list of packages may be missing or old.
    await apt('update');
    last = await apt('install', '-y', '--no-install-recommends', name);
  }
  const found = find();
  if (found) return found;
  throw new Stop(`${please}\n(Trying it here failed: ${last.output.trim().split('\n').at(-1)})`);
}
