import { literal, type Sequelize, type Transaction } from 'sequelize';
import type { ReadScreen } from '@tinfold/host/reading';
import { fontFile, fontsOf } from '../api/ownFonts.js';
import { DrawingRow, Job, ProofRow, Screen, type Made } from '../db/models.js';
import { openScreen } from '../structures.js';
import type { Counts, FontWithFile, Outcome, Task } from './task.js';

/** A worker's hold on a job: what it writes counts while the job is still its own. */
const heldBy = (id: string, worker: number) => ({ id, worker, state: 'running' as const });

/** Takes a waiting job in hand; undefined where somebody else has it, or it was taken away. */
export async function begin(id: string, worker: number): Promise<Job | undefined> {
  const [begun, [job]] = await Job.update(
    {
      state: 'running',
      worker,
      progress: 0,
      tries: literal('tries + 1'),
    },
    { where: { id, state: 'waiting' }, returning: true },
  );
  return begun === 1 ? job : undefined;
}

async function fontsWithFiles(projectId: string): Promise<FontWithFile[]> {
  const fonts = (await fontsOf(projectId)).map(async (font) => {
    const bytes = await fontFile(font.id);
    return bytes ? [{ ...font, bytes: new Uint8Array(bytes) }] : [];
  });
  return (await Promise.all(fonts)).flat();
}

/** All that a job needs to be computed; undefined where what it is about is gone. */
export async function taskOf(sequelize: Sequelize, job: Job): Promise<Task | undefined> {
  const fonts = await fontsWithFiles(job.projectId);
  if (job.kind === 'reading')
    return job.source === null
      ? undefined
      : { kind: 'reading', source: { text: job.source, name: job.name }, fonts };
  if (job.screenId === null) return undefined;
  const { screen, structure } = await openScreen(sequelize, job.screenId);
  if (!structure) return undefined;
  const drawings = await DrawingRow.findAll({ where: { screenId: screen.id }, order: [['width', 'DESC']] });
  return {
    kind: 'proof',
    structure,
    revision: screen.revision,
    drawings: drawings.map(({ source, name, decisions }) => ({ text: source, name, decisions })),
    fonts,
  };
}

/** Keeps how far a job has come; tells whether it is still this worker's to do. */
export async function keepProgress(id: string, worker: number, progress: number): Promise<boolean> {
  const [held] = await Job.update({ progress }, { where: heldBy(id, worker) });
  return held === 1;
}

/** Gives a job back, to be done by another. */
export async function giveBack(id: string, worker: number): Promise<void> {
  await Job.update({ state: 'waiting', worker: null, progress: 0 }, { where: heldBy(id, worker) });
}

/** Puts a job down as failed, with what is to be done about it. */
export async function fail(id: string, worker: number, said: string): Promise<void> {
  await Job.update(
    { state: 'failed', worker: null, said, endedAt: new Date() },
    { where: heldBy(id, worker) },
  );
}

/** Keeps the screens of a file; gives their ids. */
async function keepScreens(
  job: Job,
  screens: readonly ReadScreen[],
  transaction: Transaction,
): Promise<string[]> {
  const ids: string[] = [];
  for (const { structure, decisions, width, height } of screens) {
    const kept = { projectId: job.projectId, name: structure.name, snapshot: structure, asRead: structure };
    const { id } = await Screen.create(kept, { transaction });
    const drawing = { name: job.name, width, height, source: job.source ?? '', decisions };
    await DrawingRow.create({ screenId: id, ...drawing }, { transaction });
    ids.push(id);
  }
  return ids;
}

/** Keeps a run of the proof; gives its id. */
async function keepProof(
  job: Job,
  task: Task,
  { from, to, ...run }: Counts,
  transaction: Transaction,
): Promise<string> {
  if (task.kind !== 'proof' || job.screenId === null) throw new Error('A proof was made of no screen.');
  const row = await ProofRow.create(
    { screenId: job.screenId, revision: task.revision, rangeFrom: from, rangeTo: to, ...run },
    { transaction },
  );
  return row.id;
}

/**
 * Keeps what a job has made, once: all of it in one transaction, and only while the job is this worker's. One that was given to
 * another meanwhile leaves nothing behind.
 */
export async function finish(
  sequelize: Sequelize,
  job: Job,
  worker: number,
  task: Task,
  outcome: Exclude<Outcome, { kind: 'refused' }>,
): Promise<void> {
  await sequelize.transaction(async (transaction) => {
    const held = await Job.findOne({ where: heldBy(job.id, worker), lock: true, transaction });
    if (!held) return;
    const made: Made =
      outcome.kind === 'reading'
        ? { screens: await keepScreens(job, outcome.screens, transaction) }
        : { proof: await keepProof(job, task, outcome.counts, transaction) };
    await held.update(
      { state: 'done', worker: null, progress: 1, source: null, made, endedAt: new Date() },
      { transaction },
    );
  });
}
