import path from 'node:path';
import { clusterFolder, findPostgres, openCluster } from './postgres.mjs';
import { Failure, ROOT, run } from './run.mjs';

/** The database that DATABASE_URL names, or else the project's own, which runs until it is stopped where it did not run. */
export function ownDatabase() {
  const foreign = process.env.DATABASE_URL;
  return foreign === undefined
    ? openCluster(clusterFolder(path.join(ROOT, '.data')))
    : Promise.resolve({ url: foreign, stop: () => Promise.resolve() });
}

/**
 * Runs one of PostgreSQL's programs on the database that DATABASE_URL names, or else on the project's own.
 * @param {'pg_dump' | 'pg_restore'} program
 * @param {(url: string) => readonly string[]} args
 */
export async function onDatabase(program, args) {
  const bin = findPostgres();
  if (bin === undefined) throw new Failure('PostgreSQL is not installed: install the package postgresql.');
  const database = await ownDatabase();
  try {
    // The address holds a password: it goes through the environment, where no list of processes shows it.
    const { username, password, hostname, port, pathname } = new URL(database.url);
    await run(path.join(bin, program), args(pathname.slice(1)), {
      env: {
        PGUSER: decodeURIComponent(username),
        PGPASSWORD: decodeURIComponent(password),
        PGHOST: hostname,
        ...(port !== '' && { PGPORT: port }),
        PGDATABASE: pathname.slice(1),
      },
    });
  } finally {
    await database.stop();
  }
}

/**
 * The file that a command is told; ends the program with a sentence where it is told none.
 * @param {string} example
 */
export function fileGiven(example) {
  const [file] = process.argv.slice(2);
  if (file !== undefined) return path.resolve(file);
  console.error(`Name a file: ${example}`);
  process.exit(2);
}

/** Ends the program with what went wrong. @param {unknown} error */
export function failed(error) {
  console.error(error instanceof Failure ? error.message : error);
  process.exit(1);
}
