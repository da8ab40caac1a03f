import { fileURLToPath } from 'node:url';
import { Worker, type WorkerOptions } from 'node:worker_threads';

/**
 * A thread that runs a module of the server: from its source, or, where the server is bundled, from the bundle of that name beside it.
 * @param from the address of the module that starts it @param module its path from there
 */
export function startThread(from: URL, module: string, options: WorkerOptions = {}): Worker {
  if (!from.pathname.endsWith('.ts')) return new Worker(new URL(`./${nameOf(module)}.js`, from), options);
  // A thread does not inherit what lets Node read TypeScript.
  return new Worker(new URL('./start-thread.mjs', import.meta.url), {
    ...options,
    workerData: { ...options.workerData, module: fileURLToPath(new URL(module, from)) },
  });
}

const nameOf = (module: string): string => module.slice(module.lastIndexOf('/') + 1, -'.ts'.length);
