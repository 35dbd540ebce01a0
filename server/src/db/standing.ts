import pg from 'pg';
import type { Logger } from 'pino';

/** After a lost connection it is asked for again, ms: soon at first, then less often. */
const FIRST_PAUSE = 200;
const LONGEST_PAUSE = 5_000;

interface StandingOptions {
  /** What it is for, in a sentence about its loss: “hears of changes”. */
  readonly purpose: string;
  /** What is done with each new connection before it counts; `isFirst` for the one at the start. */
  readonly open: (client: pg.Client, isFirst: boolean) => Promise<void>;
}

/** One connection to the database that stands all the time, and is made again whenever it is lost. */
export class StandingConnection {
  readonly #databaseUrl: string;
  readonly #logger: Logger;
  readonly #options: StandingOptions;
  #client: pg.Client | undefined;
  #timer: NodeJS.Timeout | undefined;
  #pause = FIRST_PAUSE;
  #closed = false;

  private constructor(databaseUrl: string, logger: Logger, options: StandingOptions) {
    this.#databaseUrl = databaseUrl;
    this.#logger = logger;
    this.#options = options;
  }

  /** Connects; rejects where the database cannot be reached at the start. */
  static async open(
    databaseUrl: string,
    logger: Logger,
    options: StandingOptions,
  ): Promise<StandingConnection> {
    const standing = new StandingConnection(databaseUrl, logger, options);
    await standing.#connect(true);
    return standing;
  }

  async close(): Promise<void> {
    this.#closed = true;
    clearTimeout(this.#timer);
    await this.#client?.end();
  }

  async #connect(isFirst: boolean): Promise<void> {
    const client = new pg.Client({ connectionString: this.#databaseUrl, keepAlive: true });
    // Without a hearer a lost connection would end the process.
    client.on('error', (error) => {
      this.#lost(client, error);
    });
    client.on('end', () => {
      this.#lost(client, undefined);
    });
    await client.connect();
    await this.#options.open(client, isFirst);
    this.#client = client;
    this.#pause = FIRST_PAUSE;
  }

  #lost(client: pg.Client, error: Error | undefined): void {
    if (this.#closed || this.#client !== client) return;
    this.#client = undefined;
    this.#logger.warn(
      { err: error },
      `The connection that ${this.#options.purpose} is lost: it is made again.`,
    );
    this.#again();
  }

  #again(): void {
    this.#timer = setTimeout(() => {
      this.#connect(false).catch(() => {
        this.#pause = Math.min(LONGEST_PAUSE, this.#pause * 2);
        if (!this.#closed) this.#again();
      });
    }, this.#pause);
  }
}
