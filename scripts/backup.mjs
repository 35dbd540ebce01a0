/** Keeps the whole database in one file, while the server runs or not. */
import { failed, fileGiven, onDatabase } from './lib/dump.mjs';

const file = fileGiven('npm run backup -- backup.dump');
onDatabase('pg_dump', () => ['--format=custom', '--no-owner', '--no-privileges', '--file', file]).then(
  () => console.log(`The database is kept in ${file}.`),
  failed,
);
