/** Makes an account, with the password that is typed or piped in. The first one turns sign-in on and owns what is there. */
import { createInterface } from 'node:readline/promises';
import { failed, ownDatabase } from './lib/dump.mjs';
import { Failure } from './lib/run.mjs';

async function main() {
  const [name] = process.argv.slice(2);
  if (name === undefined) throw new Failure('Name the account: npm run account -- NAME');
  const reader = createInterface({ input: process.stdin, output: process.stderr });
  const password = await reader.question('Password, at least eight letters (it is shown as you type): ');
  reader.close();
  if (password.length < 8) throw new Failure('A password has at least eight letters.');
  const database = await ownDatabase();
  try {
    const [{ connect }, { migrate }, { makeAccount }] = await Promise.all(
      ['db/models', 'db/migrations', 'access/accounts'].map(
        (file) => import(new URL(`../server/dist/${file}.js`, import.meta.url).href),
      ),
    );
    const sequelize = connect(database.url);
    try {
      await migrate(sequelize);
      await sequelize.transaction((transaction) => makeAccount(name, password, transaction));
    } finally {
      await sequelize.close();
    }
    console.log(`There is an account “${name.trim().toLowerCase()}” now.`);
  } finally {
    await database.stop();
  }
}

main().catch(failed);
