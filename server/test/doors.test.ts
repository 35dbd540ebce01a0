import { pino } from 'pino';
import type { Sequelize } from 'sequelize';
import supertest from 'supertest';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { createApp } from '../src/app.js';
import { migrate } from '../src/db/migrations.js';
import { connect } from '../src/db/models.js';
import { isLoopback } from '../src/doors.js';
import { serve } from '../src/main.js';
import { freshDatabase } from './database.js';

describe('who is let in', () => {
  let sequelize: Sequelize;
  let url: string;
  let drop: () => Promise<void>;
  let agent: ReturnType<typeof supertest>;
  beforeAll(async () => {
    const database = await freshDatabase(inject('postgresUrl'));
    ({ url, drop } = database);
    sequelize = connect(url);
    await migrate(sequelize);
    agent = supertest(createApp({ sequelize, logger: pino({ level: 'silent' }) }));
  });
  afterAll(async () => {
    await sequelize.close();
    await drop();
  });
  const projects = async (): Promise<number> => ((await agent.get('/api/projects')).body as unknown[]).length;

  test('only who asks for this machine by its own name', async () => {
    for (const host of ['127.0.0.1:4317', 'localhost', '[::1]:80'])
      expect((await agent.get('/api/projects').set('Host', host)).status, host).toBe(200);
    for (const host of ['rebound.example', '127.0.0.1.rebound.example:4317', '10.0.0.7', 'a b']) {
      const refused = await agent.get('/api/projects').set('Host', host);
      expect([refused.status, refused.type], host).toEqual([421, 'application/problem+json']);
    }
  });

  test('another site writes nothing, the own pages and commands do', async () => {
    const before = await projects();
    const post = () =>
      agent.post('/api/projects').set('Host', 'localhost:4317').send({ name: 'Kittiwake Line' });
    expect((await post().set('Origin', 'http://elsewhere.example')).status).toBe(403);
    expect((await post().set('Origin', 'http://localhost:9')).status).toBe(403);
    expect((await post().set('Origin', 'null')).status).toBe(403);
    expect((await post().set('Sec-Fetch-Site', 'cross-site')).status).toBe(403);
    expect(await projects()).toBe(before);
    expect((await post().set('Origin', 'http://localhost:4317')).status).toBe(201);
    expect((await post()).status).toBe(201);
    expect(await projects()).toBe(before + 2);
  });

  test('an address that others reach is refused at the start', async () => {
    expect([isLoopback('127.0.0.1'), isLoopback('0.0.0.0'), isLoopback('ferry.example')]).toEqual([
      true,
      false,
      false,
    ]);
    await expect(serve({ databaseUrl: url, port: 0, host: '0.0.0.0', logLevel: 'silent' })).rejects.toThrow(
      /there is no sign-in/,
    );
  });
});
