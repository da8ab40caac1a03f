import type { HeapProfiler } from 'node:inspector';
import { Session } from 'node:inspector/promises';
import { measure } from 'mitata';

/** One measured promise. */
export interface Row {
  readonly name: string;
  readonly value: number;
  readonly unit: 'ratio' | 'ms' | 'KB';
  /** The value must stay under this. */
  readonly goal: number;
  readonly holds: boolean;
}

export const row = (name: string, value: number, unit: Row['unit'], goal: number): Row => ({
  name,
  value,
  unit,
  goal,
  holds: value < goal,
});

/**
 * The median time of a function in milliseconds, over enough runs to be steady.
 *
 * @param samples the fewest runs; what takes seconds is steady after fewer
 */
export async function median(run: () => unknown, samples = 40): Promise<number> {
  const { p50 } = await measure(run, { min_samples: samples, min_cpu_time: 1.2e9 });
  return p50 / 1e6;
}

/** How much memory a function takes each time that is let go again, in kilobytes, once it has run often enough to be compiled well. */
export async function allocated(run: () => unknown, times = 200): Promise<number> {
  const session = new Session();
  session.connect();
  await session.post('HeapProfiler.startSampling', {
    samplingInterval: 512,
    includeObjectsCollectedByMinorGC: true,
    includeObjectsCollectedByMajorGC: true,
  });
  for (let i = 0; i < times; i++) run();
  const { profile } = await session.post('HeapProfiler.stopSampling');
  session.disconnect();
  return sizeOf(profile.head) / times / 1024;
}

const sizeOf = ({ selfSize, children }: HeapProfiler.SamplingHeapProfileNode): number =>
  children.reduce((sum, child) => sum + sizeOf(child), selfSize);

/** The last line of a suite, which the tool that runs it reads. */
export const report = (rows: readonly Row[]): void => {
  process.stdout.write(`${JSON.stringify(rows)}\n`);
};
