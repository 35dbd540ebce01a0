import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { api, isRefusal, type Conflict, type Write } from '../api/client';

/** Edits that the server has not yet said it has, by the order in which they were made. */
interface Schema extends DBSchema {
  unsent: {
    key: number;
    value: Write & { readonly screen: string };
    indexes: { screen: string; write: string };
  };
}

const NAME = 'tin-fold';
const VERSION = 1;

let opened: Promise<IDBPDatabase<Schema>> | undefined;

const database = async (): Promise<IDBPDatabase<Schema>> =>
  (opened ??= openDB<Schema>(NAME, VERSION, {
    upgrade(db) {
      const store = db.createObjectStore('unsent', { autoIncrement: true });
      store.createIndex('screen', 'screen');
      store.createIndex('write', 'write', { unique: true });
    },
  }));

/** What a browser without a database of its own cannot keep waits in the page alone. */
const orNothing = async <T>(work: Promise<T>, nothing: T): Promise<T> => {
  try {
    return await work;
  } catch {
    return nothing;
  }
};

/** Keeps an edit in this browser until {@link forget}: a closed page, a stopped server or a lost connection loses nothing. */
export const keep = (screen: string, write: Write): Promise<void> =>
  orNothing(
    database().then(async (db) => {
      await db.add('unsent', { ...write, screen });
    }),
    undefined,
  );

/** Takes an edit away that the server has, or has refused. */
export const forget = (write: string): Promise<void> =>
  orNothing(
    database().then(async (db) => {
      const key = await db.getKeyFromIndex('unsent', 'write', write);
      if (key !== undefined) await db.delete('unsent', key);
    }),
    undefined,
  );

/** The edits of a screen that are kept here, in their order. */
export const unsentOf = (screen: string): Promise<readonly Write[]> =>
  orNothing(
    database().then((db) => db.getAllFromIndex('unsent', 'screen', screen)),
    [],
  );

/** A write that builds on an older revision is tried again so many times on the newer one. */
const TRIES = 5;

/**
 * Sends what was kept here of a screen when it was last open, on top of `revision`; gives the sentences about edits that no longer
 * fit. Fails as the connection does; what was not sent stays kept.
 */
export async function sendUnsent(
  screen: string,
  revision: number,
): Promise<{ sent: number; refused: string[] }> {
  const refused: string[] = [];
  const kept = await unsentOf(screen);
  let at = revision;
  for (const write of kept) {
    for (let tries = 0; ; tries++) {
      try {
        at = (await api.writeSteps(screen, at, write)).revision;
        break;
      } catch (error) {
        if (!isRefusal(error)) throw error;
        if (error.status === 409 && tries < TRIES) {
          at = (error.body as Conflict).revision;
          continue;
        }
        refused.push(`“${write.label}”, kept here from before, no longer fits: ${error.message}`);
        break;
      }
    }
    await forget(write.write);
  }
  return { sent: kept.length, refused };
}
