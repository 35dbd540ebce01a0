import { Op } from 'sequelize';
import { SignInTry } from '../db/models.js';
import { Problem } from '../problem.js';

/** Within so long tries are counted, ms. */
const WINDOW = 15 * 60 * 1000;
/** So many tries a name has: a person who has forgotten which password it was. */
const MOST_BY_NAME = 10;
/** So many tries an address has: a house of people behind one. */
const MOST_FROM_ADDRESS = 100;

async function count(key: string, most: number, since: Date): Promise<void> {
  // This try is counted before its password is looked at, so that many at once are no more than one after another.
  await SignInTry.create({ key });
  if ((await SignInTry.count({ where: { key, at: { [Op.gte]: since } } })) > most)
    throw new Problem(
      429,
      'Too many tries',
      'There were too many tries to sign in: wait a quarter of an hour, then try again.',
    );
}

/** Counts a try to sign in; a 429 where there were too many. */
export async function countTry(name: string, address: string): Promise<void> {
  const since = new Date(Date.now() - WINDOW);
  await SignInTry.destroy({ where: { at: { [Op.lt]: since } } });
  await count(`from ${address}`, MOST_FROM_ADDRESS, since);
  await count(`name ${name}`, MOST_BY_NAME, since);
}

/** Who has signed in begins anew. */
export const forgetTries = (name: string): Promise<number> =>
  SignInTry.destroy({ where: { key: `name ${name}` } });
