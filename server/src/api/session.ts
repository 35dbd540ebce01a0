import { Router, type Response } from 'express';
import * as v from 'valibot';
import { accountOf, beginSession, endAllSessions, endSession } from '../access/accounts.js';
import { countTry, forgetTries } from '../access/tries.js';
import { giveSession, sessionToken, takeSession, whoOf } from '../access/who.js';
import { parseInput, Problem, Text } from '../problem.js';

export const AccountName = v.pipe(Text, v.trim(), v.minLength(1), v.maxLength(200));
/** NIST SP 800-63B §5.1.1.2: at least eight letters, long ones are taken, no rules about their kinds. */
export const Password = v.pipe(
  v.string(),
  v.minLength(8, 'a password has at least eight letters'),
  v.maxLength(200),
);
const SignIn = v.strictObject({ name: AccountName, password: v.pipe(v.string(), v.maxLength(200)) });

/** Who is signed in, as the pages are told. */
const tell = (response: Response): void => {
  const who = whoOf(response);
  response.json({ kind: who.kind, ...(who.kind === 'account' && { name: who.name }) });
};

/** The routes for signing in and out. */
export function sessionRoutes(): Router {
  const router = Router();

  router.get('/session', (_request, response) => {
    tell(response);
  });

  router.post('/session', async (request, response) => {
    const { name, password } = parseInput(SignIn, request.body);
    const key = name.toLowerCase();
    await countTry(key, request.socket.remoteAddress ?? '');
    const account = await accountOf(name, password);
    if (!account)
      throw new Problem(
        401,
        'Not signed in',
        'Name and password do not go together: check both, then try again.',
      );
    await forgetTries(key);
    giveSession(response, await beginSession(account.id));
    response.json({ kind: 'account', name: account.name });
  });

  router.delete('/session', async (request, response) => {
    const token = sessionToken(request);
    if (token !== undefined) await endSession(token);
    takeSession(response);
    response.status(204).end();
  });

  router.delete('/sessions', async (_request, response) => {
    const who = whoOf(response);
    if (who.kind === 'account') await endAllSessions(who.id);
    takeSession(response);
    response.status(204).end();
  });

  return router;
}
