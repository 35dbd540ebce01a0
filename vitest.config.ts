import { defineConfig } from 'vitest/config';

// Workspace packages come from their sources.
const conditions = ['development'];
const shared = { resolve: { conditions }, ssr: { resolve: { conditions } } };
// Files of a project share what they import: to load it for each takes longer than most of them run.
const isolate = false;
// Tests that hang are ended; how fast one is says nothing of what it tests, on whatever machine.
const patience = { testTimeout: 240_000, hookTimeout: 120_000 };
// What runs alone takes no turns with what a database or a browser waits for.
const alone = (groupOrder: number) => ({ fileParallelism: false, sequence: { groupOrder } });

export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        ...shared,
        test: { name: 'core', include: ['core/test/**/*.test.ts'], isolate, ...patience },
      },
      { ...shared, test: { name: 'cli', include: ['cli/test/**/*.test.ts'], isolate, ...patience } },
      { ...shared, test: { name: 'web', include: ['web/test/**/*.test.ts'], isolate, ...patience } },
      { ...shared, test: { name: 'demo', include: ['demo/**/*.test.ts'], isolate, ...patience } },
      {
        ...shared,
        test: {
          name: 'server',
          include: ['server/test/**/*.test.ts'],
          isolate,
          ...alone(1),
          globalSetup: ['scripts/lib/testDatabase.ts'],
          ...patience,
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
          ...patience,
        },
      },
      { ...shared, test: { name: 'bench', include: [], benchmark: { include: ['bench/**/*.bench.ts'] } } },
    ],
  },
});
