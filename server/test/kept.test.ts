import { readFileSync } from 'node:fs';
import type { Sequelize } from 'sequelize';
import type supertest from 'supertest';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { readSources } from '@tinfold/host/reading';
import { everyCase } from '../../core/test/support/benchmark.js';
import { freshAgent } from './database.js';

const DEMO = new URL('../../demo/', import.meta.url);
const cases = [
  { name: 'departures', files: ['departures-1280.svg', 'departures-390.svg'].map((f) => new URL(f, DEMO)) },
  ...everyCase(6),
];

describe('the server keeps what was read', () => {
  let sequelize: Sequelize;
  let drop: () => Promise<void>;
  let agent: ReturnType<typeof supertest>;
  let project: string;

  beforeAll(async () => {
    ({ agent, sequelize, drop } = await freshAgent(inject('postgresUrl')));
    project = ((await agent.post('/api/projects').send({ name: 'Readings' })).body as { id: string }).id;
  });
  afterAll(async () => {
    await sequelize.close();
    await drop();
  });

  test.each(cases)('$name', async ({ name, files }) => {
    const sources = files.map((f) => ({ text: readFileSync(f, 'utf8'), name }));
    const { structure, drawings } = await readSources(sources);
    const { width, height } = drawings[0]?.drawing ?? { width: 1, height: 1 };
    const drawing = { name, width, height, source: sources[0]?.text };
    const response = await agent.post(`/api/projects/${project}/screens`).send({ name, drawing, structure });
    expect(response.body).toMatchObject({ name, revision: 0 });
    const { id } = response.body as { id: string };
    const kept = (await agent.get(`/api/screens/${id}`)).body as { structure: unknown };
    expect(kept.structure).toEqual(JSON.parse(JSON.stringify(structure)));
  });

  test('but no document that cannot stand, however it comes', async () => {
    const { structure, drawings } = await readSources([
      { text: readFileSync(new URL('departures-1280.svg', DEMO), 'utf8'), name: 'Board' },
    ]);
    const [a, b] = structure.root.children;
    const twins = { ...structure, root: { ...structure.root, children: [a, { ...b, id: a?.id }] } };
    const { width, height } = drawings[0]?.drawing ?? { width: 1, height: 1 };
    const drawing = { name: 'Board', width, height, source: '<svg/>' };
    const refused = await agent
      .post(`/api/projects/${project}/screens`)
      .send({ name: 'Twins', drawing, structure: twins });
    expect(refused.status).toBe(422);
    expect((refused.body as { detail: string }).detail).toMatch(/is taken by another part/);
    const whole = { name: 'Whole', drawing, structure };
    const { id } = (await agent.post(`/api/projects/${project}/screens`).send(whole)).body as { id: string };
    const narrow = { ...structure.root, below: [{ width: 500, rules: { minWidth: 9, maxWidth: 4 } }] };
    const written = await agent
      .put(`/api/screens/${id}/structure`)
      .send({ revision: 0, structure, asRead: { ...structure, root: narrow } });
    expect(written.status).toBe(422);
    expect((written.body as { detail: string }).detail).toMatch(/^Below 500: /);
  });
});
