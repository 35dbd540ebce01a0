import { createServer, get, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import type { Sequelize } from 'sequelize';
import supertest from 'supertest';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { column, structure } from '../../core/test/support/build.js';
import { createApp } from '../src/app.js';
import { Changes } from '../src/changes.js';
import { migrate } from '../src/db/migrations.js';
import { connect } from '../src/db/models.js';
import { freshDatabase } from './database.js';

const logger = pino({ level: 'silent' });

/** What a stream has told so far; `next` waits for more. */
function streamOf(url: string): Promise<{ next: () => Promise<number>; close: () => void }> {
  const told: number[] = [];
  const waiting: ((n: number) => void)[] = [];
  return new Promise((resolve, reject) => {
    const request = get(url, (response) => {
      expect(response.headers['content-type']).toContain('text/event-stream');
      response.setEncoding('utf8');
      response.on('error', () => undefined);
      response.on('data', (chunk: string) => {
        for (const [, data] of chunk.matchAll(/^data: (.*)$/gm)) {
          const { revision } = JSON.parse(data ?? '') as { revision: number };
          const first = waiting.shift();
          if (first) first(revision);
          else told.push(revision);
        }
      });
      resolve({
        next: () => {
          const first = told.shift();
          return first === undefined ? new Promise((r) => waiting.push(r)) : Promise.resolve(first);
        },
        close: () => request.destroy(),
      });
    });
    request.on('error', reject);
  });
}

describe('two servers on one database', () => {
  const running: { sequelize: Sequelize; changes: Changes; server: Server; url: string }[] = [];
  let drop: () => Promise<void>;
  let screen: string;

  beforeAll(async () => {
    const database = await freshDatabase(inject('postgresUrl'));
    drop = database.drop;
    for (let i = 0; i < 2; i++) {
      const sequelize = connect(database.url);
      await migrate(sequelize);
      const changes = await Changes.listen(database.url, logger);
      const server = createServer(createApp({ sequelize, logger, changes }));
      await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
      const { port } = server.address() as AddressInfo;
      running.push({ sequelize, changes, server, url: `http://127.0.0.1:${port}` });
    }
    const agent = supertest(at(0));
    const project = (await agent.post('/api/projects').send({ name: 'Kittiwake Line' })).body as {
      id: string;
    };
    const made = await agent.post(`/api/projects/${project.id}/screens`).send({
      name: 'Board',
      drawing: { name: 'Board', width: 1000, height: 600, source: '<svg/>' },
      structure: structure(column({ gap: 8 })),
    });
    screen = (made.body as { id: string }).id;
  });
  afterAll(async () => {
    for (const { sequelize, changes, server } of running) {
      server.closeAllConnections();
      server.close();
      await changes.close();
      await sequelize.close();
    }
    await drop();
  });

  const at = (i: number): string => running[i]?.url ?? '';
  const rename = (revision: number, name: string) => ({
    revision,
    label: name,
    steps: [{ kind: 'rename', id: structure(column({})).root.id, name }],
  });
  const write = async (server: number, name: string): Promise<number> => {
    const now = (await supertest(at(server)).get(`/api/screens/${screen}`)).body as {
      revision: number;
      structure: { root: { id: string } };
    };
    const step = { kind: 'rename', id: now.structure.root.id, name };
    const answer = await supertest(at(server))
      .post(`/api/screens/${screen}/steps`)
      .send({ ...rename(now.revision, name), steps: [step] });
    return (answer.body as { revision: number }).revision;
  };

  test('what one writes the windows of the other hear, and get the steps of', async () => {
    const stream = await streamOf(`${at(1)}/api/screens/${screen}/changes`);
    const first = await stream.next();
    const revision = await write(0, 'Departures');
    expect(await stream.next()).toBe(revision);
    const since = await supertest(at(1)).get(`/api/screens/${screen}/steps?after=${first}`);
    expect(since.body).toMatchObject({ revision, steps: [{ revision, label: 'Departures' }] });
    stream.close();
  });

  test('a write that is refused tells nobody; another screen’s neither', async () => {
    const stream = await streamOf(`${at(1)}/api/screens/${screen}/changes`);
    const first = await stream.next();
    const refused = await supertest(at(0))
      .post(`/api/screens/${screen}/steps`)
      .send(rename(first + 7, 'Late'));
    expect(refused.status).toBe(409);
    const revision = await write(0, 'Again');
    expect(await stream.next()).toBe(revision);
    stream.close();
  });

  test('a connection that the database has cut is made again, and what was missed is told', async () => {
    const stream = await streamOf(`${at(1)}/api/screens/${screen}/changes`);
    await stream.next();
    await running[0]?.sequelize.query(
      `SELECT pg_terminate_backend(pid) FROM pg_stat_activity
       WHERE datname = current_database() AND query LIKE 'LISTEN%' AND pid <> pg_backend_pid()`,
    );
    const revision = await write(0, 'While nobody heard');
    let heard = await stream.next();
    while (heard < revision) heard = await stream.next();
    expect(heard).toBe(revision);
    const later = await write(0, 'Heard again');
    for (heard = await stream.next(); heard < later;) heard = await stream.next();
    expect(heard).toBe(later);
    stream.close();
  });

  test('a screen that is not there, and a revision that is none, are refused', async () => {
    const agent = supertest(at(0));
    expect((await agent.get('/api/screens/7b0f3a52-0000-4000-8000-000000000000/changes')).status).toBe(404);
    expect((await agent.get(`/api/screens/${screen}/steps?after=x`)).status).toBe(400);
    expect((await agent.get(`/api/screens/${screen}/steps`)).status).toBe(400);
  });
});
