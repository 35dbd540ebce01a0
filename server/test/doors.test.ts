import { pino } from 'pino';
import type { Sequelize } from 'sequelize';
import supertest from 'supertest';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { makeAccount } from '../src/access/accounts.js';
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
    const start = (more: Partial<Parameters<typeof serve>[0]>) =>
      serve({ databaseUrl: url, port: 0, logLevel: 'silent', ...more });
    await expect(start({ host: '0.0.0.0' })).rejects.toThrow(/say in PUBLIC_URL/);
    await expect(start({ publicUrl: 'ferry.example' })).rejects.toThrow(/write an address/);
    const publicUrl = 'https://ferry.example';
    await expect(start({ publicUrl })).rejects.toThrow(/make an account/);

    await sequelize.transaction((transaction) => makeAccount('pilot', 'tide table 1907', transaction));
    const running = await start({ publicUrl });
    const signIn = (host: string) =>
      supertest(running.url)
        .post('/api/session')
        .set({ Host: host, Origin: publicUrl })
        .send({ name: 'pilot', password: 'tide table 1907' });
    const answer = await signIn('ferry.example');
    expect([answer.status, String(answer.headers['set-cookie'])]).toEqual([
      200,
      expect.stringMatching(/; Secure/),
    ]);
    expect((await signIn('rebound.example')).status).toBe(421);
    // What it measures is told to nobody where no token is set.
    expect((await supertest(running.url).get('/metrics')).status).toBe(401);
    await running.close();
  });
});
