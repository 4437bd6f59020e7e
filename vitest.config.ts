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
      { test: { name: 'reference', include: ['tests/reference/**/*.test.ts'], testTimeout: 60_000 } },
      {
        test: {
          name: 'browser',
          include: ['tests/browser/**/*.test.ts'],
          testTimeout: 180_000,
          hookTimeout: 180_000,
          fileParallelism: false,
          // After the others: what is measured there wants the machine to itself.
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
