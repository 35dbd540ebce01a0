import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import type { Sequelize } from 'sequelize';
import supertest from 'supertest';
import { pino } from 'pino';
import type { Express } from 'express';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { makeAccount } from '../src/access/accounts.js';
import { NEEDS, ROLES, type Role } from '../src/access/needs.js';
import { isPassword, hashPassword } from '../src/access/secrets.js';
import { createApp } from '../src/app.js';
import { Changes } from '../src/changes.js';
import { Account, Invitation, Job, LinkRow, Member, Session } from '../src/db/models.js';
import { Queue } from '../src/jobs/queue.js';
import { column, structure, text } from '../../core/test/support/build.js';
import { freshDatabase } from './database.js';
import { connect } from '../src/db/models.js';
import { migrate } from '../src/db/migrations.js';

const PASSWORD = 'tide table 1907';
const doc = structure(column({ gap: 8 }, text('Low Tarn')));
const drawing = { name: 'Board', width: 1000, height: 600, source: '<svg/>' };
type Agent = ReturnType<typeof supertest.agent>;

interface Layer {
  readonly route?: { readonly path: string; readonly methods: Readonly<Record<string, boolean>> };
  readonly handle?: { readonly stack?: readonly Layer[] };
}

/** Every route of a router and those within it, as `get /path`. */
const routesIn = (layers: readonly Layer[]): string[] =>
  layers.flatMap(({ route, handle }) =>
    route ? Object.keys(route.methods).map((m) => `${m} ${route.path}`) : routesIn(handle?.stack ?? []),
  );

