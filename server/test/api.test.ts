import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Sequelize } from 'sequelize';
import type supertest from 'supertest';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import type { Step, Structure } from '@tinfold/core/model';
import { readSource } from '@tinfold/host/reading';
import { migrate, MIGRATIONS } from '../src/db/migrations.js';
import { loadDemo } from '../src/demo.js';
import { freshAgent } from './database.js';

const DEMO = fileURLToPath(new URL('../../demo/', import.meta.url));
const SOURCE = readFileSync(new URL('../../demo/departures-1280.svg', import.meta.url), 'utf8');
const NOWHERE = '00000000-0000-4000-8000-000000000000';

interface Problem {
  readonly title: string;
  readonly detail: string;
  readonly revision?: number;
  readonly steps?: readonly { revision: number; label: string; steps: Step[]; write: string | null }[];
  readonly structure?: Structure | null;
}

describe('the API on a real PostgreSQL', () => {
  let sequelize: Sequelize;
  let drop: () => Promise<void>;
  let agent: ReturnType<typeof supertest>;
  let structure: Structure;
  let projectId: string;

  beforeAll(async () => {
    ({ agent, sequelize, drop } = await freshAgent(inject('postgresUrl')));
    ({ structure } = await readSource(SOURCE, 'Departures board'));
    projectId = (
      (await agent.post('/api/projects').send({ name: ' Kittiwake Line ' })).body as { id: string }
    ).id;
  });
  afterAll(async () => {
    await sequelize.close();
    await drop();
  });

  const newScreen = async (): Promise<string> => {
    const drawing = { name: 'departures-1280.svg', width: 1280, height: 640, source: SOURCE };
    const response = await agent
      .post(`/api/projects/${projectId}/screens`)
      .send({ name: 'Departures board', drawing, structure });
    expect(response.status).toBe(201);
    return (response.body as { id: string }).id;
  };
  const gapStep = (gap: number): Step => ({
    kind: 'setRules',
    parts: [{ id: structure.root.id, set: { gap } }],
  });
  const write = (id: string, revision: number, ...steps: Step[]) =>
    agent.post(`/api/screens/${id}/steps`).send({ revision, label: 'gap', steps });
  const open = async (id: string) =>
    (await agent.get(`/api/screens/${id}`)).body as { revision: number; structure: Structure };

  test('migrations run once, also when two servers start together', async () => {
    await Promise.all([migrate(sequelize), migrate(sequelize)]);
    const [rows] = await sequelize.query('SELECT name FROM migrations');
    expect(rows).toEqual(MIGRATIONS.map(({ name }) => ({ name })));
  });

  test('a project is listed with its screens', async () => {
    const id = await newScreen();
    const list = (await agent.get('/api/projects')).body as {
      name: string;
      screens: number;
      preview: string[];
    }[];
    expect(list[0]).toMatchObject({ name: 'Kittiwake Line', screens: 1, preview: [id] });
    const project = (await agent.get(`/api/projects/${projectId}`)).body as {
      screens: { drawings: unknown[] }[];
    };
    expect(project.screens[0]?.drawings).toEqual([
      expect.objectContaining({ name: 'departures-1280.svg', width: 1280, height: 640 }),
    ]);
  });

  test('what is read back is what was written, drawing and structure', async () => {
    const id = await newScreen();
    expect((await agent.get(`/api/screens/${id}`)).body).toMatchObject({
      revision: 0,
      structure,
      drawings: [{ source: SOURCE }],
    });
  });

  test('steps raise the revision and are there afterwards, over many snapshots', async () => {
    const id = await newScreen();
    for (let revision = 0; revision < 53; revision++)
      expect((await write(id, revision, gapStep(revision))).body).toEqual({ revision: revision + 1 });
    const { revision, structure: now } = await open(id);
    expect([revision, now.root.rules.gap]).toEqual([53, 52]);
    expect(now.root.children).toEqual(structure.root.children);
  });

  test('a late write gets the steps in between and changes nothing', async () => {
    const id = await newScreen();
    await write(id, 0, gapStep(8));
    await write(id, 1, gapStep(9));
    const late = await write(id, 0, gapStep(99));
    expect([late.status, late.type]).toEqual([409, 'application/problem+json']);
    const { revision, steps } = late.body as Problem;
    expect(revision).toBe(2);
    expect(steps?.map((s) => [s.revision, s.steps])).toEqual([
      [1, [gapStep(8)]],
      [2, [gapStep(9)]],
    ]);
    expect((await open(id)).structure.root.rules.gap).toBe(9);
  });

  test('a write whose answer was lost is not done twice', async () => {
    const id = await newScreen();
    const own = '5f0c9f6e-1111-4222-8333-944455556666';
    const send = (revision: number) =>
      agent
        .post(`/api/screens/${id}/steps`)
        .send({ revision, write: own, label: 'gap', steps: [gapStep(8)] });
    await write(id, 0, gapStep(20));
    expect([(await send(1)).body, (await send(1)).body]).toEqual([{ revision: 2 }, { revision: 2 }]);
    await write(id, 2, gapStep(30));
    // Nothing came between the revision that it was made on and its own.
    expect((await send(1)).body).toEqual({ revision: 2 });
    // Something did: it is among the steps that have to be taken over.
    const late = await send(0);
    expect(late.status).toBe(409);
    expect((late.body as Problem).steps?.map((s) => s.write)).toEqual([null, own, null]);
    expect(await open(id)).toMatchObject({ revision: 3 });
    expect((await open(id)).structure.root.rules.gap).toBe(30);
  });

  test('a late write that a reading came before gets the structure as it is now', async () => {
    const id = await newScreen();
    const read = { ...structure, name: 'Read again' };
    await agent.put(`/api/screens/${id}/structure`).send({ revision: 0, structure: read });
    await write(id, 1, gapStep(9));
    const late = await write(id, 0, gapStep(99));
    expect(late.status).toBe(409);
    const { revision, structure: now } = late.body as Problem;
    expect([revision, now?.name, now?.root.rules.gap]).toEqual([2, 'Read again', 9]);
  });

  test('of many writers on one revision exactly one wins', async () => {
    const id = await newScreen();
    const all = await Promise.all(Array.from({ length: 8 }, (_, i) => write(id, 0, gapStep(i))));
    expect(all.filter((r) => r.status === 200)).toHaveLength(1);
    expect(all.filter((r) => r.status === 409)).toHaveLength(7);
    expect((await open(id)).revision).toBe(1);
  });

  test('a step that cannot stand is refused whole, with its reason', async () => {
    const id = await newScreen();
    const wrong: Step = {
      kind: 'setRules',
      parts: [{ id: structure.root.id, set: { minWidth: 500, maxWidth: 400 } }],
    };
    const response = await write(id, 0, gapStep(4), wrong);
    expect(response.status).toBe(422);
    expect((response.body as Problem).detail).toContain('min width 500 is over its max 400');
    expect(await open(id)).toMatchObject({ revision: 0, structure });
  });

  test('no list in a step is without an end, and what is too long changes nothing', async () => {
    const id = await newScreen();
    const many = (n: number): Step => ({
      kind: 'setRules',
      parts: Array.from({ length: n }, () => ({ id: structure.root.id, set: { gap: 9 } })),
    });
    const long: Step = { kind: 'pattern', parts: [{ id: structure.root.id, pattern: 'x'.repeat(201) }] };
    for (const step of [many(5_001), long]) {
      const response = await write(id, 0, step);
      expect([response.status, response.type]).toEqual([400, 'application/problem+json']);
    }
    expect(await open(id)).toMatchObject({ revision: 0, structure });
    expect((await write(id, 0, many(5_000))).body).toEqual({ revision: 1 });
  });

  test('a newly read structure takes the place of the old on the newest revision', async () => {
    const id = await newScreen();
    await write(id, 0, gapStep(4));
    const stale = await agent.put(`/api/screens/${id}/structure`).send({ revision: 0, structure });
    expect(stale.status).toBe(409);
    expect((await agent.put(`/api/screens/${id}/structure`).send({ revision: 1, structure })).body).toEqual({
      revision: 2,
    });
    expect(await open(id)).toMatchObject({ revision: 2, structure });
    expect((await write(id, 2, gapStep(5))).body).toEqual({ revision: 3 });
  });

  test('decisions about a drawing are kept with the structure that was read by them', async () => {
    const id = await newScreen();
    const { drawings } = (await agent.get(`/api/screens/${id}`)).body as { drawings: { id: string }[] };
    const value = {
      frame: { x: 0, y: 0, width: 640, height: 640 },
      keepKinds: ['hidden', 'device'],
      keep: ['mark'],
      ignore: ['Notice box'],
      force: [{ id: 'logo', kind: 'text', words: 'Kittiwake' }],
      join: [['a', 'b']],
    };
    const put = (drawing: string) =>
      agent
        .put(`/api/screens/${id}/structure`)
        .send({ revision: 0, structure, decisions: { drawing, value } });
    expect((await put(NOWHERE)).status).toBe(404);
    expect((await put(drawings[0]?.id ?? '')).body).toEqual({ revision: 1 });
    expect((await agent.get(`/api/screens/${id}`)).body).toMatchObject({
      revision: 1,
      drawings: [{ decisions: value }],
    });
  });

  test('a drawing of another width comes to a screen with the structure read from both, and goes again', async () => {
    const id = await newScreen();
    const put = (body: object) => agent.put(`/api/screens/${id}/structure`).send({ structure, ...body });
    const widths = async () =>
      ((await agent.get(`/api/screens/${id}`)).body as { drawings: { id: string; width: number }[] })
        .drawings;
    const added = { name: 'departures-390.svg', width: 390, height: 1262, source: '<svg/>' };
    expect((await put({ revision: 0, added })).status).toBe(200);
    expect((await widths()).map((d) => d.width)).toEqual([1280, 390]);
    const twice = await put({ revision: 1, added });
    expect([twice.status, (twice.body as { detail: string }).detail]).toEqual([
      422,
      expect.stringContaining('drawn at 390 already'),
    ]);
    const [wide, narrow] = await widths();
    expect((await put({ revision: 1, removed: narrow?.id })).status).toBe(200);
    const last = await put({ revision: 2, removed: wide?.id });
    expect([last.status, (last.body as { detail: string }).detail]).toEqual([
      422,
      expect.stringContaining('only drawing'),
    ]);
    expect((await widths()).map((d) => d.width)).toEqual([1280]);
    expect((await put({ revision: 2, removed: '00000000-0000-4000-8000-000000000000' })).status).toBe(422);
  });

  test('a screen is drawn at six widths at the most', async () => {
    const id = await newScreen();
    const add = (revision: number, width: number) =>
      agent
        .put(`/api/screens/${id}/structure`)
        .send({ revision, structure, added: { name: 'more.svg', width, height: 100, source: '<svg/>' } });
    for (let i = 0; i < 5; i++) expect((await add(i, 300 + i)).status).toBe(200);
    const seventh = await add(5, 320);
    expect([seventh.status, (seventh.body as { detail: string }).detail]).toEqual([
      422,
      expect.stringContaining('at most 6 drawings'),
    ]);
  });

  test('the structure as read stays beside the edited one, until the next reading', async () => {
    const id = await newScreen();
    const asRead = async () => ((await agent.get(`/api/screens/${id}`)).body as { asRead: Structure }).asRead;
    await write(id, 0, gapStep(4));
    expect(await asRead()).toEqual(structure);
    const fresh = { ...structure, snap: 1 };
    const kept = { ...structure, snap: 2 };
    await agent.put(`/api/screens/${id}/structure`).send({ revision: 1, structure: kept, asRead: fresh });
    expect((await open(id)).structure).toEqual(kept);
    expect(await asRead()).toEqual(fresh);
  });

  describe('fonts of a project', () => {
    const file = (name: string) =>
      readFileSync(new URL(`../../node_modules/@fontsource/${name}`, import.meta.url));
    const add = (bytes: Buffer, project = projectId) =>
      agent.post(`/api/projects/${project}/fonts`).type('application/octet-stream').send(bytes);
    const ITALIC = 'barlow/files/barlow-latin-600-italic';

    test.each(['woff2', 'woff'])(
      'a %s file is unpacked, named by itself and given back as it is measured',
      async (kind) => {
        const added = await add(file(`${ITALIC}.${kind}`));
        expect(added.status).toBe(201);
        const font = added.body as { id: string; family: string };
        expect(font).toMatchObject({ weight: 600, italic: true });
        expect(font.family).toMatch(/^Barlow/);
        const back = await agent.get(`/api/fonts/${font.id}/file`).responseType('blob');
        expect([back.status, back.type]).toEqual([200, 'font/sfnt']);
        expect((back.body as Buffer).readUInt32BE(0)).toBe(0x00010000);
        const screen = await agent.get(`/api/screens/${await newScreen()}`);
        expect((screen.body as { fonts: unknown[] }).fonts).toContainEqual(font);
        expect((await agent.delete(`/api/fonts/${font.id}`)).status).toBe(204);
        expect((await agent.get(`/api/projects/${projectId}/fonts`)).body).toEqual([]);
      },
    );

    test.each<[string, () => Promise<supertest.Response>, number, RegExp]>([
      [
        'a file that is no font',
        async () => add(Buffer.from('only words, and enough of them to look at')),
        422,
        /not a font that can be read/,
      ],
      [
        'a cut-off woff2',
        async () => add(file(`${ITALIC}.woff2`).subarray(0, 900)),
        422,
        /not a font that can be read/,
      ],
      ['no file', async () => add(Buffer.alloc(0)), 400, /holds no font file/],
      ['a font for no project', async () => add(file(`${ITALIC}.woff`), NOWHERE), 404, /no such project/],
      ['a font that is not there', () => agent.get(`/api/fonts/${NOWHERE}/file`), 404, /no such font/],
    ])('%s is answered by problem details', async (_, call, status, detail) => {
      const response = await call();
      expect([response.status, response.type]).toEqual([status, 'application/problem+json']);
      expect((response.body as Problem).detail).toMatch(detail);
    });
  });

  test.each<[string, () => supertest.Test, number, RegExp]>([
    [
      'a project without a name',
      () => agent.post('/api/projects').send({ name: '  ' }),
      400,
      /at name: a name has at least one letter/,
    ],
    ['an unknown field', () => agent.post('/api/projects').send({ name: 'x', admin: true }), 400, /at admin/],
    [
      'no JSON',
      () => agent.post('/api/projects').set('content-type', 'application/json').send('{'),
      400,
      /not JSON/,
    ],
    ['a project that is not there', () => agent.get(`/api/projects/${NOWHERE}`), 404, /no such project/],
    ['an id that is none', () => agent.get("/api/screens/1'; DROP TABLE screens"), 404, /no such screen/],
    [
      'steps of no kind',
      () =>
        agent
          .post(`/api/screens/${NOWHERE}/steps`)
          .send({ revision: 0, label: '', steps: [{ kind: 'wobble' }] }),
      400,
      /at steps\.0\.kind/,
    ],
    ['steps for no screen', () => write(NOWHERE, 0, gapStep(1)), 404, /no such screen/],
    ['an unknown address', () => agent.get('/api/wobble'), 404, /nothing at/],
    ['a font that does not ship', () => agent.get('/fonts/..%2f..%2fpackage.json'), 404, /no such font/],
  ])('%s is answered by problem details', async (_, call, status, detail) => {
    const response = await call();
    expect([response.status, response.type]).toEqual([status, 'application/problem+json']);
    expect((response.body as Problem).detail).toMatch(detail);
  });

  test('what is deleted is gone with all below it', async () => {
    const id = await newScreen();
    expect((await agent.delete(`/api/screens/${id}`)).status).toBe(204);
    expect((await agent.get(`/api/screens/${id}`)).status).toBe(404);
    expect((await agent.delete(`/api/screens/${id}`)).status).toBe(404);
  });

  test('fonts are served, and no page may run foreign scripts', async () => {
    const font = await agent.get('/fonts/inter-latin-400-normal.woff');
    expect([font.status, font.type]).toEqual([200, 'font/woff']);
    expect((await agent.get('/fonts/noto-sans-hebrew-hebrew-400-normal.woff')).status).toBe(200);
    expect(font.headers['content-security-policy']).toContain("script-src 'self' 'wasm-unsafe-eval'");
  });

  test('the demo is loaded into an empty database only', async () => {
    expect(await loadDemo(sequelize, DEMO)).toBe(false);
    await agent.delete(`/api/projects/${projectId}`);
    expect(await loadDemo(sequelize, DEMO)).toBe(true);
    const [project] = (await agent.get('/api/projects')).body as { screens: number }[];
    expect(project?.screens).toBe(7);
  });
});
