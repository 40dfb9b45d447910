import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: ['packages/{core,contract,web,demo}/src/**/*.test.ts', 'tools/**/*.test.ts'],
        },
      },
      {
        test: {
          name: 'integration',
          include: ['packages/server/src/**/*.test.ts'],
          testTimeout: 60_000,
          hookTimeout: 120_000,
          // Two cores and one PostgreSQL: more workers only wait for each other.
          maxWorkers: 2,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
