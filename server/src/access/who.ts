import type { Request, RequestHandler, Response } from 'express';
import { parse } from 'cookie';
import { accountOfSession, isSignInOn, SESSION_MS } from './accounts.js';

/** Who asks: the machine's own user where nobody has to sign in, an account, or nobody known. */
export type Who =
  | { readonly kind: 'machine' }
  | { readonly kind: 'account'; readonly id: string; readonly name: string }
  | { readonly kind: 'stranger' };

const COOKIE = 'tinfold_session';

/** The token of the session that a request carries. */
export const sessionToken = (request: Request): string | undefined =>
  parse(request.headers.cookie ?? '')[COOKIE];

/** No script reads it (RFC 6265 §4.1.2.6), and no other site's page sends it along (`SameSite`). */
const kept = (isSecure: boolean) =>
  ({ httpOnly: true, sameSite: 'strict', secure: isSecure, path: '/' }) as const;

export const giveSession = (response: Response, token: string): void => {
  response.cookie(COOKIE, token, { ...kept(isSecure(response)), maxAge: SESSION_MS });
};
export const takeSession = (response: Response): void => {
  response.clearCookie(COOKIE, kept(isSecure(response)));
};

const isSecure = (response: Response): boolean => response.app.get('is secure') === true;

async function whoAsks(request: Request): Promise<Who> {
  const token = sessionToken(request);
  const account = token === undefined ? undefined : await accountOfSession(token);
  if (account) return { kind: 'account', id: account.id, name: account.name };
  return { kind: (await isSignInOn()) ? 'stranger' : 'machine' };
}

/** Finds out who asks, for all that comes after. */
export function findWho(): RequestHandler {
  return async (request, response, next) => {
    response.locals['who'] = await whoAsks(request);
    next();
  };
}

export const whoOf = (response: Response): Who => response.locals['who'] as Who;
