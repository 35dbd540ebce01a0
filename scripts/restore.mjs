/** Puts a database back from the file that a backup made: all of it or, where something fails, nothing. */
import { existsSync } from 'node:fs';
import { failed, fileGiven, onDatabase } from './lib/dump.mjs';

const file = fileGiven('npm run restore -- backup.dump');
if (!existsSync(file)) {
  console.error(`There is no file ${file}: name one that a backup made.`);
  process.exit(2);
}
onDatabase('pg_restore', (database) => [
  '--clean',
  '--if-exists',
  '--no-owner',
  '--no-privileges',
  '--single-transaction',
  '--exit-on-error',
  '--dbname',
  database,
  file,
]).then(() => console.log(`The database is as it was kept in ${file}.`), failed);
