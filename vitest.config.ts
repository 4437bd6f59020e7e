import { defineConfig } from 'vitest/config';

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
          testTimeout: 400_000,
          hookTimeout: 400_000,
          maxWorkers: 2,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
