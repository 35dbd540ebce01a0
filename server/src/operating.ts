import { Router, type RequestHandler } from 'express';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import type { Sequelize } from 'sequelize';
import { Job, type JobState } from './db/models.js';
import { Problem } from './problem.js';

/** Bounds of how long an answer takes, s: a save is meant to take a hundredth, a large reading some seconds. */
const SECONDS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.15, 0.25, 0.5, 1, 2.5, 5, 10];

/** The states in which jobs want somebody's eye. */
const UNFINISHED: readonly JobState[] = ['waiting', 'running', 'failed'];

/** The metrics of one server, of its own: several in one process do not count for each other. */
export class Metrics {
  readonly registry = new Registry();
  readonly #answers = new Histogram({
    name: 'http_request_duration_seconds',
    help: 'How long answers took, by method, route and status.',
    labelNames: ['method', 'route', 'status'],
    buckets: SECONDS,
    registers: [this.registry],
  });
  readonly #streams = new Gauge({
    name: 'tinfold_streams_open',
    help: 'Windows that hear of changes through this server.',
    registers: [this.registry],
  });

  constructor() {
    new Gauge({
      name: 'tinfold_jobs',
      help: 'Long work by kind and state: what waits, runs, and has failed.',
      labelNames: ['kind', 'state'],
      registers: [this.registry],
      async collect() {
        this.reset();
        // All else is told while the database is away.
        const counts = await Job.count({ where: { state: [...UNFINISHED] }, group: ['kind', 'state'] }).catch(
          () => [],
        );
        for (const { kind, state, count } of counts)
          this.set({ kind: String(kind), state: String(state) }, count);
      },
    });
    collectDefaultMetrics({ register: this.registry });
  }

  /** Measures every answer. Its route is the pattern, so that no id becomes a label. */
  measure(): RequestHandler {
    return (request, response, next) => {
      const from = process.hrtime.bigint();
      response.on('finish', () => {
        const { route } = request as { route?: { path?: unknown } };
        const path = typeof route?.path === 'string' ? request.baseUrl + route.path : 'none';
        const seconds = Number(process.hrtime.bigint() - from) / 1e9;
        this.#answers.observe({ method: request.method, route: path, status: response.statusCode }, seconds);
      });
      next();
    };
  }

  streams(open: number): void {
    this.#streams.set(open);
  }
}

/** Who may read what is measured: everybody on the machine or, where others reach the server, who shows a token. */
interface Readers {
  readonly isPublic: boolean;
  readonly token: string | undefined;
}

/** What keeps a server running asks: whether it lives, whether it can serve, and what it measures (Prometheus text). */
export function operatingRoutes(
  sequelize: Sequelize,
  metrics: Metrics,
  { isPublic, token }: Readers,
): Router {
  const router = Router();
  router.get('/health', (_request, response) => {
    response.json({ ok: true });
  });
  router.get('/ready', async (_request, response) => {
    try {
      await sequelize.query('SELECT 1');
      response.json({ ok: true });
    } catch {
      response.status(503).json({ ok: false, detail: 'The database does not answer.' });
    }
  });
  router.get('/metrics', async (request, response) => {
    if (isPublic && (token === undefined || request.headers.authorization !== `Bearer ${token}`))
      throw new Problem(401, 'Not allowed', 'Show the token that METRICS_TOKEN says, as a bearer token.');
    response.type(metrics.registry.contentType).send(await metrics.registry.metrics());
  });
  return router;
}
