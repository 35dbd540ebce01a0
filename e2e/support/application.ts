import { fileURLToPath } from 'node:url';
import { serve, type Running } from '../../server/src/main.js';
import { freshDatabase } from '../../server/test/database.js';
import { startProcess } from '../../server/test/processes.js';

/** The whole application on loopback over an empty database of its own, with a worker where it is wanted. */
export async function startApplication(
  postgresUrl: string,
  { withWorker = false }: { readonly withWorker?: boolean } = {},
): Promise<{ url: string; databaseUrl: string; stop: () => Promise<void> }> {
  const database = await freshDatabase(postgresUrl);
  let running: Running;
  try {
    running = await serve({
      databaseUrl: database.url,
      port: 0,
      webRoot: fileURLToPath(new URL('../../web/dist', import.meta.url)),
      logLevel: 'silent',
    });
  } catch (error) {
    await database.drop();
    throw error;
  }
  const worker = withWorker ? await startProcess('working', database.url) : undefined;
  return {
    url: running.url,
    databaseUrl: database.url,
    stop: async () => {
      worker?.child.kill('SIGKILL');
      await running.close();
      await database.drop();
    },
  };
}
