/** A worker: does long work that the servers of one database put in line, until it is stopped. */
import { work } from '../server/dist/jobs/worker.js';

import { settingsIn } from '../server/dist/settings.js';

/** The settings of this worker; ends the program with a sentence where they cannot be meant. */
function settings() {
  try {
    const found = settingsIn(process.env);
    if (found.DATABASE_URL !== undefined) return found;
    console.error('Say in DATABASE_URL which database to work for; npm start brings a worker of its own.');
  } catch (error) {
    console.error(error.message);
  }
  process.exit(2);
}
const { DATABASE_URL: databaseUrl, LOG_LEVEL: logLevel } = settings();
const worker = await work({ databaseUrl, logLevel });
console.log('A worker is at work (Ctrl-C stops it)');
let closing = false;
/** Ends when what it is at is done or given back. */
async function close() {
  if (closing) return;
  closing = true;
  await worker.close();
  process.exit(0);
}
process.on('SIGINT', () => void close());
process.on('SIGTERM', () => void close());
