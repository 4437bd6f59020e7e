import { defineConfig } from 'vitest/config';

/** What is measured there wants the machine to itself. */
const measured = ['tests/browser/million.test.ts'];

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: ['{core,engine,stage,web,cli,demo}/**/*.test.ts', 'tests/house/*.test.ts'],
          testTimeout: 30_000,
        },
      },
      { test: { name: 'reference', include: ['tests/reference/**/*.test.ts'], testTimeout: 120_000 } },
      {
        test: {
          name: 'browser',
          include: ['tests/browser/**/*.test.ts'],
          exclude: measured,
          testTimeout: 400_000,
          hookTimeout: 400_000,
          maxWorkers: 2,
          sequence: { groupOrder: 1 },
        },
      },
      {
        test: {
          name: 'browser alone',
          include: measured,
          testTimeout: 400_000,
          hookTimeout: 400_000,
          fileParallelism: false,
          sequence: { groupOrder: 2 },
        },
      },
    ],
  },
});
