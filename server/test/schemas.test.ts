import { createHash } from 'node:crypto';
import { pino } from 'pino';
import type { Sequelize } from 'sequelize';
import supertest from 'supertest';
import { describe, expect, inject, test } from 'vitest';
import { createApp } from '../src/app.js';
import { migrate, MIGRATIONS } from '../src/db/migrations.js';
import { connect } from '../src/db/models.js';
import { column, named, structure, text } from '../../core/test/support/build.js';
import { freshAgent, freshDatabase } from './database.js';

const doc = structure(named('board', column({ gap: 8 }, text('Low Tarn'))));
const PROJECT = '7b0f3a52-1111-4000-8000-000000000001';
const SCREEN = '7b0f3a52-1111-4000-8000-000000000002';

/** What of each migration that has landed must stay as it is: databases out there have run it so. */
const LANDED: readonly (readonly [name: string, sum: string])[] = [
  ['001-projects-screens-drawings-steps', '0ee93f02c68d1357'],
  ['002-decisions-about-drawings', '4e671a7db4f591f1'],
  ['003-fonts-and-structures-as-read', '9cdd7da60adef732'],
  ['004-proofs-and-expectations', '8d1c876e26818530'],
  ['005-bin', '17c563bf982be43c'],
  ['006-writes-by-id', 'a71d734fdb16fc40'],
  ['007-order-of-screens', 'e57e6a1b4d83eab0'],
  ['008-handoffs', '4616870d768c93d8'],
  ['009-revisions', '413fffa26bfe8b00'],
  ['010-accounts-and-links', 'd157069bb77b7c73'],
  ['011-jobs', 'cff9d095678b2ec8'],
];

/** A screen with one edit as the first schema kept it; every later one still has these columns. */
async function keepAsFirst(sequelize: Sequelize): Promise<void> {
  const run = (sql: string, bind: readonly unknown[]) => sequelize.query(sql, { bind: [...bind] });
  await run(`INSERT INTO projects (id, name) VALUES ($1, 'Kittiwake Line')`, [PROJECT]);
  await run(
    `INSERT INTO screens (id, project_id, name, revision, snapshot) VALUES ($1, $2, 'Board', 1, $3)`,
    [SCREEN, PROJECT, JSON.stringify(doc)],
  );
  await run(
    `INSERT INTO drawings (screen_id, name, width, height, source) VALUES ($1, 'board', 1000, 600, '<svg/>')`,
    [SCREEN],
  );
  const steps = [{ kind: 'setRules', parts: [{ id: 'board', set: { gap: 12 } }] }];
  await run(`INSERT INTO steps (screen_id, revision, label, steps) VALUES ($1, 1, 'gap', $2)`, [
    SCREEN,
    JSON.stringify(steps),
  ]);
}

describe('data of every earlier schema', () => {
  for (const [at, { name }] of MIGRATIONS.entries())
    test(`of ${name} is read, edited and looked back on`, async () => {
      const { url, drop } = await freshDatabase(inject('postgresUrl'));
      const sequelize = connect(url);
      try {
        await migrate(sequelize, MIGRATIONS.slice(0, at + 1));
        await keepAsFirst(sequelize);
        await migrate(sequelize);
        const agent = supertest(createApp({ sequelize, logger: pino({ level: 'silent' }) }));
        const opened = await agent.get(`/api/screens/${SCREEN}`).expect(200);
        expect(opened.body).toMatchObject({
          name: 'Board',
          revision: 1,
          structure: { root: { rules: { gap: 12 } } },
        });
        await agent
          .post(`/api/screens/${SCREEN}/steps`)
          .send({ revision: 1, label: 'gap', steps: [{ kind: 'rename', id: 'board', name: 'Pier' }] })
          .expect(200);
        const kept = await agent.get(`/api/screens/${SCREEN}/revisions`).expect(200);
        expect((kept.body as { revisions: unknown[] }).revisions).toHaveLength(3);
        await agent.get(`/api/projects/${PROJECT}/file`).expect(200);
      } finally {
        await sequelize.close();
        await drop();
      }
    });

  test('a structure of a later version is refused with what to do', async () => {
    const { agent, sequelize, drop } = await freshAgent(inject('postgresUrl'));
    const made = await agent.post('/api/projects').send({ name: 'Kittiwake Line' });
    const drawing = { name: 'Board', width: 1000, height: 600, source: '<svg/>' };
    const refused = await agent
      .post(`/api/projects/${(made.body as { id: string }).id}/screens`)
      .send({ name: 'Board', drawing, structure: { ...doc, version: 2 } });
    expect([refused.status, (refused.body as { detail: string }).detail]).toEqual([
      400,
      expect.stringMatching(/structure\.version.*bring it up to date/),
    ]);
    await sequelize.close();
    await drop();
  });

  test('a migration that has landed is never changed, only followed by another', () => {
    const sums = MIGRATIONS.map(({ name, sql }) => [
      name,
      createHash('sha256').update(sql).digest('hex').slice(0, 16),
    ]);
    expect(sums).toEqual(LANDED);
  });
});
