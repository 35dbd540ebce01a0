import { randomInt } from 'node:crypto';
import type { Logger } from 'pino';
import { QueryTypes, type Sequelize } from 'sequelize';
import { StandingConnection } from '../db/standing.js';
import { Job } from '../db/models.js';
import { type Queue, RETRIES } from './queue.js';

/** The first of two numbers of an advisory lock (PostgreSQL manual §13.3.5): locks of workers. */
const WORKERS = 7846003;
const LARGEST = 2 ** 31;

/**
 * That a worker lives: it holds a lock by its own number, over a connection that stands as long as its process. What holds no lock any
 * more has been killed or cut off, and its jobs are free for others.
 */
export class Presence {
  #number = 0;
  #connection: StandingConnection | undefined;

  static async take(databaseUrl: string, logger: Logger): Promise<Presence> {
    const presence = new Presence();
    presence.#connection = await StandingConnection.open(databaseUrl, logger, {
      purpose: 'shows that this worker lives',
      open: async (client) => {
        // What was begun under the number before belongs to others by now.
        const number = randomInt(LARGEST);
        await client.query('SELECT pg_advisory_lock($1, $2)', [WORKERS, number]);
        presence.#number = number;
      },
    });
    return presence;
  }

  get number(): number {
    return this.#number;
  }

  async close(): Promise<void> {
    await this.#connection?.close();
  }
}

const GIVEN_UP = 'The worker that did it broke off again and again: look into its log, then try once more.';

/** Puts jobs whose worker is gone in line again or, after too many tries, down as failed. */
export async function takeUpLeft(sequelize: Sequelize, queue: Queue): Promise<void> {
  await sequelize.transaction(async (transaction) => {
    const left = await sequelize.query<Pick<Job, 'id' | 'kind' | 'tries'>>(
      `SELECT id, kind, tries FROM jobs WHERE state = 'running' AND NOT EXISTS (
          SELECT FROM pg_locks WHERE locktype = 'advisory' AND granted AND objsubid = 2
            AND database = (SELECT oid FROM pg_database WHERE datname = current_database())
            AND classid = $1 AND objid = jobs.worker)
        FOR UPDATE SKIP LOCKED`,
      { bind: [WORKERS], type: QueryTypes.SELECT, transaction },
    );
    for (const job of left) {
      const again = job.tries <= RETRIES;
      await Job.update(
        again
          ? { state: 'waiting', worker: null, progress: 0 }
          : { state: 'failed', worker: null, said: GIVEN_UP, endedAt: new Date() },
        { where: { id: job.id }, transaction },
      );
      if (again) await queue.send(job, transaction);
    }
  });
}
