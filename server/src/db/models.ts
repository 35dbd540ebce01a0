import {
  DataTypes,
  Model,
  Sequelize,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type OrderItem,
} from 'sequelize';
import type { DrawingDecisions } from '@tinfold/core/drawing';
import type { Format } from '@tinfold/core/handoff';
import type { Step, Structure } from '@tinfold/core/model';
import type { Left } from '@tinfold/core/proof';
import type { Role } from '../access/needs.js';

export class Project extends Model<InferAttributes<Project>, InferCreationAttributes<Project>> {
  declare id: CreationOptional<string>;
  declare name: string;
  declare createdAt: CreationOptional<Date>;
  /** When it was put into the bin; null for one on the shelf. */
  declare deletedAt: CreationOptional<Date | null>;
}

/** A screen with its structure: a snapshot at one revision and the steps since. */
export class Screen extends Model<InferAttributes<Screen>, InferCreationAttributes<Screen>> {
  declare id: CreationOptional<string>;
  declare projectId: string;
  declare name: string;
  declare revision: CreationOptional<number>;
  declare snapshot: Structure | null;
  declare snapshotRevision: CreationOptional<number>;
  /** The structure as it was last read from its drawing, before any edit; null where that was not kept. */
  declare asRead: CreationOptional<Structure | null>;
  /** What it is held to, a sentence each. */
  declare expectations: CreationOptional<readonly string[]>;
  /** The faults that are left as they are. */
  declare leftSo: CreationOptional<readonly Left[]>;
  /** Its place among the screens of its project; null for one that was never moved, which stands after those that were. */
  declare place: CreationOptional<number | null>;
  declare createdAt: CreationOptional<Date>;
  /** When it was put into the bin; null for one that its project shows. */
  declare deletedAt: CreationOptional<Date | null>;
}

export class DrawingRow extends Model<InferAttributes<DrawingRow>, InferCreationAttributes<DrawingRow>> {
  declare id: CreationOptional<string>;
  declare screenId: string;
  declare name: string;
  declare width: number;
  declare height: number;
  /** The file as it came. */
  declare source: string;
  /** What the designer has decided about its items; null while nothing. */
  declare decisions: CreationOptional<DrawingDecisions | null>;
  declare createdAt: CreationOptional<Date>;
}

/** A font file that the user added to a project, kept as raw sfnt. */
export class FontRow extends Model<InferAttributes<FontRow>, InferCreationAttributes<FontRow>> {
  declare id: CreationOptional<string>;
  declare projectId: string;
  declare family: string;
  declare weight: number;
  declare italic: boolean;
  declare file: Buffer;
  declare createdAt: CreationOptional<Date>;
}

/** The steps that led to one revision. */
export class StepRow extends Model<InferAttributes<StepRow>, InferCreationAttributes<StepRow>> {
  declare screenId: string;
  declare revision: number;
  declare label: string;
  declare steps: readonly Step[];
  /** The id that the client gave its write, so that one whose answer was lost is not done twice; null where it gave none. */
  declare write: CreationOptional<string | null>;
  declare createdAt: CreationOptional<Date>;
}

/** The structure of a screen at a revision that is kept whole, so that those after it can be made from it. */
export class SnapshotRow extends Model<InferAttributes<SnapshotRow>, InferCreationAttributes<SnapshotRow>> {
  declare screenId: string;
  declare revision: number;
  declare structure: Structure;
  /** What made it, where that was no edit; null where it was one. */
  declare label: CreationOptional<string | null>;
  declare createdAt: CreationOptional<Date>;
}

/** The name that somebody gave a revision. */
export class RevisionName extends Model<
  InferAttributes<RevisionName>,
  InferCreationAttributes<RevisionName>
> {
  declare screenId: string;
  declare revision: number;
  declare name: string;
}

/** One run of a proof, with the revision that it was made on. */
export class ProofRow extends Model<InferAttributes<ProofRow>, InferCreationAttributes<ProofRow>> {
  declare id: CreationOptional<string>;
  declare screenId: string;
  declare revision: number;
  declare rangeFrom: number;
  declare rangeTo: number;
  declare trials: readonly string[];
  declare errors: number;
  declare warnings: number;
  declare notes: number;
  declare createdAt: CreationOptional<Date>;
}

/** What left of a screen: its structure as it was then, and in which formats. It is never changed. */
export class HandoffRow extends Model<InferAttributes<HandoffRow>, InferCreationAttributes<HandoffRow>> {
  declare id: CreationOptional<string>;
  declare screenId: string;
  declare revision: number;
  declare formats: readonly Format[];
  /** The widths of its drawings, px. */
  declare widths: readonly number[];
  declare structure: Structure;
  declare createdAt: CreationOptional<Date>;
}

