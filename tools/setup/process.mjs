import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { Stop } from './say.mjs';

export const root = join(import.meta.dirname, '../..');

/** A program of the project's own packages. */
export const bin = (name) => join(root, 'node_modules/.bin', name);

/** Runs a command to its end with its output shown; gives its exit code. */
export function run(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: root, stdio: 'inherit', ...options });
    child.on('error', reject);
    child.on('exit', (code, signal) => resolve(signal ? 1 : code));
  });
}

/**
 * Runs a command quietly; gives its exit code and all it printed. A missing command is exit code 127.
 * @param options those of `spawn`, and `input`, what the command reads
 */
export function capture(command, args, { input, ...options } = {}) {
  return new Promise((resolve) => {
    const stdio = [input === undefined ? 'ignore' : 'pipe', 'pipe', 'pipe'];
    // In a process group of its own: Ctrl-C is for the tool, which ends in order what it has begun.
    const child = spawn(command, args, { cwd: root, stdio, detached: true, ...options });
    child.stdin?.on('error', () => {});
    child.stdin?.end(input);
    let output = '';
    child.stdout?.on('data', (data) => {
      output += data;
    });
    child.stderr?.on('data', (data) => {
      output += data;
    });
    child.on('error', (error) => resolve({ code: error.code === 'ENOENT' ? 127 : 126, output: error.message }));
    // "exit", not "close": a daemon that inherits the pipes would keep them open for ever.
    child.on('exit', (code) => setTimeout(() => resolve({ code: code ?? 1, output }), 20));
  });
}

/** Runs a command quietly and stops with its output where it fails. */
export async function must(what, command, args, options) {
  const { code, output } = await capture(command, args, options);
  if (code !== 0) throw new Stop(`${what} failed:\n${output.trim()}`);
  return output;
}

/** A port of loopback that nobody listens on. */
export function freePort() {
  return new Promise((resolve, reject) => {
    const server = createServer();
    server.on('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}

/** Whether somebody listens on a port already. */
export function portTaken(port) {
  return new Promise((resolve) => {
    const server = createServer();
    server.once('error', (error) => resolve(error.code === 'EADDRINUSE'));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(false)));
  });
}

export const isRoot = () => process.getuid?.() === 0;

/** When a process began, as the system tells it; empty where it does not live. */
export const startedAt = async (pid) => (await capture('ps', ['-o', 'lstart=', '-p', String(pid)])).output.trim();

/** Whether a process lives. */
export function alive(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
}
