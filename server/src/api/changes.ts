import { Router } from 'express';
import type { Changes } from '../changes.js';
import { Screen } from '../db/models.js';
import { notFound, parseId, Problem } from '../problem.js';

/** Something is sent at least so often, ms, so that nothing between holds the stream for dead. */
const BEAT = 20_000;
/** So many streams are open at once on one server. */
const MOST_STREAMS = 500;

/** Streams of server-sent events (HTML §9.2): the revision of a screen, at once and whenever it changes. `count` hears how many are open. */
export function changeRoutes(changes: Changes, count: (open: number) => void): Router {
  const router = Router();
  let open = 0;

  router.get('/screens/:id/changes', async (request, response) => {
    const id = parseId(request.params['id'], 'screen');
    if (open >= MOST_STREAMS)
      throw new Problem(503, 'Too many', 'Too many windows are open on this server: close some of them.');
    const revisionNow = async (): Promise<number> => {
      const screen = await Screen.findByPk(id, { attributes: ['revision'] });
      if (!screen) throw notFound('screen');
      return screen.revision;
    };
    const tell = (revision: number): void => {
      response.write(`data: ${JSON.stringify({ revision })}\n\n`);
    };
    const first = await revisionNow();
    count(++open);
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
    const stop = changes.hear(id, (revision) => {
      if (revision !== undefined) tell(revision);
      else
        revisionNow().then(tell, () => {
          response.end();
        });
    });
    tell(first);
    const beat = setInterval(() => {
      response.write(': here\n\n');
    }, BEAT);
    response.on('close', () => {
      count(--open);
      stop();
      clearInterval(beat);
    });
  });

  return router;
}
