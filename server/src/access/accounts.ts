import { Op, type Transaction } from 'sequelize';
import { Account, Member, Project, Session } from '../db/models.js';
import { Problem } from '../problem.js';
import { hashPassword, isPassword, makeToken, tokenHash } from './secrets.js';

/** A session ends after so long, ms. */
export const SESSION_MS = 30 * 24 * 60 * 60 * 1000;

/** The name that one signs in with: its case does not matter. */
const asKept = (name: string): string => name.trim().toLowerCase();

/** Whether anybody has to sign in. */
export const isSignInOn = async (): Promise<boolean> =>
  (await Account.findOne({ attributes: ['id'] })) !== null;

/**
 * Makes an account; a 409 where the name is taken. The first one owns all projects that were made before there were accounts.
 */
export async function makeAccount(
  name: string,
  password: string,
  transaction: Transaction,
): Promise<Account> {
  const kept = asKept(name);
  const isFirst = (await Account.count({ transaction })) === 0;
  if (await Account.findOne({ where: { name: kept }, transaction }))
    throw new Problem(
      409,
      'Taken',
      `There is an account “${kept}” already: sign in, or choose another name.`,
    );
  const account = await Account.create(
    { name: kept, password: await hashPassword(password) },
    { transaction },
  );
  if (isFirst) {
    const projects = await Project.findAll({ attributes: ['id'], paranoid: false, transaction });
    await Member.bulkCreate(
      projects.map((p) => ({ projectId: p.id, accountId: account.id, role: 'owner' as const })),
      { transaction },
    );
  }
  return account;
}

/** The account of a name and its password; undefined where they do not go together. */
export async function accountOf(name: string, password: string): Promise<Account | undefined> {
  const account = await Account.findOne({ where: { name: asKept(name) } });
  return (await isPassword(password, account?.password)) && account ? account : undefined;
}

/** Begins a session and gives its token, which is kept nowhere but in the cookie. */
export async function beginSession(accountId: string): Promise<string> {
  const token = makeToken();
  await Session.destroy({ where: { endsAt: { [Op.lt]: new Date() } } });
  await Session.create({ hash: tokenHash(token), accountId, endsAt: new Date(Date.now() + SESSION_MS) });
  return token;
}

/** The account of a session that has not ended. */
export async function accountOfSession(token: string): Promise<Account | undefined> {
  const session = await Session.findOne({
    where: { hash: tokenHash(token), endsAt: { [Op.gt]: new Date() } },
    attributes: ['accountId'],
  });
  return (session && (await Account.findByPk(session.accountId))) ?? undefined;
}

export const endSession = (token: string): Promise<number> =>
  Session.destroy({ where: { hash: tokenHash(token) } });
export const endAllSessions = (accountId: string): Promise<number> =>
  Session.destroy({ where: { accountId } });
