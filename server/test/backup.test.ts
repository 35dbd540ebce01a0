import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { migrate } from '../src/db/migrations.js';
import { connect, Project } from '../src/db/models.js';
import { freshDatabase } from './database.js';

const run = promisify(execFile);
const script = (name: string): string => fileURLToPath(new URL(`../../scripts/${name}.mjs`, import.meta.url));

describe('the database kept in a file and put back', () => {
  let folder: string;
  let database: Awaited<ReturnType<typeof freshDatabase>>;
  let sequelize: ReturnType<typeof connect>;

  beforeAll(async () => {
    folder = await mkdtemp(path.join(tmpdir(), 'backup-'));
    database = await freshDatabase(inject('postgresUrl'));
    sequelize = connect(database.url);
    await migrate(sequelize);
  });
  afterAll(async () => {
    await sequelize.close();
    await database.drop();
    await rm(folder, { recursive: true });
  });

  const told = (name: string, ...args: string[]) =>
    run(process.execPath, [script(name), ...args], { env: { ...process.env, DATABASE_URL: database.url } });
  const projects = async () => (await Project.findAll({ order: ['name'] })).map((p) => p.name);

  test('what was there is there again, and what came since is gone', async () => {
    await Project.bulkCreate([{ name: 'Kittiwake Line' }, { name: 'Fares' }]);
    const file = path.join(folder, 'all.dump');
    expect((await told('backup', file)).stdout).toContain('is kept in');
    await Project.destroy({ where: { name: 'Fares' }, force: true });
    await Project.create({ name: 'Later' });
    expect((await told('restore', file)).stdout).toContain('is as it was');
    expect(await projects()).toEqual(['Fares', 'Kittiwake Line']);
    // Migrations are remembered as done: nothing is made twice.
    await migrate(sequelize);
    expect(await projects()).toHaveLength(2);
  });

  test('a file that is no backup, or none, changes nothing and is told', async () => {
    const wrong = path.join(folder, 'wrong.dump');
    await writeFile(wrong, 'no dump');
    await expect(told('restore', wrong)).rejects.toMatchObject({ code: 1 });
    await expect(told('restore', path.join(folder, 'gone'))).rejects.toMatchObject({
      code: 2,
      stderr: expect.stringContaining('There is no file') as string,
    });
    await expect(told('backup')).rejects.toMatchObject({ code: 2 });
    expect(await projects()).toEqual(['Fares', 'Kittiwake Line']);
  });
});
