import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

/** The project's folder. */
export const ROOT = path.resolve(fileURLToPath(new URL('../..', import.meta.url)));

/** A failure whose message is all that the user needs to see. */
export class Failure extends Error {}

/**
 * Runs a program with its output on this terminal; rejects when it fails.
 * @param {string} command
 * @param {readonly string[]} args
 * @param {{ env?: NodeJS.ProcessEnv, quiet?: boolean }} [options]
 * @returns {Promise<void>}
 */
export function run(command, args, { env, quiet } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      env: { ...process.env, ...env },
      stdio: ['ignore', quiet ? 'ignore' : 'inherit', 'inherit'],
    });
    child.once('error', (error) => reject(new Failure(`${command} cannot be started: ${error.message}.`)));
    child.once('close', (code) => {
      if (code === 0) resolve();
      else reject(new Failure(`“${command} ${args.join(' ')}” failed with exit code ${code}.`));
    });
  });
}

/** @param {string} name a program of a package, without its path */
export const bin = (name) => path.join(ROOT, 'node_modules', '.bin', name);

/** Checks that this Node can run the project. */
export function checkNode() {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new Failure(`Node ${process.versions.node} is too old: install Node 20.19 or later of version 20.`);
}

/** Installs the npm packages when they are not there or the lock file has changed since. */
export async function ensurePackages() {
  const stamp = path.join(ROOT, 'node_modules', '.tinfold-lock');
  const lock = createHash('sha256')
    .update(readFileSync(path.join(ROOT, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('Installing npm packages …');
  await run('npm', ['ci', '--no-audit', '--no-fund']);
  writeFileSync(stamp, lock);
}
