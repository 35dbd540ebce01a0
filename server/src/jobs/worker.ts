import { pino } from 'pino';
import { connect, type JobKind } from '../db/models.js';
import { migrate } from '../db/migrations.js';
import { compute } from './compute.js';
import { Presence, takeUpLeft } from './presence.js';
import { Queue, RETRIES } from './queue.js';
import { begin, fail, finish, giveBack, keepProgress, taskOf } from './rows.js';

export interface WorkOptions {
  readonly databaseUrl: string;
  readonly logLevel?: string;
}

/** How often it is kept how far a job has come, and looked whether it is still wanted, ms. */
const BEAT = 500;
/** How often jobs are looked for whose worker is gone, ms. */
const SWEEP = 3_000;
/** A worker that is told to end finishes what it is at within this, ms; after that it is left, as by one that was killed. */
const PATIENCE = 15_000;

const GONE = 'What it was about is no longer there: take this line away.';
const BROKE =
  'Something broke while it was done: try again, and look into the worker’s log if it breaks again.';

/** Does long work from the queues, one job of each kind at a time, until it is closed. Several may work on one database. */
export async function work({
  databaseUrl,
  logLevel = 'warn',
}: WorkOptions): Promise<{ close(): Promise<void> }> {
  const logger = pino({ level: logLevel });
  const sequelize = connect(databaseUrl);
  await migrate(sequelize);
  const queue = await Queue.open(databaseUrl, sequelize, logger, { supervise: true });
  const presence = await Presence.take(databaseUrl, logger);
  const stopping = new AbortController();

  async function handle(kind: JobKind, id: string): Promise<void> {
    const worker = presence.number;
    const job = await begin(id, worker);
    if (!job) return;
    const from = performance.now();
    const task = await taskOf(sequelize, job).catch(() => undefined);
    if (!task) {
      await fail(id, worker, GONE);
      return;
    }
    const lost = new AbortController();
    let progress = 0;
    const beat = setInterval(() => {
      keepProgress(id, worker, progress).then(
        (isOwn) => {
          if (!isOwn) lost.abort();
        },
        () => undefined,
      );
    }, BEAT);
    try {
      const stop = AbortSignal.any([lost.signal, stopping.signal]);
      const tell = (done: number): void => {
        progress = done;
      };
      const outcome = await compute(task, tell, stop);
      if (outcome?.kind === 'refused') await fail(id, worker, outcome.reason);
      else if (outcome) await finish(sequelize, job, worker, task, outcome);
      logger.info({
        kind,
        job: id,
        ms: Math.round(performance.now() - from),
        as: outcome?.kind ?? 'stopped',
      });
    } catch (error) {
      logger.error({ err: error, kind, job: id }, 'A job broke off.');
      if (job.tries > RETRIES) await fail(id, worker, BROKE);
      else {
        await giveBack(id, worker);
        throw error;
      }
    } finally {
      clearInterval(beat);
    }
  }

  const sweep = setInterval(() => {
    takeUpLeft(sequelize, queue).catch((error: unknown) => {
      logger.warn({ err: error }, 'Jobs that were left could not be looked for.');
    });
  }, SWEEP);
  await queue.handOut(handle);
  return {
    close: async () => {
      clearInterval(sweep);
      setTimeout(() => {
        stopping.abort();
      }, PATIENCE).unref();
      await queue.close(PATIENCE + 5_000);
      await presence.close();
      await sequelize.close();
    },
  };
}
