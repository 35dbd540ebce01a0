import type pg from 'pg';
import type { Logger } from 'pino';
import type { Sequelize, Transaction } from 'sequelize';
import { StandingConnection } from './db/standing.js';

/** The channel on which the servers of one database tell each other that a screen has changed. */
const CHANNEL = 'tinfold_screens';

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
  readonly #hearers = new Map<string, Set<Hear>>();
  #connection: StandingConnection | undefined;

  /** Listens; rejects where the database cannot be reached at the start. */
  static async listen(databaseUrl: string, logger: Logger): Promise<Changes> {
    const changes = new Changes();
    changes.#connection = await StandingConnection.open(databaseUrl, logger, {
      purpose: 'hears of changes',
      open: (client, isFirst) => changes.#listenTo(client, isFirst),
    });
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
    await this.#connection?.close();
  }

  async #listenTo(client: pg.Client, isFirst: boolean): Promise<void> {
    client.on('notification', ({ payload }) => {
      const told = toldIn(payload);
      if (told) for (const hear of this.#hearers.get(told.screen) ?? []) hear(told.revision);
    });
    await client.query(`LISTEN ${CHANNEL}`);
    // What was told since the last connection was lost went unheard.
    if (!isFirst) for (const hearers of this.#hearers.values()) for (const hear of hearers) hear(undefined);
  }
}
