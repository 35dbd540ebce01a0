/** A worker: does long work that the servers of one database put in line, until it is stopped. */
import { work } from '../server/dist/jobs/worker.js';

const databaseUrl = process.env.DATABASE_URL;
if (databaseUrl === undefined) {
  console.error('Say in DATABASE_URL which database to work for; npm start brings a worker of its own.');
  process.exit(2);
}
const worker = await work({ databaseUrl, ...(process.env.LOG_LEVEL && { logLevel: process.env.LOG_LEVEL }) });
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
