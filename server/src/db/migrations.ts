import type { QueryInterface } from 'sequelize';
import { Umzug, type UmzugStorage } from 'umzug';
import type { Sequelize, Transaction } from 'sequelize';

export interface Migration {
  readonly name: string;
  readonly sql: string;
}

/** In order; a migration that has landed is never changed, a new one is added. */
export const MIGRATIONS: readonly Migration[] = [
  {
    name: '001-projects-screens-drawings-steps',
    sql: `
      CREATE TABLE projects (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        name text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
        created_at timestamptz NOT NULL DEFAULT now()
      );
      CREATE TABLE screens (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE,
        name text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
        revision integer NOT NULL DEFAULT 0,
        snapshot json,
        snapshot_revision integer NOT NULL DEFAULT 0,
        created_at timestamptz NOT NULL DEFAULT now()
      );
      CREATE INDEX screens_by_project ON screens (project_id, created_at);
      CREATE TABLE drawings (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        screen_id uuid NOT NULL REFERENCES screens ON DELETE CASCADE,
        name text NOT NULL,
        width double precision NOT NULL,
        height double precision NOT NULL,
        source text NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now()
      );
      CREATE INDEX drawings_by_screen ON drawings (screen_id, width DESC);
      CREATE TABLE steps (
        screen_id uuid NOT NULL REFERENCES screens ON DELETE CASCADE,
        revision integer NOT NULL,
        label text NOT NULL,
        steps json NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now(),
        PRIMARY KEY (screen_id, revision)
      );`,
  },
  {
    name: '002-decisions-about-drawings',
    sql: `ALTER TABLE drawings ADD COLUMN decisions json;`,
  },
  {
    name: '003-fonts-and-structures-as-read',
    sql: `
      ALTER TABLE screens ADD COLUMN as_read json;
      CREATE TABLE fonts (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE,
        family text NOT NULL,
        weight integer NOT NULL CHECK (weight BETWEEN 1 AND 1000),
        italic boolean NOT NULL,
        file bytea NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now()
      );
      CREATE INDEX fonts_by_project ON fonts (project_id, created_at);`,
  },
  {
    name: '004-proofs-and-expectations',
    sql: `
      ALTER TABLE screens ADD COLUMN expectations json NOT NULL DEFAULT '[]';
      ALTER TABLE screens ADD COLUMN left_so json NOT NULL DEFAULT '[]';
      CREATE TABLE proofs (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        screen_id uuid NOT NULL REFERENCES screens ON DELETE CASCADE,
        revision integer NOT NULL,
        range_from integer NOT NULL,
        range_to integer NOT NULL,
        trials json NOT NULL,
        errors integer NOT NULL,
        warnings integer NOT NULL,
        notes integer NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now()
      );
      CREATE INDEX proofs_by_screen ON proofs (screen_id, created_at);`,
  },
  {
    name: '005-bin',
    sql: `
      ALTER TABLE projects ADD COLUMN deleted_at timestamptz;
      ALTER TABLE screens ADD COLUMN deleted_at timestamptz;`,
  },
  {
    name: '006-writes-by-id',
    sql: `
      ALTER TABLE steps ADD COLUMN write uuid;
      CREATE UNIQUE INDEX steps_by_write ON steps (screen_id, write);`,
  },
  {
    name: '007-order-of-screens',
    sql: `ALTER TABLE screens ADD COLUMN place integer;`,
  },
  {
    name: '008-handoffs',
    sql: `
      CREATE TABLE handoffs (
        id uuid PRIMARY KEY,
        screen_id uuid NOT NULL REFERENCES screens (id) ON DELETE CASCADE,
        revision integer NOT NULL,
        formats json NOT NULL,
        widths json NOT NULL,
        structure json NOT NULL,
        created_at timestamptz NOT NULL
      );
      CREATE INDEX handoffs_by_screen ON handoffs (screen_id, created_at);`,
  },
  {
    name: '009-revisions',
    sql: `
      CREATE TABLE snapshots (
        screen_id uuid NOT NULL REFERENCES screens ON DELETE CASCADE,
        revision integer NOT NULL,
        structure json NOT NULL,
        label text,
        created_at timestamptz NOT NULL DEFAULT now(),
        PRIMARY KEY (screen_id, revision)
      );
      INSERT INTO snapshots (screen_id, revision, structure)
        SELECT id, snapshot_revision, snapshot FROM screens WHERE snapshot IS NOT NULL;
      CREATE TABLE revision_names (
        screen_id uuid NOT NULL REFERENCES screens ON DELETE CASCADE,
        revision integer NOT NULL,
        name text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
        PRIMARY KEY (screen_id, revision)
      );`,
  },
  {
    name: '010-accounts-and-links',
    sql: `
      CREATE TABLE accounts (
        id uuid PRIMARY KEY,
        name text NOT NULL UNIQUE CHECK (length(name) BETWEEN 1 AND 200),
        password text NOT NULL,
        created_at timestamptz NOT NULL
      );
      CREATE TABLE sessions (
        hash text PRIMARY KEY,
        account_id uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
        ends_at timestamptz NOT NULL,
        created_at timestamptz NOT NULL
      );
      CREATE INDEX sessions_by_account ON sessions (account_id);
      CREATE TABLE members (
        project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE,
        account_id uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
        role text NOT NULL CHECK (role IN ('viewer', 'editor', 'owner')),
        PRIMARY KEY (project_id, account_id)
      );
      CREATE INDEX members_by_account ON members (account_id);
      CREATE TABLE invitations (
        hash text PRIMARY KEY,
        project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE,
        role text NOT NULL CHECK (role IN ('viewer', 'editor', 'owner')),
        ends_at timestamptz NOT NULL,
        created_at timestamptz NOT NULL
      );
      CREATE TABLE links (
        id uuid PRIMARY KEY,
        hash text NOT NULL UNIQUE,
        screen_id uuid NOT NULL REFERENCES screens ON DELETE CASCADE,
        ends_at timestamptz NOT NULL,
        created_at timestamptz NOT NULL
      );
      CREATE INDEX links_by_screen ON links (screen_id);
      CREATE TABLE sign_in_tries (
        id uuid PRIMARY KEY,
        key text NOT NULL,
        at timestamptz NOT NULL
      );
      CREATE INDEX sign_in_tries_by_key ON sign_in_tries (key, at);`,
  },
  {
    name: '011-jobs',
    sql: `
      CREATE TABLE jobs (
        id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
        project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE,
        screen_id uuid REFERENCES screens ON DELETE CASCADE,
        kind text NOT NULL CHECK (kind IN ('reading', 'proof')),
        name text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
        source text,
        state text NOT NULL CHECK (state IN ('waiting', 'running', 'done', 'failed')),
        worker integer,
        tries integer NOT NULL DEFAULT 0,
        progress double precision NOT NULL DEFAULT 0,
        said text,
        made json,
        created_at timestamptz NOT NULL DEFAULT now(),
        ended_at timestamptz
      );
      CREATE INDEX jobs_by_project ON jobs (project_id, created_at);
      CREATE INDEX jobs_running ON jobs (worker) WHERE state = 'running';`,
  },
];

