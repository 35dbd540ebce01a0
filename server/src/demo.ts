import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { Sequelize } from 'sequelize';
import { readSource } from 'tinfold-cli/reading';
import { DrawingRow, Project, Screen } from './db/models.js';

const SCREENS = [
  { name: 'Departures board', file: 'departures-1280.svg' },
  { name: 'Boarding pass', file: 'boarding-pass-390.svg' },
] as const;

/** Loads the demo project where there is no project at all; tells whether it did. */
export async function loadDemo(sequelize: Sequelize, folder: string): Promise<boolean> {
  return sequelize.transaction(async (transaction) => {
    await sequelize.query('SELECT pg_advisory_xact_lock(7846002)', { transaction });
    if ((await Project.count({ transaction })) > 0) return false;
    const project = await Project.create({ name: 'Kittiwake Line' }, { transaction });
    const start = Date.now();
    for (const [i, { name, file }] of SCREENS.entries()) {
      const source = await readFile(path.join(folder, file), 'utf8');
      const { drawing, structure } = await readSource(source, name);
      const screen = await Screen.create(
        {
          projectId: project.id,
          name,
          snapshot: structure,
          asRead: structure,
          createdAt: new Date(start + i),
        },
        { transaction },
      );
      const { width, height } = drawing;
      await DrawingRow.create({ screenId: screen.id, name: file, width, height, source }, { transaction });
    }
    return true;
  });
}
