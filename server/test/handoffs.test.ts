import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import type { Sequelize } from 'sequelize';
import type supertest from 'supertest';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { FORMAT_NAMES } from '@tinfold/core/handoff';
import type { Structure } from '@tinfold/core/model';
import { readSource } from '@tinfold/host/reading';
import { freshAgent } from './database.js';

const SOURCE = readFileSync(new URL('../../demo/boarding-pass-390.svg', import.meta.url), 'utf8');
const NOWHERE = '00000000-0000-4000-8000-000000000000';

describe('what leaves', () => {
  let sequelize: Sequelize;
  let drop: () => Promise<void>;
  let agent: ReturnType<typeof supertest>;
  let screen: string;
  let structure: Structure;

  beforeAll(async () => {
    ({ agent, sequelize, drop } = await freshAgent(inject('postgresUrl')));
    ({ structure } = await readSource(SOURCE, 'Pass'));
    const project = (await agent.post('/api/projects').send({ name: 'Kittiwake Line' })).body as {
      id: string;
    };
    const drawing = { name: 'Pass', width: 390, height: 844, source: SOURCE };
    const made = await agent
      .post(`/api/projects/${project.id}/screens`)
      .send({ name: 'Pass / boarding', drawing, structure });
    screen = (made.body as { id: string }).id;
  });
  afterAll(async () => {
    await sequelize.close();
    await drop();
  });

  const handOver = (body: object) => agent.post(`/api/screens/${screen}/handoffs`).send(body);
  const zip = async (id: string) => {
    const response = await agent
      .get(`/api/handoffs/${id}/files.zip`)
      .buffer(true)
      .parse((r, done) => {
        const chunks: Buffer[] = [];
        r.on('data', (c: Buffer) => chunks.push(c));
        r.on('end', () => {
          done(null, Buffer.concat(chunks));
        });
      });
    return { response, files: response.body as Buffer };
  };

  test('nothing was handed over yet', async () => {
    expect((await agent.get(`/api/screens/${screen}/handoffs`)).body).toEqual({ handoffs: [], last: null });
  });

  test('is kept as it was, and gives the same files whatever is changed afterwards', async () => {
    const made = await handOver({ revision: 0, formats: FORMAT_NAMES, widths: [390, 1024] });
    expect(made.status).toBe(201);
    const { id } = made.body as { id: string };
    const first = await zip(id);
    expect(first.response.headers['content-disposition']).toContain('Pass boarding rev 0.zip');
    const names = Object.keys(unzipSync(first.files));
    expect(names).toEqual(
      expect.arrayContaining([
        'html/index.html',
        'spec/spec.html',
        'html/fonts/inter-latin-400-normal.woff2',
      ]),
    );
    expect(names.filter((n) => n.startsWith('svg/'))).toHaveLength(2);
    const set = { kind: 'setRules', parts: [{ id: structure.root.id, set: { gap: 90 } }] };
    await agent.post(`/api/screens/${screen}/steps`).send({ revision: 0, label: 'gap', steps: [set] });
    expect((await zip(id)).files.equals(first.files)).toBe(true);
    const told = (await agent.get(`/api/screens/${screen}/handoffs`)).body as {
      handoffs: object[];
      last: Structure;
    };
    expect(told.handoffs).toMatchObject([{ id, revision: 0, widths: [390, 1024] }]);
    expect(told.last).toEqual(structure);
  });

  test('what is not what was looked at, or no format, is refused with a sentence', async () => {
    const late = await handOver({ revision: 0, formats: ['html'], widths: [390] });
    expect([late.status, (late.body as { detail: string }).detail]).toEqual([
      409,
      expect.stringContaining('look at it again'),
    ]);
    expect((await handOver({ revision: 1, formats: ['pdf'], widths: [390] })).status).toBe(400);
    expect((await handOver({ revision: 1, formats: [], widths: [390] })).status).toBe(400);
    expect((await agent.get(`/api/handoffs/${NOWHERE}/files.zip`)).status).toBe(404);
    expect((await agent.get(`/api/screens/${NOWHERE}/handoffs`)).status).toBe(404);
  });
});
