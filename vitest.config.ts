import { defineConfig } from 'vitest/config';

// Workspace packages come from their sources.
const conditions = ['development'];
const shared = { resolve: { conditions }, ssr: { resolve: { conditions } } };

export default defineConfig({
  test: {
    projects: [
      {
        ...shared,
        test: { name: 'core', include: ['core/test/**/*.test.ts'], isolate: false, testTimeout: 60_000 },
      },
      { ...shared, test: { name: 'cli', include: ['cli/test/**/*.test.ts'], testTimeout: 60_000 } },
      { ...shared, test: { name: 'web', include: ['web/test/**/*.test.ts'] } },
      { ...shared, test: { name: 'demo', include: ['demo/**/*.test.ts'] } },
      {
        ...shared,
        test: {
          name: 'server',
          include: ['server/test/**/*.test.ts'],
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
          globalSetup: ['scripts/lib/testDatabase.ts'],
          testTimeout: 180_000,
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
      { ...shared, test: { name: 'bench', include: [], benchmark: { include: ['bench/**/*.bench.ts'] } } },
    ],
  },
});
