/** Installs what is missing, starts the database and serves everything on one loopback port. */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, statSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { ensureDebian } from './lib/apt.mjs';
import { clusterFolder, startPostgres } from './lib/postgres.mjs';
import { bin, checkNode, ensurePackages, Failure, ROOT, run } from './lib/run.mjs';

const DATABASE_PORT = 54317;

const open = [];
let closing = false;
/** Closes what was opened, the newest first. */
async function close(code) {
  if (closing) return;
  closing = true;
  for (const stop of open.reverse()) await stop().catch((error) => console.error(error.message));
  process.exit(code);
}
// Before the database starts: a signal during its start must find someone to stop it.
process.on('SIGINT', () => void close(0));
process.on('SIGTERM', () => void close(0));

function newest(folder) {
  return Math.max(
    0,
    ...readdirSync(folder, { recursive: true, withFileTypes: true })
      .filter((e) => e.isFile())
      .map((e) => statSync(path.join(e.parentPath, e.name)).mtimeMs),
  );
}

/** Builds when sources are newer than what was built. */
async function build() {
  const built = path.join(ROOT, 'web/dist/index.html');
  const sources = ['core/src', 'host/src', 'cli/src', 'server/src', 'web/src'].map((f) =>
    newest(path.join(ROOT, f)),
  );
  if (existsSync(built) && statSync(built).mtimeMs > Math.max(...sources)) return;
  console.log('Building …');
  await run(bin('tsc'), ['-b', 'core', 'host', 'cli', 'server', 'web']);
  await run(bin('vite'), ['build', 'web', '--logLevel', 'warn']);
}

async function main() {
  checkNode();
  const foreign = process.env.DATABASE_URL || undefined;
  if (foreign === undefined) await ensureDebian(['postgresql']);
  await ensurePackages();
  await build();
  const { settingsIn } = await import(new URL('../server/dist/settings.js', import.meta.url).href);
  const settings = (() => {
    try {
      return settingsIn(process.env);
    } catch (error) {
      throw new Failure(error.message);
    }
  })();
  let databaseUrl = foreign;
  if (databaseUrl === undefined) {
    const folder = clusterFolder(path.join(ROOT, '.data'));
    const database = await startPostgres({ folder, port: DATABASE_PORT });
    open.push(database.stop);
    databaseUrl = database.url;
  }
  if (closing) return;
  const { serve } = await import(new URL('../server/dist/main.js', import.meta.url).href);
  const server = await serve({
    databaseUrl,
    port: settings.PORT,
    logLevel: settings.LOG_LEVEL,
    webRoot: path.join(ROOT, 'web/dist'),
    demo: path.join(ROOT, 'demo'),
    ...(settings.HOST && { host: settings.HOST }),
    ...(settings.PUBLIC_URL && { publicUrl: settings.PUBLIC_URL }),
    ...(settings.METRICS_TOKEN && { metricsToken: settings.METRICS_TOKEN }),
  });
  open.push(() => server.close());
  // Long work is done beside the server, so that nobody waits for it.
  const worker = spawn(process.execPath, [path.join(ROOT, 'scripts/worker.mjs')], {
    env: { ...process.env, DATABASE_URL: databaseUrl },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  open.push(async () => {
    if (worker.exitCode !== null) return;
    worker.kill('SIGTERM');
    await once(worker, 'exit');
  });
  console.log(`Tin Fold is at ${server.url} (Ctrl-C stops it)`);
}

main().catch(async (error) => {
  console.error(error instanceof Failure ? error.message : error);
  await close(1);
});