/** What kinds of long work there are, and how far one can have come. */
export const JOB_KINDS = ['reading', 'proof'] as const;
export type JobKind = (typeof JOB_KINDS)[number];
export type JobState = 'waiting' | 'running' | 'done' | 'failed';

/** What a job has made: screens of a file, or a run of the proof. */
export interface Made {
  readonly screens?: readonly string[];
  readonly proof?: string;
}

/** Long work that worker processes do. */
export class Job extends Model<InferAttributes<Job>, InferCreationAttributes<Job>> {
  declare id: CreationOptional<string>;
  declare projectId: string;
  /** The screen that is proved; null for a file that is read. */
  declare screenId: CreationOptional<string | null>;
  declare kind: JobKind;
  /** What it is called in lists: the name of the file or of the screen. */
  declare name: string;
  /** The file that is read, until it is. */
  declare source: CreationOptional<string | null>;
  declare state: CreationOptional<JobState>;
  /** The number of the worker that does it. */
  declare worker: CreationOptional<number | null>;
  /** How often it was begun. */
  declare tries: CreationOptional<number>;
  /** From 0 to 1. */
  declare progress: CreationOptional<number>;
  /** Why it failed, as a sentence. */
  declare said: CreationOptional<string | null>;
  declare made: CreationOptional<Made | null>;
  declare createdAt: CreationOptional<Date>;
  declare endedAt: CreationOptional<Date | null>;
}

/** Somebody who may sign in. */
export class Account extends Model<InferAttributes<Account>, InferCreationAttributes<Account>> {
  declare id: CreationOptional<string>;
  /** In small letters: its case does not matter. */
  declare name: string;
  /** Salt and key; see `access/secrets.ts`. */
  declare password: string;
  declare createdAt: CreationOptional<Date>;
}

/** That somebody is signed in somewhere. */
export class Session extends Model<InferAttributes<Session>, InferCreationAttributes<Session>> {
  /** Of the token that the browser holds. */
  declare hash: string;
  declare accountId: string;
  declare endsAt: Date;
  declare createdAt: CreationOptional<Date>;
}

/** What an account may do in a project. */
export class Member extends Model<InferAttributes<Member>, InferCreationAttributes<Member>> {
  declare projectId: string;
  declare accountId: string;
  declare role: Role;
}

/** A link by which somebody becomes a member of a project, once. */
export class Invitation extends Model<InferAttributes<Invitation>, InferCreationAttributes<Invitation>> {
  declare hash: string;
  declare projectId: string;
  declare role: Role;
  declare endsAt: Date;
  declare createdAt: CreationOptional<Date>;
}

/** A link by which a screen is looked at without signing in. */
export class LinkRow extends Model<InferAttributes<LinkRow>, InferCreationAttributes<LinkRow>> {
  declare id: CreationOptional<string>;
  declare hash: string;
  declare screenId: string;
  declare endsAt: Date;
  declare createdAt: CreationOptional<Date>;
}

/** A try to sign in, until it no longer counts. */
export class SignInTry extends Model<InferAttributes<SignInTry>, InferCreationAttributes<SignInTry>> {
  declare id: CreationOptional<string>;
  declare key: string;
  declare at: CreationOptional<Date>;
}

/** Those that were put in order first, in it; then the others by age. */
export const IN_ORDER: OrderItem[] = [
  ['place', 'ASC NULLS LAST'],
  ['createdAt', 'ASC'],
  ['id', 'ASC'],
];

const uuid = { type: DataTypes.UUID, primaryKey: true, defaultValue: DataTypes.UUIDV4 } as const;
const created = { type: DataTypes.DATE, defaultValue: DataTypes.NOW } as const;

