import { Router, type RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { FontRow, HandoffRow, Job, LinkRow, Member, Screen } from '../db/models.js';
import { notFound, parseId, Problem, unknownAddress } from '../problem.js';
import { NEEDS, ROLES, type Line, type Named, type Need, type Role } from './needs.js';
import { whoOf, type Who } from './who.js';

/** What is in the bin belongs to its project as well. */
const projectOfScreen = async (id: string | undefined): Promise<string | undefined> =>
  id === undefined
    ? undefined
    : (await Screen.findByPk(id, { attributes: ['projectId'], paranoid: false }))?.projectId;

/** The project of what an id names. */
const PROJECT_OF: Readonly<Record<Named, (id: string) => Promise<string | undefined>>> = {
  project: (id) => Promise.resolve(id),
  screen: projectOfScreen,
  handoff: async (id) =>
    projectOfScreen((await HandoffRow.findByPk(id, { attributes: ['screenId'] }))?.screenId),
  font: async (id) => (await FontRow.findByPk(id, { attributes: ['projectId'] }))?.projectId,
  job: async (id) => (await Job.findByPk(id, { attributes: ['projectId'] }))?.projectId,
  link: async (id) => projectOfScreen((await LinkRow.findByPk(id, { attributes: ['screenId'] }))?.screenId),
};

const MAY: Readonly<Record<Role, string>> = {
  viewer: 'look at this project',
  editor: 'change what is in this project',
  owner: 'do all in this project',
};

/** Holds who asks to what a route needs; throws where it is not met. */
async function hold(who: Who, need: Need, id: unknown): Promise<void> {
  if (need === 'anyone' || who.kind === 'machine') return;
  if (who.kind === 'stranger') throw new Problem(401, 'Sign in', 'Sign in first, then ask for this again.');
  if (need === 'account') return;
  const projectId = await PROJECT_OF[need.of](parseId(id, need.of));
  const member =
    projectId === undefined
      ? null
      : await Member.findOne({ where: { projectId, accountId: who.id }, attributes: ['role'] });
  // Whether there is such a thing is not told to those who may not see it.
  if (!member) throw notFound(need.of);
  if (ROLES.indexOf(member.role) < ROLES.indexOf(need.role))
    throw new Problem(
      403,
      'Not allowed',
      `You may ${MAY[member.role]}, and no more: ask one of its owners for the role of ${need.role}.`,
    );
}

/** So many requests an account, or an address that is none's, makes in a minute: some hands' work, and no program's. */
const MOST_IN_A_MINUTE = 1200;

/** Refuses who asks without end, where others are served too. */
function limit(): RequestHandler {
  return rateLimit({
    windowMs: 60_000,
    limit: MOST_IN_A_MINUTE,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    skip: (_request, response) => whoOf(response).kind === 'machine',
    keyGenerator: (request, response) => {
      const who = whoOf(response);
      return who.kind === 'account' ? who.id : (request.socket.remoteAddress ?? '');
    },
    handler: () => {
      throw new Problem(
        429,
        'Too many',
        'There were too many requests in a minute: wait a little, then go on.',
      );
    },
  });
}

/** Lets a request through to the routes where who asks may do it, and where the route has a line at all. */
export function guard(needs: readonly Line[] = NEEDS): Router {
  const router = Router();
  router.use(limit());
  for (const [method, path, need] of needs)
    router[method](path, async (request, response, next) => {
      await hold(whoOf(response), need, request.params['id']);
      response.locals['allowed'] = true;
      next();
    });
  router.use((request, response, next) => {
    if (response.locals['allowed'] === true) next();
    else unknownAddress(request, response, next);
  });
  return router;
}
