import 'vitest';
import type { TestProject } from 'vitest/node';
import { startTemporaryPostgres } from './postgres.mjs';

declare module 'vitest' {
  export interface ProvidedContext {
    /** A server to make databases on; each test file makes its own. */
    postgresUrl: string;
  }
}

/** Starts one PostgreSQL in a temporary folder for a run of tests. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const { url, stop } = await startTemporaryPostgres();
  project.provide('postgresUrl', url);
  return stop;
}
