import { readFileSync } from 'node:fs';
import type { Sequelize } from 'sequelize';
import type supertest from 'supertest';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { applySteps, type Structure } from '@tinfold/core/model';
import { readSource } from '@tinfold/host/reading';
import { freshAgent } from './database.js';

const SOURCE = readFileSync(new URL('../../demo/boarding-pass-390.svg', import.meta.url), 'utf8');

interface Told {
  readonly revision: number;
  readonly more: boolean;
  readonly revisions: readonly {
    readonly revision: number;
    readonly label: string;
    readonly name: string | null;
  }[];
}

describe('what a screen was before', () => {
  let sequelize: Sequelize;
  let drop: () => Promise<void>;
  let agent: ReturnType<typeof supertest>;
  let at: string;
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
      .send({ name: 'Pass', drawing, structure });
    at = `/api/screens/${(made.body as { id: string }).id}`;
  });
  afterAll(async () => {
    await sequelize.close();
    await drop();
  });

  const gap = (px: number) => ({
    kind: 'setRules' as const,
    parts: [{ id: structure.root.id, set: { gap: px } }],
  });
  const told = async (query = ''): Promise<Told> => (await agent.get(`${at}/revisions${query}`)).body as Told;
  const then = async (revision: number) =>
    ((await agent.get(`${at}/revisions/${revision}`)).body as { structure: Structure }).structure;

  test('every revision is there as it was, over snapshots and readings', async () => {
    // More than a snapshot is kept for, a reading in the middle, and edits after it.
    for (let n = 0; n < 60; n++)
      await agent.post(`${at}/steps`).send({ revision: n, label: `gap ${n}`, steps: [gap(n)] });
    const other = applySteps(structure, [gap(500)]);
    if (!other.ok) throw new Error(other.reason);
    const read = await agent
      .put(`${at}/structure`)
      .send({ revision: 60, structure: other.doc, asRead: structure });
    expect(read.body).toEqual({ revision: 61 });
    await agent.post(`${at}/steps`).send({ revision: 61, label: 'gap 7', steps: [gap(7)] });
    const gaps = await Promise.all(
      [1, 49, 50, 51, 60, 61, 62].map(async (r) => (await then(r)).root.rules.gap),
    );
    expect(gaps).toEqual([0, 48, 49, 50, 59, 500, 7]);
    expect(await then(0)).toEqual(structure);
    const { revisions, revision, more } = await told();
    expect([revision, more, revisions.length]).toEqual([62, false, 63]);
    expect(revisions.slice(0, 3).map((r) => r.label)).toEqual([
      'gap 7',
      'Read again from its drawing',
      'gap 59',
    ]);
    expect(revisions.at(-1)).toMatchObject({ revision: 0, label: 'Read from its drawing', name: null });
    expect((await told('?before=10')).revisions[0]?.revision).toBe(9);
  });

  test('one is named, and its name taken away', async () => {
    expect((await agent.put(`${at}/revisions/50/name`).send({ name: 'Before the trial' })).status).toBe(204);
    expect((await told()).revisions.find((r) => r.revision === 50)?.name).toBe('Before the trial');
    await agent.put(`${at}/revisions/50/name`).send({ name: '' });
    expect((await told()).revisions.find((r) => r.revision === 50)?.name).toBe(null);
  });

  test('one is put in place again as a new revision, on which work goes on', async () => {
    const before = await then(20);
    const made = await agent.post(`${at}/revisions/20/restore`).send({ revision: 62 });
    expect(made.body).toEqual({ revision: 63 });
    const screen = (await agent.get(at)).body as { structure: Structure; asRead: Structure };
    expect(screen.structure).toEqual(before);
    expect(screen.asRead).toEqual(structure);
    expect((await told()).revisions[0]?.label).toBe('As it was at rev 20');
    expect(
      (await agent.post(`${at}/steps`).send({ revision: 63, label: 'gap', steps: [gap(1)] })).status,
    ).toBe(200);
    expect((await then(62)).root.rules.gap).toBe(7);
  });

  test('what is not there, or was changed meanwhile, is told in a sentence', async () => {
    expect((await agent.get(`${at}/revisions/900`)).status).toBe(404);
    expect((await agent.get(`${at}/revisions/x`)).status).toBe(400);
    expect((await agent.put(`${at}/revisions/3/name`).send({ name: 'a\0b' })).status).toBe(400);
    expect((await agent.put(`${at}/revisions/900/name`).send({ name: 'x' })).status).toBe(404);
    expect((await agent.post(`${at}/revisions/3/restore`).send({ revision: 1 })).status).toBe(409);
  });
});
