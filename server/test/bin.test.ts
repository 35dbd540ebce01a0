import { readFileSync } from 'node:fs';
import type { Sequelize } from 'sequelize';
import type supertest from 'supertest';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import type { Structure } from '@tinfold/core/model';
import { readSource } from '@tinfold/host/reading';
import { connect } from '../src/db/models.js';
import { migrate, MIGRATIONS } from '../src/db/migrations.js';
import { freshAgent, freshDatabase } from './database.js';

const SOURCE = readFileSync(new URL('../../demo/departures-1280.svg', import.meta.url), 'utf8');
const NOWHERE = '00000000-0000-4000-8000-000000000000';

interface Named {
  readonly id: string;
  readonly name: string;
}
interface Bin {
  readonly days: number;
  readonly projects: readonly Named[];
  readonly screens: readonly (Named & { readonly project: string })[];
}

describe('what is on the shelf', () => {
  let sequelize: Sequelize;
  let drop: () => Promise<void>;
  let agent: ReturnType<typeof supertest>;
  let structure: Structure;

  beforeAll(async () => {
    ({ agent, sequelize, drop } = await freshAgent(inject('postgresUrl')));
    ({ structure } = await readSource(SOURCE, 'Departures board'));
  });
  afterAll(async () => {
    await sequelize.close();
    await drop();
  });

  const get = async <T>(path: string): Promise<T> => (await agent.get(`/api${path}`)).body as T;
  const made = async (name: string): Promise<{ project: string; screen: string }> => {
    const project = ((await agent.post('/api/projects').send({ name })).body as Named).id;
    const drawing = { name: 'departures-1280.svg', width: 1280, height: 640, source: SOURCE };
    const screen = await agent
      .post(`/api/projects/${project}/screens`)
      .send({ name: 'Departures board', drawing, structure });
    return { project, screen: (screen.body as Named).id };
  };

  test('is named anew; an empty name and a wrong id are refused', async () => {
    const { project, screen } = await made('Kittiwake Line');
    expect((await agent.patch(`/api/projects/${project}`).send({ name: ' North isles ' })).status).toBe(204);
    expect((await agent.patch(`/api/screens/${screen}`).send({ name: 'Board' })).status).toBe(204);
    expect(await get(`/projects/${project}`)).toMatchObject({
      name: 'North isles',
      screens: [{ name: 'Board' }],
    });
    expect((await agent.patch(`/api/projects/${project}`).send({ name: '  ' })).status).toBe(400);
    expect((await agent.patch(`/api/screens/${NOWHERE}`).send({ name: 'Board' })).status).toBe(404);
  });

  test('is copied as it stands now, with its drawings', async () => {
    const { project, screen } = await made('Kittiwake Line');
    const step = { kind: 'setRules', parts: [{ id: structure.root.id, set: { gap: 77 } }] };
    await agent.post(`/api/screens/${screen}/steps`).send({ revision: 0, label: 'gap', steps: [step] });
    const copy = (await agent.post(`/api/projects/${project}/copy`)).body as Named;
    const { name, screens } = await get<{ name: string; screens: readonly Named[] }>(`/projects/${copy.id}`);
    expect([name, screens.map((s) => s.name)]).toEqual(['Kittiwake Line, copy', ['Departures board']]);
    const opened = await get<{ structure: Structure; drawings: readonly { source: string }[] }>(
      `/screens/${screens[0]?.id ?? ''}`,
    );
    expect(opened.structure.root.rules.gap).toBe(77);
    expect(opened.drawings.map((d) => d.source)).toEqual([SOURCE]);
    const second = (await agent.post(`/api/screens/${screen}/copy`)).body as Named;
    expect((await get<{ name: string }>(`/screens/${second.id}`)).name).toBe('Departures board, copy');
    expect((await agent.post(`/api/screens/${NOWHERE}/copy`)).status).toBe(404);
  });

  test('goes into the bin, is not found there, and comes back with all that is in it', async () => {
    const { project, screen } = await made('Kittiwake Line');
    expect((await agent.delete(`/api/screens/${screen}`)).status).toBe(204);
    expect((await agent.get(`/api/screens/${screen}`)).status).toBe(404);
    expect((await get<Bin>('/bin')).screens).toContainEqual(
      expect.objectContaining({ id: screen, project: 'Kittiwake Line' }),
    );
    expect((await agent.post(`/api/screens/${screen}/restore`)).status).toBe(204);
    expect((await agent.post(`/api/screens/${screen}/restore`)).status).toBe(404);
    await agent.delete(`/api/projects/${project}`);
    expect((await agent.get(`/api/screens/${screen}`)).status).toBe(404);
    expect((await get<readonly Named[]>('/projects')).map((p) => p.id)).not.toContain(project);
    const bin = await get<Bin>('/bin');
    expect(bin.projects.map((p) => p.id)).toContain(project);
    expect(bin.screens.map((s) => s.id)).not.toContain(screen);
    await agent.post(`/api/projects/${project}/restore`);
    expect((await agent.get(`/api/screens/${screen}`)).status).toBe(200);
  });

  test('what has been in the bin for 31 days is gone for good, for 29 it is not', async () => {
    const [old, young] = [await made('Old pier'), await made('New pier')];
    for (const [{ project }, days] of [
      [old, 31],
      [young, 29],
    ] as const) {
      await agent.delete(`/api/projects/${project}`);
      await sequelize.query(
        `UPDATE projects SET deleted_at = now() - interval '${days} days' WHERE id = $1`,
        {
          bind: [project],
        },
      );
    }
    const { projects } = await get<Bin>('/bin');
    expect(projects.map((p) => p.name)).toContain('New pier');
    expect(projects.map((p) => p.name)).not.toContain('Old pier');
    expect((await agent.post(`/api/projects/${old.project}/restore`)).status).toBe(404);
  });
});

test('a migration that fails is not remembered as done, nor are those before it in the same start', async () => {
  const database = await freshDatabase(inject('postgresUrl'));
  const sequelize = connect(database.url);
  try {
    const broken = { name: '999-broken', sql: 'ALTER TABLE no_such_table ADD COLUMN x text' };
    await expect(migrate(sequelize, [...MIGRATIONS, broken])).rejects.toThrow('no_such_table');
    await migrate(sequelize);
    const [rows] = await sequelize.query('SELECT name FROM migrations ORDER BY name');
    expect((rows as { name: string }[]).map((r) => r.name)).toEqual(MIGRATIONS.map((m) => m.name));
    await sequelize.query('SELECT deleted_at FROM projects');
  } finally {
    await sequelize.close();
    await database.drop();
  }
});
