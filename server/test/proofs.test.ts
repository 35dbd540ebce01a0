import { readFileSync } from 'node:fs';
import type { Sequelize } from 'sequelize';
import type supertest from 'supertest';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { Engine } from '@tinfold/core/layout';
import { leave, prove } from '@tinfold/core/proof';
import { readSource } from '@tinfold/host/reading';
import { freshAgent } from './database.js';

const SOURCE = readFileSync(new URL('../../demo/departures-1280.svg', import.meta.url), 'utf8');
const NOWHERE = '00000000-0000-4000-8000-000000000000';

describe('what a screen is held to, what is left so and runs of proofs are kept', () => {
  let sequelize: Sequelize;
  let drop: () => Promise<void>;
  let agent: ReturnType<typeof supertest>;
  let screen: string;
  let reading: Awaited<ReturnType<typeof readSource>>;

  beforeAll(async () => {
    ({ agent, sequelize, drop } = await freshAgent(inject('postgresUrl')));
    reading = await readSource(SOURCE, 'Board');
    const project = (await agent.post('/api/projects').send({ name: 'Kittiwake Line' })).body as {
      id: string;
    };
    const drawing = { name: 'Board', width: 1280, height: 640, source: SOURCE };
    const made = await agent
      .post(`/api/projects/${project.id}/screens`)
      .send({ name: 'Board', drawing, structure: reading.structure });
    screen = (made.body as { id: string }).id;
  });
  afterAll(async () => {
    await sequelize.close();
    await drop();
  });

  test('a new screen is held to nothing', async () => {
    expect((await agent.get(`/api/screens/${screen}`)).body as unknown).toMatchObject({
      expectations: [],
      left: [],
    });
    expect((await agent.get(`/api/screens/${screen}/proofs`)).body).toEqual([]);
  });

  test('expectations are kept as sentences; what is none is refused', async () => {
    const expectations = ['no side scroll 320–1920', 'as drawn at 1280'];
    expect((await agent.put(`/api/screens/${screen}/expectations`).send({ expectations })).status).toBe(200);
    expect((await agent.get(`/api/screens/${screen}`)).body).toMatchObject({ expectations });
    const wrong = await agent.put(`/api/screens/${screen}/expectations`).send({ expectations: ['be nice'] });
    expect(wrong.status).toBe(400);
    expect((wrong.body as { detail: string }).detail).toMatch(/this is no expectation/);
    expect((await agent.get(`/api/screens/${screen}`)).body).toMatchObject({ expectations });
  });

  test('a fault is left so with its reason, never without', async () => {
    const { faults } = prove(reading.structure, new Engine(reading.measurer));
    const left = faults.slice(0, 2).map((f) => leave(f, 'Nobody has so narrow a phone.'));
    expect((await agent.put(`/api/screens/${screen}/left`).send({ left })).status).toBe(200);
    expect((await agent.get(`/api/screens/${screen}`)).body).toMatchObject({ left });
    const silent = left.map((l) => ({ ...l, reason: ' ' }));
    const refused = await agent.put(`/api/screens/${screen}/left`).send({ left: silent });
    expect(refused.status).toBe(400);
    expect((refused.body as { detail: string }).detail).toMatch(/say why it is left so/);
  });

  test('runs are kept in their order with the revision that they were made on', async () => {
    const run = { from: 320, to: 1920, trials: ['longer-text'], errors: 5, warnings: 2, notes: 0 };
    for (const revision of [0, 1, 2])
      expect((await agent.post(`/api/screens/${screen}/proofs`).send({ ...run, revision })).status).toBe(201);
    const body = (await agent.get(`/api/screens/${screen}/proofs`)).body as { revision: number }[];
    expect(body.map((r) => r.revision)).toEqual([0, 1, 2]);
    expect(body).toMatchObject([run, run, run]);
  });

  test.each([
    ['expectations', 'put', { expectations: [7] }],
    ['left', 'put', { left: [{ kind: 'side-scroll' }] }],
    ['proofs', 'post', { revision: -1 }],
  ] as const)('%s: what is wrong or nowhere is refused', async (what, method, body) => {
    expect((await agent[method](`/api/screens/${screen}/${what}`).send(body)).status).toBe(400);
    expect((await agent[method](`/api/screens/${NOWHERE}/${what}`).send(body)).status).toBe(404);
  });
});
