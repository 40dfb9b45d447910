import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          // Beside the code: what needs no database. Services are tested in packages/server/src/tests.
          include: [
            'packages/{core,contract,web,demo}/src/**/*.test.ts',
            'packages/server/src/{features,platform}/**/*.test.ts',
            'packages/web/build/**/*.test.ts',
            'tools/**/*.test.ts',
          ],
          // Some start a program of their own, which takes its time on a busy machine; none is about speed.
          testTimeout: 30_000,
        },
      },
      {
        test: {
          name: 'components',
          // Pieces of the web, drawn without a browser; whole pages are walked through in e2e.
          include: ['packages/web/src/**/*.test.tsx'],
          environment: 'jsdom',
          setupFiles: ['packages/web/src/testing/settle.ts'],
          testTimeout: 30_000,
        },
      },
      {
        test: {
          name: 'integration',
          include: ['packages/server/src/tests/**/*.test.ts'],
          testTimeout: 180_000,
          hookTimeout: 240_000,
          // Two cores and one PostgreSQL: more workers only wait for each other.
          maxWorkers: 2,
          // Each file opens an organisation of its own; reading the whole server anew for each took a third of the time.
          isolate: false,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
