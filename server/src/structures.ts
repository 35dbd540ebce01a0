import { Op, QueryTypes, Transaction, type Sequelize } from 'sequelize';
import type { DrawingDecisions } from '@tinfold/core/drawing';
import { applySteps, type Step, type Structure } from '@tinfold/core/model';
import { changeOf, tellChange } from './changes.js';
import { DrawingRow, Screen, SnapshotRow, StepRow } from './db/models.js';
import { LatestStructures } from './latest.js';
import { notFound, Problem } from './problem.js';

/** After this many revisions a new snapshot is kept, so that opening a screen stays quick. */
const SNAPSHOT_EVERY = 50;

export interface Opened {
  readonly screen: Screen;
  /** The structure at the screen's revision; null before the first reading. */
  readonly structure: Structure | null;
}

async function stepsAfter(screenId: string, revision: number, transaction?: Transaction): Promise<StepRow[]> {
  return StepRow.findAll({
    where: { screenId, revision: { [Op.gt]: revision } },
    order: [['revision', 'ASC']],
    ...(transaction && { transaction }),
  });
}

async function current(screen: Screen, transaction?: Transaction): Promise<Structure | null> {
  if (!screen.snapshot) return null;
  const rows = await stepsAfter(screen.id, screen.snapshotRevision, transaction);
  const result = applySteps(
    screen.snapshot,
    rows.flatMap((r) => r.steps),
  );
  if (!result.ok) throw new Error(`The kept steps of screen ${screen.id} do not apply: ${result.reason}`);
  return result.doc;
}

/** The whole row of a screen, with its structures. */
async function wholeScreen(id: string, transaction: Transaction): Promise<Screen> {
  const screen = await Screen.findByPk(id, { transaction });
  if (!screen) throw notFound('screen');
  return screen;
}

/** A screen with its structure at its newest revision: both as they were at one moment, whatever is written meanwhile. */
export async function openScreen(sequelize: Sequelize, id: string): Promise<Opened> {
  const isolationLevel = Transaction.ISOLATION_LEVELS.REPEATABLE_READ;
  return sequelize.transaction({ isolationLevel }, async (transaction) => {
    const screen = await wholeScreen(id, transaction);
    return { screen, structure: await current(screen, transaction) };
  });
}

/** Keeps the snapshot that a screen stands on: another takes its place, and revisions since are made from it. */
async function keepSnapshot(sequelize: Sequelize, id: string, transaction: Transaction): Promise<void> {
  // It is large and stays in the database.
  await sequelize.query(
    `INSERT INTO snapshots (screen_id, revision, structure)
      SELECT id, snapshot_revision, snapshot FROM screens WHERE id = $1 AND snapshot IS NOT NULL
      ON CONFLICT DO NOTHING`,
    { bind: [id], transaction },
  );
}

/** A screen's structure as it was at a revision. */
export async function structureAt(sequelize: Sequelize, id: string, revision: number): Promise<Structure> {
  const isolationLevel = Transaction.ISOLATION_LEVELS.REPEATABLE_READ;
  return sequelize.transaction({ isolationLevel }, async (transaction) => {
    const screen = await wholeScreen(id, transaction);
    const kept = await SnapshotRow.findOne({
      where: { screenId: id, revision: { [Op.lte]: revision } },
      order: [['revision', 'DESC']],
      transaction,
    });
    const own = screen.snapshot && screen.snapshotRevision <= revision ? screen.snapshotRevision : -1;
    const from = kept && kept.revision > own ? kept : { revision: own, structure: screen.snapshot };
    if (revision > screen.revision || from.revision < 0 || !from.structure) throw notFound('revision');
    const rows = await StepRow.findAll({
      where: { screenId: id, revision: { [Op.gt]: from.revision, [Op.lte]: revision } },
      order: [['revision', 'ASC']],
      transaction,
    });
    const result = applySteps(
      from.structure,
      rows.flatMap((r) => r.steps),
    );
    if (!result.ok) throw new Error(`The kept steps of screen ${id} do not apply: ${result.reason}`);
    return result.doc;
  });
}

async function lock(id: string, transaction: Transaction): Promise<Screen> {
  const screen = await Screen.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
  if (!screen) throw notFound('screen');
  return screen;
}

