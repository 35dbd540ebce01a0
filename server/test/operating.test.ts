import type { Sequelize } from 'sequelize';
import type supertest from 'supertest';
import { afterAll, beforeAll, expect, inject, test } from 'vitest';
import { Job } from '../src/db/models.js';
import { freshAgent } from './database.js';

let sequelize: Sequelize;
let drop: () => Promise<void>;
let agent: ReturnType<typeof supertest>;

beforeAll(async () => {
  ({ agent, sequelize, drop } = await freshAgent(inject('postgresUrl')));
});
afterAll(async () => {
  await drop();
});

test('answers are counted by route, with no id or name among the labels', async () => {
  const { id } = (await agent.post('/api/projects').send({ name: 'Secret Ferry' })).body as { id: string };
  await agent.get(`/api/projects/${id}`);
  await agent.get('/api/projects/none');
  await Job.create({ projectId: id, kind: 'reading', name: 'secret.svg', state: 'failed' });
  const { text } = await agent
    .get('/metrics')
    .expect(200)
    .expect('content-type', /text\/plain/);
  expect(text).toContain(
    'http_request_duration_seconds_count{method="GET",route="/api/projects/:id",status="200"} 1',
  );
  expect(text).toContain(
    'http_request_duration_seconds_count{method="POST",route="/api/projects",status="201"} 1',
  );
  expect(text).toContain('tinfold_streams_open 0');
  expect(text).toContain('tinfold_jobs{kind="reading",state="failed"} 1');
  expect(text).toContain('process_cpu_seconds_total');
  expect(text).not.toContain(id);
  expect(text).not.toMatch(/secret/i);
});

test('a server lives without its database, but is not ready', async () => {
  await agent.get('/health').expect(200, { ok: true });
  await agent.get('/ready').expect(200, { ok: true });
  await sequelize.close();
  await agent.get('/health').expect(200, { ok: true });
  await agent.get('/ready').expect(503);
  await agent.get('/metrics').expect(200);
});