/** Connects to PostgreSQL and binds the models to the connection. */
export function connect(databaseUrl: string): Sequelize {
  const sequelize = new Sequelize(databaseUrl, {
    dialect: 'postgres',
    logging: false,
    define: { underscored: true, updatedAt: false },
    pool: { max: 8, idle: 10_000 },
  });
  // What is destroyed stays in the bin, and no query finds it unless it asks for it.
  const binned = { paranoid: true, timestamps: true, deletedAt: 'deletedAt' } as const;
  Project.init(
    { id: uuid, name: DataTypes.TEXT, createdAt: created, deletedAt: DataTypes.DATE },
    { sequelize, tableName: 'projects', ...binned },
  );
  Screen.init(
    {
      id: uuid,
      projectId: { type: DataTypes.UUID, allowNull: false },
      name: DataTypes.TEXT,
      revision: { type: DataTypes.INTEGER, defaultValue: 0 },
      snapshot: DataTypes.JSON,
      snapshotRevision: { type: DataTypes.INTEGER, defaultValue: 0 },
      asRead: DataTypes.JSON,
      expectations: { type: DataTypes.JSON, defaultValue: [] },
      leftSo: { type: DataTypes.JSON, defaultValue: [] },
      place: DataTypes.INTEGER,
      createdAt: created,
      deletedAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'screens', ...binned },
  );
  DrawingRow.init(
    {
      id: uuid,
      screenId: { type: DataTypes.UUID, allowNull: false },
      name: DataTypes.TEXT,
      width: DataTypes.DOUBLE,
      height: DataTypes.DOUBLE,
      source: DataTypes.TEXT,
      decisions: DataTypes.JSON,
      createdAt: created,
    },
    { sequelize, tableName: 'drawings' },
  );
  FontRow.init(
    {
      id: uuid,
      projectId: { type: DataTypes.UUID, allowNull: false },
      family: DataTypes.TEXT,
      weight: DataTypes.INTEGER,
      italic: DataTypes.BOOLEAN,
      file: DataTypes.BLOB,
      createdAt: created,
    },
    { sequelize, tableName: 'fonts' },
  );
  StepRow.init(
    {
      screenId: { type: DataTypes.UUID, primaryKey: true },
      revision: { type: DataTypes.INTEGER, primaryKey: true },
      label: DataTypes.TEXT,
      steps: DataTypes.JSON,
      write: DataTypes.UUID,
      createdAt: created,
    },
    { sequelize, tableName: 'steps' },
  );
  HandoffRow.init(
    {
      id: uuid,
      screenId: { type: DataTypes.UUID, allowNull: false },
      revision: DataTypes.INTEGER,
      formats: DataTypes.JSON,
      widths: DataTypes.JSON,
      structure: DataTypes.JSON,
      createdAt: created,
    },
    { sequelize, tableName: 'handoffs' },
  );
  const atRevision = {
    screenId: { type: DataTypes.UUID, primaryKey: true },
    revision: { type: DataTypes.INTEGER, primaryKey: true },
  };
  SnapshotRow.init(
    { ...atRevision, structure: DataTypes.JSON, label: DataTypes.TEXT, createdAt: created },
    { sequelize, tableName: 'snapshots' },
  );
  RevisionName.init(
    { ...atRevision, name: DataTypes.TEXT },
    { sequelize, tableName: 'revision_names', timestamps: false },
  );
  const hash = { type: DataTypes.TEXT, primaryKey: true };
  Account.init(
    { id: uuid, name: DataTypes.TEXT, password: DataTypes.TEXT, createdAt: created },
    { sequelize, tableName: 'accounts' },
  );
  Session.init(
    { hash, accountId: DataTypes.UUID, endsAt: DataTypes.DATE, createdAt: created },
    { sequelize, tableName: 'sessions' },
  );
  Member.init(
    {
      projectId: { type: DataTypes.UUID, primaryKey: true },
      accountId: { type: DataTypes.UUID, primaryKey: true },
      role: DataTypes.TEXT,
    },
    { sequelize, tableName: 'members', timestamps: false },
  );
  Invitation.init(
    {
      hash,
      projectId: DataTypes.UUID,
      role: DataTypes.TEXT,
      endsAt: DataTypes.DATE,
      createdAt: created,
    },
    { sequelize, tableName: 'invitations' },
  );
  LinkRow.init(
    {
      id: uuid,
      hash: DataTypes.TEXT,
      screenId: DataTypes.UUID,
      endsAt: DataTypes.DATE,
      createdAt: created,
    },
    { sequelize, tableName: 'links' },
  );
  SignInTry.init(
    { id: uuid, key: DataTypes.TEXT, at: { type: DataTypes.DATE, defaultValue: DataTypes.NOW } },
    { sequelize, tableName: 'sign_in_tries', timestamps: false },
  );
  Job.init(
    {
      id: uuid,
      projectId: { type: DataTypes.UUID, allowNull: false },
      screenId: DataTypes.UUID,
      kind: DataTypes.TEXT,
      name: DataTypes.TEXT,
      source: DataTypes.TEXT,
      state: { type: DataTypes.TEXT, defaultValue: 'waiting' },
      worker: DataTypes.INTEGER,
      tries: { type: DataTypes.INTEGER, defaultValue: 0 },
      progress: { type: DataTypes.DOUBLE, defaultValue: 0 },
      said: DataTypes.TEXT,
      made: DataTypes.JSON,
      createdAt: created,
      endedAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'jobs' },
  );
  ProofRow.init(
    {
      id: uuid,
      screenId: { type: DataTypes.UUID, allowNull: false },
      revision: DataTypes.INTEGER,
      rangeFrom: DataTypes.INTEGER,
      rangeTo: DataTypes.INTEGER,
      trials: DataTypes.JSON,
      errors: DataTypes.INTEGER,
      warnings: DataTypes.INTEGER,
      notes: DataTypes.INTEGER,
      createdAt: created,
    },
    { sequelize, tableName: 'proofs' },
  );
  return sequelize;
}
