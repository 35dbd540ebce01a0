/** A server as a process of its own, for tests that kill it: it prints its address once it serves. */
import { serve } from '../src/main.js';

const databaseUrl = process.env['DATABASE_URL'];
if (databaseUrl === undefined) throw new Error('DATABASE_URL says which database to serve.');
// Nobody waits half a minute in a test.
const timeouts = { headersTimeout: 2000, requestTimeout: 20_000, connectionsCheckingInterval: 250 };
const { url } = await serve({ databaseUrl, port: 0, logLevel: 'silent', timeouts });
process.stdout.write(`${url}\n`);
