/** A worker as a process of its own, for tests that kill it: it prints a line once it works. */
import { work } from '../src/jobs/worker.js';

const databaseUrl = process.env['DATABASE_URL'];
if (databaseUrl === undefined) throw new Error('DATABASE_URL says which database to work for.');
const worker = await work({ databaseUrl, logLevel: process.env['LOG_LEVEL'] ?? 'silent' });
process.on('SIGTERM', () => {
  void worker.close().then(() => process.exit(0));
});
process.stdout.write('at work\n');
