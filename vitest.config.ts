import { defineConfig } from 'vitest/config';

/** The same dice in every run. */
const setupFiles = ['tools/testing/seed.ts'];

/** Two files at a time, each test file of the core in a page others have used: nothing there remembers anything between calls. */
export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        test: {
          name: 'unit',
          include: ['{core,demo,cli}/src/**/*.test.ts'],
          testTimeout: 120_000,
          isolate: false,
          setupFiles,
        },
      },
      // The stores of the desk are one for a page, so each file has its own.
      {
        test: {
          name: 'web',
          include: ['web/src/**/*.test.ts'],
          testTimeout: 60_000,
          setupFiles: [...setupFiles, 'web/src/testing/storage.ts'],
        },
      },
      // These need the database that `tools/test.mjs` starts.
      {
        test: {
          name: 'server',
          include: ['server/src/**/*.test.ts'],
          testTimeout: 30_000,
          hookTimeout: 60_000,
          fileParallelism: false,
          setupFiles,
        },
      },
      { test: { name: 'starter', include: ['tools/**/*.test.ts'], testTimeout: 180_000 } },
    ],
  },
});