/** Which migrations are done, kept in the transaction that does them: one that fails is not remembered as done. */
function storageIn(sequelize: Sequelize, transaction: Transaction): UmzugStorage {
  const run = (sql: string, name?: string) =>
    sequelize.query(sql, { transaction, ...(name !== undefined && { bind: [name] }) });
  return {
    logMigration: async ({ name }) => {
      await run('INSERT INTO migrations (name) VALUES ($1)', name);
    },
    unlogMigration: async ({ name }) => {
      await run('DELETE FROM migrations WHERE name = $1', name);
    },
    executed: async () => {
      await run('CREATE TABLE IF NOT EXISTS migrations (name varchar(255) PRIMARY KEY)');
      const [rows] = await run('SELECT name FROM migrations ORDER BY name');
      return (rows as { name: string }[]).map((r) => r.name);
    },
  };
}

/** Brings the database to the newest form. Several servers may start at once: a lock lets one do it. */
export async function migrate(
  sequelize: Sequelize,
  migrations: readonly Migration[] = MIGRATIONS,
): Promise<void> {
  await sequelize.transaction(async (transaction) => {
    await sequelize.query('SELECT pg_advisory_xact_lock(7846001)', { transaction });
    const umzug = new Umzug<QueryInterface>({
      migrations: migrations.map(({ name, sql }) => ({
        name,
        up: async () => {
          await sequelize.query(sql, { transaction });
        },
      })),
      context: sequelize.getQueryInterface(),
      storage: storageIn(sequelize, transaction),
      logger: undefined,
    });
    await umzug.up();
  });
}