describe('who may do what', () => {
  let sequelize: Sequelize;
  let changes: Changes;
  let queue: Queue;
  let app: Express;
  let drop: () => Promise<void>;
  const people = new Map<string, Agent>();
  const cookies = new Map<string, string>();
  const person = (name: string): Agent => people.get(name) ?? supertest.agent(app);

  beforeAll(async () => {
    const database = await freshDatabase(inject('postgresUrl'));
    ({ drop } = database);
    sequelize = connect(database.url);
    await migrate(sequelize);
    const logger = pino({ level: 'silent' });
    changes = await Changes.listen(database.url, logger);
    queue = await Queue.open(database.url, sequelize, logger, { supervise: false });
    app = createApp({ sequelize, logger, changes, queue });
    for (const name of [...ROLES, 'outsider']) {
      await sequelize.transaction((transaction) => makeAccount(name, PASSWORD, transaction));
      const agent = supertest.agent(app);
      const answer = await agent.post('/api/session').send({ name, password: PASSWORD }).expect(200);
      cookies.set(name, String(answer.headers['set-cookie']).split(';')[0] ?? '');
      people.set(name, agent);
    }
  });
  afterAll(async () => {
    await changes.close();
    await queue.close();
    await sequelize.close();
    await drop();
  });

  /** A project with all that an address can name, and a member of every role. */
  async function world(): Promise<Readonly<Record<string, string>>> {
    const owner = person('owner');
    const made = async (path: string, body: object): Promise<Readonly<Record<string, string>>> =>
      (await owner.post(path).send(body).expect(201)).body as Readonly<Record<string, string>>;
    const { id: project = '' } = await made('/api/projects', { name: 'Kittiwake Line' });
    for (const role of ['viewer', 'editor'] as const) {
      const account = await Account.findOne({ where: { name: role } });
      await Member.create({ projectId: project, accountId: account?.id ?? '', role });
    }
    const { id: screen = '' } = await made(`/api/projects/${project}/screens`, {
      name: 'Board',
      drawing,
      structure: doc,
    });
    const { id: handoff = '' } = await made(`/api/screens/${screen}/handoffs`, {
      revision: 0,
      formats: ['json'],
      widths: [1000],
    });
    const { id: link = '' } = await made(`/api/screens/${screen}/links`, { days: 1 });
    const [font] = (await sequelize
      .query(
        `INSERT INTO fonts (project_id, family, weight, italic, file) VALUES ('${project}', 'F', 400, false, '\\x00') RETURNING id`,
      )
      .then(([rows]) => rows)) as { id: string }[];
    const viewer = await Account.findOne({ where: { name: 'viewer' } });
    const { id: job } = await Job.create({ projectId: project, kind: 'reading', name: 'a.svg' });
    return { project, screen, handoff, link, job, font: font?.id ?? '', account: viewer?.id ?? '' };
  }

  /** A stream has no end: its head is the answer. */
  async function statusOfStream(address: string, who: string): Promise<number> {
    const server = app.listen(0, '127.0.0.1');
    await once(server, 'listening');
    const cookie = cookies.get(who) ?? '';
    const stop = new AbortController();
    const { port } = server.address() as AddressInfo;
    const url = `http://127.0.0.1:${port}/api${address}`;
    const { status } = await fetch(url, { headers: { cookie }, signal: stop.signal });
    stop.abort();
    server.closeAllConnections();
    server.close();
    return status;
  }

  test('every route of the API has a line, and every line a route', () => {
    const router = (app as unknown as { router: { stack: readonly Layer[] } }).router;
    const own = new Set(
      ['/health', '/ready', '/metrics', '/{*page}', '/:file', '/glyphs.bin'].map((p) => `get ${p}`),
    );
    const routes = routesIn(router.stack).filter((r) => !own.has(r));
    const lines = NEEDS.map(([method, path]) => `${method} ${path}`);
    expect([...new Set(routes)].sort()).toEqual([...lines].sort());
    // Once in the guard, once where it is answered.
    expect(lines.filter((l) => routes.filter((r) => r === l).length < 2)).toEqual([]);
  });

  for (const [method, path, need] of NEEDS)
    test(`${method} ${path}`, async () => {
      const ask = async (who: string): Promise<number> => {
        const at = await world();
        const named = typeof need === 'object' ? need.of : 'screen';
        const address = path
          .replace(':id', at[named] ?? '')
          .replace(':account', at['account'] ?? '')
          .replace(':revision', '0')
          .replace(':token', 'x'.repeat(43));
        if (path.endsWith('/changes')) return statusOfStream(address, who);
        return (
          await person(who)
            [method](`/api${address}`)
            .send(method === 'get' ? undefined : {})
        ).status;
      };
      const lets = async (who: string) => ![401, 403].includes(await ask(who));
      expect(await lets('stranger'), 'a stranger').toBe(need === 'anyone');
      if (typeof need !== 'object') {
        if (path !== '/session' && path !== '/sessions') expect(await lets('outsider')).toBe(true);
        return;
      }
      expect(await ask('outsider'), 'somebody of another project').toBe(404);
      for (const role of ROLES)
        expect(await lets(role), role).toBe(ROLES.indexOf(role) >= ROLES.indexOf(need.role));
    });

  test('only one’s own projects are listed, on the shelf and in the bin', async () => {
    const { project = '' } = await world();
    const listed = async (who: string): Promise<string[]> =>
      ((await person(who).get('/api/projects')).body as { id: string }[]).map((p) => p.id);
    expect(await listed('viewer')).toContain(project);
    expect(await listed('outsider')).not.toContain(project);
    await person('owner').delete(`/api/projects/${project}`).expect(204);
    const binned = async (who: string): Promise<string[]> =>
      ((await person(who).get('/api/bin')).body as { projects: { id: string }[] }).projects.map((p) => p.id);
    expect(await binned('viewer')).toContain(project);
    expect(await binned('outsider')).not.toContain(project);
  });

  test('a session is a cookie that no script reads, and nothing that is kept opens it', async () => {
    const answer = await supertest(app).post('/api/session').send({ name: ' Owner ', password: PASSWORD });
    const [cookie = ''] = answer.headers['set-cookie'] as unknown as string[];
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Strict/);
    const token = /tinfold_session=([^;]+)/.exec(cookie)?.[1] ?? '';
    expect(token).toMatch(/^[\w-]{43}$/);
    expect(await Session.findOne({ where: { hash: token } })).toBeNull();
    expect(JSON.stringify(await Account.findAll())).not.toContain(PASSWORD);
    await supertest(app).get('/api/projects').set('Cookie', `tinfold_session=${token}`).expect(200);
    await Session.update({ endsAt: new Date(Date.now() - 1000) }, { where: {} });
    await supertest(app).get('/api/projects').set('Cookie', `tinfold_session=${token}`).expect(401);
    for (const [name, agent] of people)
      await agent.post('/api/session').send({ name, password: PASSWORD }).expect(200);
  });

  test('signing out everywhere ends all sessions of the account, and no other’s', async () => {
    const [here, there] = [supertest.agent(app), supertest.agent(app)];
    for (const agent of [here, there])
      await agent.post('/api/session').send({ name: 'editor', password: PASSWORD }).expect(200);
    await here.delete('/api/sessions').expect(204);
    await there.get('/api/projects').expect(401);
    await person('viewer').get('/api/projects').expect(200);
    await person('editor').post('/api/session').send({ name: 'editor', password: PASSWORD }).expect(200);
  });

  test('a wrong password lets nobody in, and guessing is stopped, many at once too', async () => {
    const guess = (name: string) =>
      supertest(app).post('/api/session').send({ name, password: 'not this one' });
    const answers = await Promise.all(Array.from({ length: 14 }, () => guess('viewer')));
    const of = (status: number) => answers.filter((a) => a.status === status).length;
    expect(of(401)).toBeLessThanOrEqual(10);
    expect(of(401) + of(429)).toBe(14);
    // Then the right one does not get in either, on any server of the database.
    await supertest(app).post('/api/session').send({ name: 'viewer', password: PASSWORD }).expect(429);
    expect((await guess('nobody of this name')).status).toBe(401);
  });

  test('an invitation makes a member once, and takes nothing from one who has more', async () => {
    const { project = '' } = await world();
    const invite = async (role: Role): Promise<string> =>
      (
        (await person('owner').post(`/api/projects/${project}/invitations`).send({ role }).expect(201))
          .body as {
          token: string;
        }
      ).token;
    const token = await invite('editor');
    expect((await supertest(app).get(`/api/invitations/${token}`)).body).toEqual({
      project: 'Kittiwake Line',
      role: 'editor',
    });
    const joining = supertest.agent(app);
    const mate = { name: 'Mate of the Ellin', password: PASSWORD };
    await joining
      .post(`/api/invitations/${token}`)
      .send({ ...mate, password: 'short' })
      .expect(400);
    await joining.post(`/api/invitations/${token}`).send({}).expect(400);
    await joining
      .post(`/api/invitations/${token}`)
      .send({ ...mate, name: 'OWNER' })
      .expect(409);
    await joining.post(`/api/invitations/${token}`).send(mate).expect(201);
    await joining.patch(`/api/projects/${project}`).send({ name: 'Kittiwake' }).expect(204);
    await supertest(app)
      .post(`/api/invitations/${token}`)
      .send({ ...mate, name: 'Other' })
      .expect(404);
    await person('owner')
      .post(`/api/invitations/${await invite('viewer')}`)
      .send({})
      .expect(201);
    await person('owner').post(`/api/projects/${project}/invitations`).send({ role: 'viewer' }).expect(201);
    const ended = await invite('owner');
    await Invitation.update({ endsAt: new Date(Date.now() - 1000) }, { where: {} });
    await person('outsider').post(`/api/invitations/${ended}`).send({}).expect(404);
  });

  test('a project keeps an owner', async () => {
    const { project = '', account = '' } = await world();
    const owner = await Account.findOne({ where: { name: 'owner' } });
    const at = (id: string) => `/api/projects/${project}/people/${id}`;
    await person('owner')
      .delete(at(owner?.id ?? ''))
      .expect(422);
    await person('owner')
      .put(at(owner?.id ?? ''))
      .send({ role: 'viewer' })
      .expect(422);
    await person('owner').put(at(account)).send({ role: 'owner' }).expect(204);
    await person('owner')
      .delete(at(owner?.id ?? ''))
      .expect(204);
    await person('owner').get(`/api/projects/${project}`).expect(404);
  });

  test('a link shows the screen and changes nothing, until it ends or is taken back', async () => {
    const { screen = '', project = '' } = await world();
    const made = await person('editor').post(`/api/screens/${screen}/links`).send({ days: 7 }).expect(201);
    const { id, token } = made.body as { id: string; token: string };
    const shown = await supertest(app).get(`/api/shared/${token}`).expect(200);
    expect(shown.body).toMatchObject({ name: 'Board', revision: 0, drawings: [{ width: 1000 }] });
    expect(JSON.stringify(shown.body)).not.toContain(project);
    for (const method of ['post', 'put', 'patch', 'delete'] as const)
      await supertest(app)[method](`/api/shared/${token}`).send({}).expect(404);
    await supertest(app).get(`/api/screens/${screen}`).set('Authorization', `Bearer ${token}`).expect(401);
    await LinkRow.update({ endsAt: new Date(Date.now() - 1000) }, { where: { id } });
    await supertest(app).get(`/api/shared/${token}`).expect(404);
    await LinkRow.update({ endsAt: new Date(Date.now() + 100_000) }, { where: { id } });
    await person('editor').delete(`/api/links/${id}`).expect(204);
    await supertest(app).get(`/api/shared/${token}`).expect(404);
  });

  test('passwords are kept with a salt, and no empty one opens an account that is not there', async () => {
    const [a, b] = await Promise.all([hashPassword(PASSWORD), hashPassword(PASSWORD)]);
    expect(a).not.toBe(b);
    expect(await Promise.all([isPassword(PASSWORD, a), isPassword(PASSWORD, b)])).toEqual([true, true]);
    expect(await isPassword('', undefined)).toBe(false);
    expect(await isPassword('', '.')).toBe(false);
  });
});
