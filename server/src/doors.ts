import type { RequestHandler } from 'express';
import { Problem } from './problem.js';

/** The names of this machine alone. */
const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]', '::1']);

/** Whether an address is reached from this machine alone. */
export const isLoopback = (host: string): boolean => LOOPBACK.has(host.toLowerCase());

/** The host of a `Host` header without its port; undefined for what is none. */
function hostOf(value: string): string | undefined {
  try {
    return new URL(`http://${value}`).hostname.toLowerCase();
  } catch {
    return undefined;
  }
}

const isRead = (method: string): boolean => method === 'GET' || method === 'HEAD' || method === 'OPTIONS';

/**
 * Lets in only what asks for this machine by a name of its own, so that no other site's name can be pointed at it (DNS rebinding),
 * and lets only its own pages write (CSRF): browsers say where a write comes from (Fetch §3.1 `Origin`).
 */
export function onlyFromHere(): RequestHandler {
  return (request, _response, next) => {
    const host = hostOf(request.headers.host ?? '');
    if (host === undefined || !isLoopback(host))
      throw new Problem(
        421,
        'Wrong address',
        'This server answers to 127.0.0.1 and localhost alone: open it under one of these.',
      );
    const { origin } = request.headers;
    const isOwn = origin === undefined || origin === `http://${request.headers.host ?? ''}`;
    const isCross = request.headers['sec-fetch-site'] === 'cross-site';
    if (!isRead(request.method) && (!isOwn || isCross))
      throw new Problem(
        403,
        'Not from here',
        'Another site may not change anything here: use the pages of this server.',
      );
    next();
  };
}
