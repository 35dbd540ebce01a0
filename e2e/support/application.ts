import { fileURLToPath } from 'node:url';
import { serve, type Running } from '../../server/src/main.js';
import { freshDatabase } from '../../server/test/database.js';

/** The whole application on loopback over an empty database of its own. */
export async function startApplication(
  postgresUrl: string,
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
  return {
    url: running.url,
    databaseUrl: database.url,
    stop: async () => {
      await running.close();
      await database.drop();
    },
  };
}
