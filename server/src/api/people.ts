import { Router } from 'express';
import { Op, type Sequelize } from 'sequelize';
import * as v from 'valibot';
import { beginSession, isSignInOn, makeAccount } from '../access/accounts.js';
import { ROLES } from '../access/needs.js';
import { makeToken, tokenHash } from '../access/secrets.js';
import { giveSession, whoOf } from '../access/who.js';
import { inDays } from '../days.js';
import { Account, Invitation, Member, Project } from '../db/models.js';
import { notFound, parseId, parseInput, Problem } from '../problem.js';
import { AccountName, Password } from './session.js';
import { parseToken } from './token.js';

/** An invitation that nobody has taken ends after so many days. */
const INVITED_DAYS = 14;

const Roled = v.strictObject({ role: v.picklist(ROLES) });
const Joining = v.strictObject({ name: v.exactOptional(AccountName), password: v.exactOptional(Password) });
/** The routes for who works on a project, and for how somebody comes to it. */
export function peopleRoutes(sequelize: Sequelize): Router {
  const router = Router();

  router.get('/projects/:id/people', async (request, response) => {
    const projectId = parseId(request.params['id'], 'project');
    const members = await Member.findAll({ where: { projectId } });
    const accounts = await Account.findAll({
      where: { id: members.map((m) => m.accountId) },
      attributes: ['id', 'name'],
      order: [['name', 'ASC']],
    });
    const roles = new Map(members.map((m) => [m.accountId, m.role]));
    response.json({
      isSignInOn: await isSignInOn(),
      people: accounts.map(({ id, name }) => ({ id, name, role: roles.get(id) })),
    });
  });

  router.post('/projects/:id/invitations', async (request, response) => {
    const projectId = parseId(request.params['id'], 'project');
    const { role } = parseInput(Roled, request.body);
    if (!(await Project.findByPk(projectId, { attributes: ['id'] }))) throw notFound('project');
    if (!(await isSignInOn()))
      throw new Problem(
        422,
        'No accounts',
        'Nobody has to sign in here yet: make the first account with “npm run account”, then invite others.',
      );
    const token = makeToken();
    const endsAt = inDays(INVITED_DAYS);
    await Invitation.destroy({ where: { endsAt: { [Op.lt]: new Date() } } });
    await Invitation.create({ hash: tokenHash(token), projectId, role, endsAt });
    response.status(201).json({ token, role, endsAt });
  });

  /** Somebody's role is changed or taken; a project keeps an owner, who alone could give it another. */
  const change = (projectId: string, accountId: string, role: Member['role'] | undefined): Promise<void> =>
    sequelize.transaction(async (transaction) => {
      const owners = await Member.findAll({
        where: { projectId, role: 'owner' },
        transaction,
        lock: true,
      });
      if (role !== 'owner' && owners.length === 1 && owners[0]?.accountId === accountId)
        throw new Problem(422, 'Refused', 'A project has an owner: make somebody else one first.');
      const where = { projectId, accountId };
      const count =
        role === undefined
          ? await Member.destroy({ where, transaction })
          : (await Member.update({ role }, { where, transaction }))[0];
      if (count === 0) throw notFound('member of this project');
    });

  router.put('/projects/:id/people/:account', async (request, response) => {
    const { role } = parseInput(Roled, request.body);
    const [project, account] = [request.params['id'], request.params['account']];
    await change(parseId(project, 'project'), parseId(account, 'member of this project'), role);
    response.status(204).end();
  });

  router.delete('/projects/:id/people/:account', async (request, response) => {
    const [project, account] = [request.params['id'], request.params['account']];
    await change(parseId(project, 'project'), parseId(account, 'member of this project'), undefined);
    response.status(204).end();
  });

  const invitation = async (token: unknown): Promise<{ invited: Invitation; project: Project }> => {
    const hash = parseToken(token, 'invitation');
    const invited = await Invitation.findOne({ where: { hash, endsAt: { [Op.gt]: new Date() } } });
    const project = invited && (await Project.findByPk(invited.projectId));
    if (!project)
      throw new Problem(
        404,
        'Not found',
        'This invitation was used, has ended or never was: ask for another one.',
      );
    return { invited, project };
  };

  router.get('/invitations/:token', async (request, response) => {
    const { invited, project } = await invitation(request.params['token']);
    response.json({ project: project.name, role: invited.role });
  });

  router.post('/invitations/:token', async (request, response) => {
    const { name, password } = parseInput(Joining, request.body);
    const { invited, project } = await invitation(request.params['token']);
    const who = whoOf(response);
    const accountId = await sequelize.transaction(async (transaction) => {
      // Whoever takes it away joins: it is used once, whoever else holds it.
      const taken = await Invitation.destroy({ where: { hash: invited.hash }, transaction });
      if (taken === 0) throw notFound('invitation');
      if (who.kind !== 'account' && (name === undefined || password === undefined))
        throw new Problem(400, 'Wrong input', 'Say a name and a password, or sign in first.');
      const id =
        who.kind === 'account' ? who.id : (await makeAccount(name ?? '', password ?? '', transaction)).id;
      const where = { projectId: project.id, accountId: id };
      const before = await Member.findOne({ where, transaction });
      // Nobody loses by an invitation what they had.
      if (!before) await Member.create({ ...where, role: invited.role }, { transaction });
      else if (ROLES.indexOf(before.role) < ROLES.indexOf(invited.role))
        await before.update({ role: invited.role }, { transaction });
      return id;
    });
    if (who.kind !== 'account') giveSession(response, await beginSession(accountId));
    response.status(201).json({ project: project.id });
  });

  return router;
}
