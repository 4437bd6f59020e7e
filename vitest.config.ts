import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: ['{core,engine,stage,web,cli,demo}/**/*.test.ts', 'tests/house/*.test.ts'],
          exclude: ['web/server/**'],
          testTimeout: 30_000,
          // None of them changes a module: loading all of it once instead of for every file takes a third of the time.
          isolate: false,
        },
      },
      // A server holds its data folder and its database in its modules: each file has a server of its own, which takes a while to begin.
      {
        test: {
          name: 'server',
          include: ['web/server/**/*.test.ts'],
          testTimeout: 30_000,
          hookTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'reference',
          include: ['tests/reference/**/*.test.ts'],
          testTimeout: 120_000,
          isolate: false,
        },
      },
      {
        test: {
          name: 'browser',
          include: ['tests/browser/**/*.test.ts'],
          testTimeout: 900_000,
          // A machine that does much else may take its time to save.
          expect: { poll: { timeout: 60_000 } },
          hookTimeout: 900_000,
          maxWorkers: 2,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
