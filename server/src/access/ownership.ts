import type { Transaction, WhereOptions } from 'sequelize';
import { Member } from '../db/models.js';
import type { Who } from './who.js';

/** Which projects are shown to who asks: all, or those that the account is a member of. */
export async function shownTo(who: Who): Promise<{ where: WhereOptions<{ id: string }> }> {
  if (who.kind !== 'account') return { where: {} };
  const members = await Member.findAll({ where: { accountId: who.id }, attributes: ['projectId'] });
  return { where: { id: members.map((m) => m.projectId) } };
}

/** A project belongs to who made it. */
export async function own(who: Who, projectId: string, transaction: Transaction): Promise<void> {
  if (who.kind === 'account')
    await Member.create({ projectId, accountId: who.id, role: 'owner' }, { transaction });
}
