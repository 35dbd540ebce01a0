import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { strToU8, unzipSync, zipSync } from 'fflate';
import fc from 'fast-check';
import type { Sequelize } from 'sequelize';
import type supertest from 'supertest';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { readSource } from '@tinfold/host/reading';
import { packProject, unpackProject } from '../src/projectFile.js';
import { Problem } from '../src/problem.js';
import { freshAgent } from './database.js';

const SOURCE = readFileSync(new URL('../../demo/boarding-pass-390.svg', import.meta.url), 'utf8');
const FONT = readFileSync(
  createRequire(new URL('../../core/package.json', import.meta.url)).resolve(
    '@fontsource/lato/files/lato-latin-400-normal.woff2',
  ),
);

describe('a project as one file', () => {
  let sequelize: Sequelize;
  let drop: () => Promise<void>;
  let agent: ReturnType<typeof supertest>;
  let project: string;

  beforeAll(async () => {
    ({ agent, sequelize, drop } = await freshAgent(inject('postgresUrl')));
    const { structure } = await readSource(SOURCE, 'Pass');
    project = ((await agent.post('/api/projects').send({ name: 'Kittiwake / Line' })).body as { id: string })
      .id;
    const drawing = { name: 'Pass.svg', width: 390, height: 844, source: SOURCE };
    const made = await agent
      .post(`/api/projects/${project}/screens`)
      .send({ name: 'Pass', drawing, structure });
    const screen = (made.body as { id: string }).id;
    await agent
      .put(`/api/screens/${screen}/expectations`)
      .send({ expectations: ['no side scroll 320–1920'] });
    const set = { kind: 'setRules', parts: [{ id: structure.root.id, set: { gap: 90 } }] };
    await agent.post(`/api/screens/${screen}/steps`).send({ revision: 0, label: 'gap', steps: [set] });
    await agent.post(`/api/projects/${project}/fonts`).type('application/octet-stream').send(FONT);
  });
  afterAll(async () => {
    await sequelize.close();
    await drop();
  });

  const saved = async (id: string) =>
    (
      await agent
        .get(`/api/projects/${id}/file`)
        .buffer(true)
        .parse((r, done) => {
          const chunks: Buffer[] = [];
          r.on('data', (c: Buffer) => chunks.push(c));
          r.on('end', () => {
            done(null, Buffer.concat(chunks));
          });
        })
    ).body as Buffer;
  const opened = (bytes: Uint8Array) =>
    agent.post('/api/projects/file').type('application/octet-stream').send(Buffer.from(bytes));

  test('comes back as it left: structures with their edits, drawings, expectations and fonts', async () => {
    const file = await saved(project);
    expect(Object.keys(unzipSync(file)).sort()).toEqual([
      'fonts/1.sfnt',
      'manifest.json',
      'project.json',
      'screens/001/drawing-1.svg',
      'screens/001/screen.json',
    ]);
    const made = await opened(file);
    expect(made.status).toBe(201);
    const again = (made.body as { id: string }).id;
    expect(await saved(again)).toEqual(file);
    const { screens } = (await agent.get(`/api/projects/${again}`)).body as { screens: { id: string }[] };
    const screen = (await agent.get(`/api/screens/${screens[0]?.id}`)).body as object;
    expect(screen).toMatchObject({
      structure: { root: { rules: { gap: 90 } } },
      expectations: ['no side scroll 320–1920'],
      drawings: [{ source: SOURCE }],
      fonts: [{ family: 'Lato' }],
    });
  });

  test('what is damaged, changed, too new or no project is refused with a sentence, and nothing is made', async () => {
    const before = ((await agent.get('/api/projects')).body as unknown[]).length;
    const file = await saved(project);
    const files = unzipSync(file);
    const manifest = JSON.parse(new TextDecoder().decode(files['manifest.json'])) as object;
    const { 'screens/001/screen.json': _gone, ...without } = files;
    const wrong: [Uint8Array, RegExp][] = [
      [strToU8('no zip'), /not a project file, or it is damaged/],
      [file.subarray(0, file.length / 2), /not a project file, or it is damaged/],
      [zipSync({ 'a.txt': strToU8('a') }), /lacks manifest\.json/],
      [zipSync({ ...files, 'project.json': strToU8('{"name":"x"}') }), /not as it was saved/],
      [zipSync(without), /lacks screens\/001\/screen\.json/],
      [
        zipSync({ ...files, 'manifest.json': strToU8(JSON.stringify({ ...manifest, version: 2 })) }),
        /version 2/,
      ],
    ];
    for (const [bytes, reason] of wrong) {
      const answer = await opened(bytes);
      expect([answer.status, (answer.body as { detail: string }).detail]).toEqual([
        422,
        expect.stringMatching(reason),
      ]);
    }
    expect((await opened(new Uint8Array())).status).toBe(400);
    expect(((await agent.get('/api/projects')).body as unknown[]).length).toBe(before);
  });

  test('a zip that would fill the memory is refused before it is opened', () => {
    const zeros = new Uint8Array(64 * 1024 * 1024);
    const bomb = zipSync(Object.fromEntries(Array.from({ length: 8 }, (_, i) => [`${i}`, zeros])), {
      level: 9,
    });
    expect(bomb.length).toBeLessThan(1024 * 1024);
    expect(() => unpackProject(bomb)).toThrow(/400 MB/);
  });

  test('whatever a file holds, it is taken or refused with a sentence', () => {
    const file = packProject({ name: 'Ferries', screens: [], fonts: [] });
    fc.assert(
      fc.property(fc.nat(file.length - 1), fc.nat(255), (at, byte) => {
        const changed = file.slice();
        changed[at] = byte;
        try {
          expect(unpackProject(changed).name).toBe('Ferries');
        } catch (error) {
          expect(error).toBeInstanceOf(Problem);
        }
      }),
    );
  });
});
