import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import type { Sequelize, Transaction } from 'sequelize';
import { JOB_KINDS, type Job, type JobKind } from '../db/models.js';

/** The longest that a job may take, ms; one that takes longer is not going to end. */
export const LONGEST_MS: Readonly<Record<JobKind, number>> = { reading: 180_000, proof: 600_000 };

/** A job that broke off is begun again so often, s after s, twice as long each time. */
export const RETRIES = 2;
const RETRY_DELAY_S = 2;
/** A queue waits this much longer for a job than its worker does, s: the worker's own word comes first. */
const GRACE_S = 60;
/** So often a worker asks for jobs, s: the least that the queue allows. */
const POLLING_S = 0.5;

/** The advisory lock (PostgreSQL manual §13.3.5) under which the queues are made. */
const MAKING = 7846004;

interface Sent {
  /** The id of a row in `jobs`. */
  readonly job: string;
}

/** One job as the queue hands it to a worker: throwing gives it back, to be tried again. */
export type Handle = (kind: JobKind, job: string) => Promise<void>;

/** The queues of long work, kept in the database (a schema of its own), one for each kind. */
export class Queue {
  readonly #boss: PgBoss;
  readonly #sequelize: Sequelize;

  private constructor(boss: PgBoss, sequelize: Sequelize) {
    this.#boss = boss;
    this.#sequelize = sequelize;
  }

  /** Opens the queues, and makes them in a new database. Workers look after them (`supervise`), servers only send. */
  static async open(
    databaseUrl: string,
    sequelize: Sequelize,
    logger: Logger,
    { supervise }: { readonly supervise: boolean },
  ): Promise<Queue> {
    const boss = new PgBoss({
      connectionString: databaseUrl,
      application_name: 'tinfold queue',
      max: 2,
      schedule: false,
      supervise,
      maintenanceIntervalSeconds: 30,
    });
    // Without a hearer a lost connection would end the process; the next question makes another.
    boss.on('error', (error) => {
      logger.warn({ err: error }, 'The queue could not be asked: it is asked again.');
    });
    // Several that make the same queues at once would wait for each other for ever: a lock lets one do it.
    await sequelize.transaction(async (transaction) => {
      await sequelize.query('SELECT pg_advisory_xact_lock($1)', { bind: [MAKING], transaction });
      await boss.start();
      for (const name of JOB_KINDS) await boss.createQueue(name, { name });
    });
    return new Queue(boss, sequelize);
  }

  /** Puts a job in line; it is there when the transaction is committed. */
  async send({ id, kind }: Pick<Job, 'id' | 'kind'>, transaction: Transaction): Promise<void> {
    const executeSql = async (text: string, values: readonly unknown[]): Promise<{ rows: unknown[] }> => {
      const [rows] = await this.#sequelize.query(text, {
        bind: values.map((value) => value ?? null),
        transaction,
      });
      return { rows };
    };
    await this.#boss.send(kind, { job: id } satisfies Sent, {
      db: { executeSql },
      retryLimit: RETRIES,
      retryDelay: RETRY_DELAY_S,
      retryBackoff: true,
      expireInSeconds: LONGEST_MS[kind] / 1000 + GRACE_S,
    });
  }

  /** Hands out jobs, one of each kind at a time, until it is closed. */
  async handOut(handle: Handle): Promise<void> {
    for (const kind of JOB_KINDS)
      await this.#boss.work<Sent>(kind, { pollingIntervalSeconds: POLLING_S }, async ([sent]) => {
        if (sent) await handle(kind, sent.data.job);
      });
  }

  /** Closes it; waits for what was handed out, ms at most. */
  async close(waitMs = 0): Promise<void> {
    await this.#boss.stop({ graceful: waitMs > 0, wait: true, timeout: Math.max(1000, waitMs) });
  }
}
