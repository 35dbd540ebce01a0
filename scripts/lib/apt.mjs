import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { findPostgres } from './postgres.mjs';
import { Failure, run } from './run.mjs';

const isRoot = process.getuid?.() === 0;

/** What Debian packages bring, by package name. */
const PRESENT = {
  postgresql: () => findPostgres() !== undefined,
  chromium: () => existsSync('/usr/bin/chromium'),
  'chromium-driver': () => existsSync('/usr/bin/chromedriver'),
};

/** Without this Debian's package would make and start a cluster of its own. */
function keepClustersAlone() {
  const folder = '/etc/postgresql-common/createcluster.d';
  mkdirSync(folder, { recursive: true });
  writeFileSync(`${folder}/tinfold.conf`, 'create_main_cluster = false\n');
}

/**
 * Installs missing Debian packages; who is not root is told the one command that does.
 * @param {readonly (keyof typeof PRESENT)[]} names
 */
export async function ensureDebian(names) {
  const missing = names.filter((name) => !PRESENT[name]());
  if (missing.length === 0) return;
  const command = `apt-get update && apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  if (!isRoot)
    throw new Failure(`Missing on this machine: ${missing.join(', ')}. Run once: sudo sh -c '${command}'`);
  if (spawnSync('apt-get', ['--version'], { stdio: 'ignore' }).status !== 0)
    throw new Failure(
      `Missing on this machine: ${missing.join(', ')}, and there is no apt-get to install them with.`,
    );
  console.log(`Installing ${missing.join(', ')} …`);
  if (missing.includes('postgresql')) keepClustersAlone();
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  await run('apt-get', ['update', '-qq'], { env, quiet: true });
  await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], { env, quiet: true });
}