/**
 * A write that builds on an older revision gets the steps in between, so that the client can put its own on top; where a reading lies
 * between, which is no step, the structure as it stands now.
 */
async function refuseLate(screen: At, revision: number, transaction: Transaction): Promise<void> {
  if (revision === screen.revision) return;
  throw new Problem(
    409,
    'Out of date',
    'Someone changed this screen meanwhile: take over the changes and try again.',
    { ...(await since(screen, revision, transaction)) },
  );
}

/** What became of a screen after a revision. */
interface Since {
  readonly revision: number;
  readonly steps: readonly Pick<StepRow, 'revision' | 'label' | 'steps' | 'write'>[];
  /** Where something else than steps lies between: the structure as it stands. */
  readonly structure?: Structure | null;
}

type At = Pick<Screen, 'id' | 'revision'>;

async function since(screen: At, revision: number, transaction: Transaction): Promise<Since> {
  const rows = revision < screen.revision ? await stepsAfter(screen.id, revision, transaction) : [];
  const bridges = rows.length === screen.revision - revision;
  return {
    revision: screen.revision,
    steps: rows.map(({ revision: at, label, steps, write }) => ({ revision: at, label, steps, write })),
    ...(!bridges && { structure: await current(await wholeScreen(screen.id, transaction), transaction) }),
  };
}

/** The steps of a screen after a revision, or, where a reading lies between, the structure as it stands. */
export async function readSince(sequelize: Sequelize, id: string, revision: number): Promise<Since> {
  const isolationLevel = Transaction.ISOLATION_LEVELS.REPEATABLE_READ;
  return sequelize.transaction({ isolationLevel }, async (transaction) => {
    const screen = await Screen.findByPk(id, { attributes: ['id', 'revision'], transaction });
    if (!screen) throw notFound('screen');
    return since(screen, revision, transaction);
  });
}

/**
 * Applies steps on top of `revision` and keeps them; gives the new revision once it is committed. A write that was done before, known
 * by its id, is not done again: it gives the revision that it made, if nothing else came between.
 */
export async function writeSteps(
  sequelize: Sequelize,
  id: string,
  input: {
    readonly revision: number;
    readonly label: string;
    readonly steps: readonly Step[];
    readonly write?: string;
  },
): Promise<number> {
  const written = await sequelize.transaction(async (transaction) => {
    const head = await lockHead(sequelize, id, transaction);
    const { write } = input;
    const done =
      write === undefined
        ? null
        : await StepRow.findOne({ where: { screenId: id, write }, attributes: ['revision'], transaction });
    if (done?.revision === input.revision + 1) return { revision: done.revision };
    await refuseLate({ id, revision: head.revision }, input.revision, transaction);
    if (done) return { revision: head.revision };
    const doc =
      latest.at(id, head.version) ?? (await current(await wholeScreen(id, transaction), transaction));
    if (!doc)
      throw new Problem(422, 'No structure', 'This screen has no structure yet: read its drawing first.');
    const result = applySteps(doc, input.steps);
    if (!result.ok) throw new Problem(422, 'Refused', result.reason);
    const revision = head.revision + 1;
    if (revision - head.snapshotRevision >= SNAPSHOT_EVERY) {
      await keepSnapshot(sequelize, id, transaction);
      await Screen.update(
        { snapshot: result.doc, snapshotRevision: revision },
        { where: { id }, transaction },
      );
    }
    const version = await keepSteps(sequelize, id, revision, input, transaction);
    return { revision, version, doc: result.doc };
  });
  // Only what is committed is known.
  if (written.doc) latest.keep(id, written.version, written.doc);
  return written.revision;
}

/** What has to be known of a screen before an edit is put on it. */
interface Head {
  readonly revision: number;
  readonly snapshotRevision: number;
  readonly version: string;
}

const latest = new LatestStructures();

/** Holds a screen's row, without the structures in it, which are large. */
async function lockHead(sequelize: Sequelize, id: string, transaction: Transaction): Promise<Head> {
  const [head] = await sequelize.query<Head>(
    `SELECT revision, snapshot_revision AS "snapshotRevision", xmin::text AS version
      FROM screens WHERE id = $1 AND deleted_at IS NULL FOR UPDATE`,
    { bind: [id], type: QueryTypes.SELECT, transaction },
  );
  if (!head) throw notFound('screen');
  return head;
}

