import pg from 'pg';
import type { Logger } from 'pino';
import type { Sequelize, Transaction } from 'sequelize';

/** The channel on which the servers of one database tell each other that a screen has changed. */
const CHANNEL = 'tinfold_screens';
/** After a lost connection it is asked for again, ms: soon at first, then less often. */
const FIRST_PAUSE = 200;
const LONGEST_PAUSE = 5_000;

/** Tells all servers of the database of a screen's new revision, once the transaction is committed. */
export async function tellChange(
  sequelize: Sequelize,
  screen: string,
  revision: number,
  transaction: Transaction,
): Promise<void> {
  await sequelize.query('SELECT pg_notify($1, $2)', { bind: [...changeOf(screen, revision)], transaction });
}

/** What is told of a change: the channel, and what goes over it. */
export const changeOf = (screen: string, revision: number): readonly [channel: string, payload: string] => [
  CHANNEL,
  JSON.stringify({ screen, revision }),
];

/** Hears a screen's new revision; undefined where changes may have gone unheard, so that one has to look. */
export type Hear = (revision: number | undefined) => void;

interface Told {
  readonly screen: string;
  readonly revision: number;
}

/** The message of a notification; undefined for what nobody here has sent. */
function toldIn(payload: string | undefined): Told | undefined {
  try {
    const { screen, revision } = JSON.parse(payload ?? '') as Partial<Told>;
    return typeof screen === 'string' && typeof revision === 'number' ? { screen, revision } : undefined;
  } catch {
    return undefined;
  }
}

/** What is told on the database's channel, over a connection of its own that is made again whenever it is lost. */
export class Changes {
  readonly #databaseUrl: string;
  readonly #logger: Logger;
  readonly #hearers = new Map<string, Set<Hear>>();
  #client: pg.Client | undefined;
  #timer: NodeJS.Timeout | undefined;
  #pause = FIRST_PAUSE;
  #closed = false;

  private constructor(databaseUrl: string, logger: Logger) {
    this.#databaseUrl = databaseUrl;
    this.#logger = logger;
  }

  /** Listens; rejects where the database cannot be reached at the start. */
  static async listen(databaseUrl: string, logger: Logger): Promise<Changes> {
    const changes = new Changes(databaseUrl, logger);
    await changes.#connect();
    return changes;
  }

  /** Hears of a screen until the function is called that it gives. */
  hear(screen: string, hear: Hear): () => void {
    const hearers = this.#hearers.get(screen) ?? new Set();
    this.#hearers.set(screen, hearers);
    hearers.add(hear);
    return () => {
      hearers.delete(hear);
      if (hearers.size === 0) this.#hearers.delete(screen);
    };
  }

  async close(): Promise<void> {
    this.#closed = true;
    clearTimeout(this.#timer);
    await this.#client?.end();
  }

  async #connect(): Promise<void> {
    const client = new pg.Client({ connectionString: this.#databaseUrl, keepAlive: true });
    client.on('notification', ({ payload }) => {
      const told = toldIn(payload);
      if (told) for (const hear of this.#hearers.get(told.screen) ?? []) hear(told.revision);
    });
    // Without a hearer a lost connection would end the process.
    client.on('error', (error) => {
      this.#lost(client, error);
    });
    client.on('end', () => {
      this.#lost(client, undefined);
    });
    await client.connect();
    await client.query(`LISTEN ${CHANNEL}`);
    this.#client = client;
    this.#pause = FIRST_PAUSE;
  }

  #lost(client: pg.Client, error: Error | undefined): void {
    if (this.#closed || this.#client !== client) return;
    this.#client = undefined;
    this.#logger.warn({ err: error }, 'The connection that hears of changes is lost: it is made again.');
    this.#again();
  }

  #again(): void {
    this.#timer = setTimeout(() => {
      this.#connect().then(
        () => {
          // What was told meanwhile went unheard.
          for (const hearers of this.#hearers.values()) for (const hear of hearers) hear(undefined);
        },
        () => {
          this.#pause = Math.min(LONGEST_PAUSE, this.#pause * 2);
          if (!this.#closed) this.#again();
        },
      );
    }, this.#pause);
  }
}
