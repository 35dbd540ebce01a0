import { defineConfig } from 'vitest/config';

// Workspace packages come from their sources.
const conditions = ['development'];
const shared = { resolve: { conditions }, ssr: { resolve: { conditions } } };
// Files of a project share what they import: to load it for each takes longer than most of them run.
const isolate = false;
// What runs alone takes no turns with what a database or a browser waits for.
const alone = (groupOrder: number) => ({ fileParallelism: false, sequence: { groupOrder } });

export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        ...shared,
        test: { name: 'core', include: ['core/test/**/*.test.ts'], isolate, testTimeout: 60_000 },
      },
      { ...shared, test: { name: 'cli', include: ['cli/test/**/*.test.ts'], isolate, testTimeout: 60_000 } },
      { ...shared, test: { name: 'web', include: ['web/test/**/*.test.ts'], isolate } },
      { ...shared, test: { name: 'demo', include: ['demo/**/*.test.ts'], isolate } },
      {
        ...shared,
        test: {
          name: 'server',
          include: ['server/test/**/*.test.ts'],
          isolate,
          ...alone(1),
          globalSetup: ['scripts/lib/testDatabase.ts'],
          testTimeout: 30_000,
          hookTimeout: 60_000,
        },
      },
      {
        ...shared,
        test: {
          name: 'e2e',
          include: ['e2e/**/*.test.ts'],
          isolate,
          ...alone(2),
          globalSetup: ['scripts/lib/testDatabase.ts'],
          testTimeout: 180_000,
          hookTimeout: 120_000,
        },
      },
      { ...shared, test: { name: 'bench', include: [], benchmark: { include: ['bench/**/*.bench.ts'] } } },
    ],
  },
});