/** Keeps an edit, moves its screen on and tells other servers, in one question; gives the row's new version. */
async function keepSteps(
  sequelize: Sequelize,
  id: string,
  revision: number,
  { label, steps, write }: Parameters<typeof writeSteps>[2],
  transaction: Transaction,
): Promise<string> {
  const [kept] = await sequelize.query<{ version: string }>(
    `WITH kept AS (
        INSERT INTO steps (screen_id, revision, label, steps, write, created_at) VALUES ($1, $2, $3, $4, $5, now())
      ), told AS (SELECT pg_notify($6, $7))
      UPDATE screens SET revision = $2 FROM told WHERE id = $1 RETURNING screens.xmin::text AS version`,
    {
      bind: [id, revision, label, JSON.stringify(steps), write ?? null, ...changeOf(id, revision)],
      type: QueryTypes.SELECT,
      transaction,
    },
  );
  if (!kept) throw new Error(`The row of screen ${id} is gone while it is held.`);
  return kept.version;
}

/** A screen is drawn at no more widths than this. */
const MOST_DRAWINGS = 6;

/** A drawing as it comes in. */
interface NewDrawing {
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly source: string;
  readonly decisions?: DrawingDecisions;
}

async function addDrawing(screenId: string, drawing: NewDrawing, transaction: Transaction): Promise<void> {
  const others = await DrawingRow.findAll({ where: { screenId }, attributes: ['width'], transaction });
  if (others.length >= MOST_DRAWINGS)
    throw new Problem(
      422,
      'Refused',
      `A screen has at most ${MOST_DRAWINGS} drawings: take one away before you add another.`,
    );
  if (others.some((d) => Math.round(d.width) === Math.round(drawing.width)))
    throw new Problem(
      422,
      'Refused',
      `This screen is drawn at ${Math.round(drawing.width)} already: take that drawing away before you add another of its width.`,
    );
  await DrawingRow.create({ screenId, ...drawing }, { transaction });
}

async function removeDrawing(screenId: string, id: string, transaction: Transaction): Promise<void> {
  if ((await DrawingRow.count({ where: { screenId }, transaction })) < 2)
    throw new Problem(
      422,
      'Refused',
      'This is the screen’s only drawing: delete the screen if it is no longer wanted.',
    );
  if ((await DrawingRow.destroy({ where: { id, screenId }, transaction })) === 0) throw notFound('drawing');
}

/**
 * Puts a newly read structure in place on top of `revision`, with the decisions about its drawing that it was
 * read by, a drawing that came to the screen with it, or one that went; `asRead` is the reading before the designer's
 * decisions were put on it again.
 */
export async function writeStructure(
  sequelize: Sequelize,
  id: string,
  input: {
    readonly revision: number;
    readonly structure: Structure;
    readonly asRead?: Structure;
    readonly decisions?: { readonly drawing: string; readonly value: DrawingDecisions };
    readonly added?: NewDrawing;
    /** The id of a drawing. */
    readonly removed?: string;
    /** What made it, where it was not read from its drawing. */
    readonly label?: string;
  },
): Promise<number> {
  return sequelize.transaction(async (transaction) => {
    const screen = await lock(id, transaction);
    await refuseLate(screen, input.revision, transaction);
    if (input.decisions) {
      const { drawing, value } = input.decisions;
      const [found] = await DrawingRow.update(
        { decisions: value },
        { where: { id: drawing, screenId: id }, transaction },
      );
      if (found === 0) throw notFound('drawing');
    }
    if (input.removed !== undefined) await removeDrawing(id, input.removed, transaction);
    if (input.added) await addDrawing(id, input.added, transaction);
    const revision = screen.snapshot ? screen.revision + 1 : screen.revision;
    await keepSnapshot(sequelize, id, transaction);
    await SnapshotRow.upsert(
      {
        screenId: id,
        revision,
        structure: input.structure,
        label: input.label ?? 'Read again from its drawing',
      },
      { transaction },
    );
    await screen.update(
      {
        snapshot: input.structure,
        asRead: input.asRead ?? input.structure,
        snapshotRevision: revision,
        revision,
      },
      { transaction },
    );
    await tellChange(sequelize, id, revision, transaction);
    return revision;
  });
}
