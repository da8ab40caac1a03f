import { defineConfig } from 'vitest/config';

/** Unit tests run anywhere; server tests need the database that `tools/test.mjs` starts. */
export default defineConfig({
  test: {
    projects: [
      { test: { name: 'unit', include: ['{core,demo,web,cli}/src/**/*.test.ts'], testTimeout: 120_000 } },
      {
        test: {
          name: 'server',
          include: ['server/src/**/*.test.ts'],
          testTimeout: 30_000,
          hookTimeout: 60_000,
          fileParallelism: false,
        },
      },
      { test: { name: 'starter', include: ['tools/**/*.test.ts'], testTimeout: 180_000, fileParallelism: false } },
    ],
  },
});
