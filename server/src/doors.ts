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
 * Lets in only what asks for this machine by a name of its own, or by the address that it is reached under, so that no other site's
 * name can be pointed at it (DNS rebinding), and lets only its own pages write (CSRF): browsers say where a write comes from
 * (Fetch §3.1 `Origin`).
 */
export function onlyFromHere(publicUrl?: URL): RequestHandler {
  return (request, _response, next) => {
    const host = hostOf(request.headers.host ?? '');
    if (host === undefined || !(isLoopback(host) || host === publicUrl?.hostname))
      throw new Problem(
        421,
        'Wrong address',
        `This server answers to ${publicUrl?.origin ?? '127.0.0.1 and localhost'} alone: open it there.`,
      );
    const { origin } = request.headers;
    const isOwn =
      origin === undefined || [`http://${request.headers.host ?? ''}`, publicUrl?.origin].includes(origin);
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
