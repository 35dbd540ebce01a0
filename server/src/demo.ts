import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { Sequelize } from 'sequelize';
import { readSources } from '@tinfold/host/reading';
import { DrawingRow, Job, Project, Screen } from './db/models.js';
import type { Queue } from './jobs/queue.js';

/** The screens of the demo: their drawings, and what each is held to besides {@link ALWAYS}. */
const SCREENS = [
  {
    name: 'Departures board',
    files: ['departures-1280.svg', 'departures-390.svg'],
    expectations: ['as drawn at 390'],
  },
  { name: 'Boarding pass', files: ['boarding-pass-390.svg'], expectations: ['as drawn at 390'] },
  { name: 'Booking form', files: ['booking-1280.svg', 'booking-390.svg'], expectations: ['as drawn at 390'] },
  { name: 'Fleet', files: ['fleet-1280.svg', 'fleet-390.svg'], expectations: ['as drawn at 390'] },
  { name: 'Crew roster', files: ['roster-1280.svg', 'roster-390.svg'], expectations: ['as drawn at 390'] },
  { name: 'Swap a shift', files: ['swap-1280.svg', 'swap-390.svg'], expectations: [] },
  { name: 'Fares', files: ['fares-1280.svg', 'fares-390.svg'], expectations: ['as drawn at 390'] },
] as const;

/** What every screen of ours is held to. */
const ALWAYS = ['no side scroll 320–1920'] as const;

/**
 * Loads the demo project where there is no project at all, and puts its screens in line to be proved; tells whether it did.
 */
export async function loadDemo(sequelize: Sequelize, folder: string, queue?: Queue): Promise<boolean> {
  return sequelize.transaction(async (transaction) => {
    await sequelize.query('SELECT pg_advisory_xact_lock(7846002)', { transaction });
    if ((await Project.count({ transaction })) > 0) return false;
    const project = await Project.create({ name: 'Kittiwake Line' }, { transaction });
    const start = Date.now();
    for (const [i, { name, files, expectations }] of SCREENS.entries()) {
      const texts = await Promise.all(files.map((file) => readFile(path.join(folder, file), 'utf8')));
      const { drawings, structure } = await readSources(texts.map((text) => ({ text, name })));
      const screen = await Screen.create(
        {
          projectId: project.id,
          name,
          snapshot: structure,
          asRead: structure,
          expectations: [...ALWAYS, ...expectations],
          createdAt: new Date(start + i),
        },
        { transaction },
      );
      for (const [at, { drawing }] of drawings.entries()) {
        const { width, height } = drawing;
        const kept = { name: files[at] ?? name, width, height, source: texts[at] ?? '' };
        await DrawingRow.create({ screenId: screen.id, ...kept }, { transaction });
      }
      if (!queue) continue;
      const proof = { projectId: project.id, kind: 'proof', name, screenId: screen.id } as const;
      await queue.send(await Job.create(proof, { transaction }), transaction);
    }
    return true;
  });
}
