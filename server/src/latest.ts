import { LRUCache } from 'lru-cache';
import type { Structure } from '@tinfold/core/model';

/** So many structures are at hand: those of the screens that are worked on. */
const MOST = 64;

interface Latest {
  /** The transaction that wrote the screen's row last (PostgreSQL manual §5.5, `xmin`). */
  readonly version: string;
  readonly structure: Structure;
}

/**
 * Structures as they stand in the database, so that an edit needs not be put on a snapshot and all edits since. Each is used only
 * while its screen's row is the very version that it belongs to: another server's write, or a restored database, makes it useless.
 */
export class LatestStructures {
  readonly #known = new LRUCache<string, Latest>({ max: MOST });

  at(screen: string, version: string): Structure | undefined {
    const known = this.#known.get(screen);
    return known?.version === version ? known.structure : undefined;
  }

  keep(screen: string, version: string, structure: Structure): void {
    this.#known.set(screen, { version, structure });
  }
}
