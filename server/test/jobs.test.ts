import { readFileSync } from 'node:fs';
import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { TRIAL_NAMES } from '@tinfold/core/proof';
import { freshDatabase } from './database.js';
import { startProcess, type Started } from './processes.js';

const PASS = readFileSync(new URL('../../demo/boarding-pass-390.svg', import.meta.url), 'utf8');
const BOARD = readFileSync(new URL('../../demo/departures-1280.svg', import.meta.url), 'utf8');
const WAIT = { timeout: 60_000, interval: 200 };

interface JobView {
  readonly id: string;
  readonly kind: string;
  readonly name: string;
  readonly state: string;
  readonly progress: number;
  readonly said: string | null;
  readonly screens: readonly string[];
  readonly proof: {
    readonly revision: number;
    readonly trials: readonly string[];
    readonly errors: number;
  } | null;
}

describe('long work with two servers and two workers on one database', { timeout: 300_000 }, () => {
  let database: Awaited<ReturnType<typeof freshDatabase>>;
  let servers: Started[] = [];
  let workers: Started[] = [];
  let turn = 0;

  beforeAll(async () => {
    database = await freshDatabase(inject('postgresUrl'));
    servers = await Promise.all([0, 1].map(() => startProcess('serving', database.url)));
    workers = await Promise.all([0, 1].map(() => startProcess('working', database.url)));
  });
  afterAll(async () => {
    for (const { child } of [...servers, ...workers]) child.kill('SIGKILL');
    await database.drop();
  });

  /** What a balancer does: each request to the next server, and one that does not answer is left out. */
  async function ask(
    method: string,
    path: string,
    body?: object,
  ): Promise<{ status: number; body: unknown }> {
    for (let left = servers.length; left > 0; left--) {
      const { line: url } = servers[turn++ % servers.length] as Started;
      try {
        const response = await fetch(`${url}/api${path}`, {
          method,
          ...(body && { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
        });
        const text = await response.text();
        return { status: response.status, body: text === '' ? undefined : (JSON.parse(text) as unknown) };
      } catch (error) {
        if (left === 1) throw error;
      }
    }
    throw new Error('There is no server.');
  }
  const newProject = async () =>
    ((await ask('POST', '/projects', { name: 'Kittiwake Line' })).body as { id: string }).id;
  const jobsOf = async (project: string) => (await ask('GET', `/projects/${project}/jobs`)).body as JobView[];
  const statesOf = async (project: string) => (await jobsOf(project)).map((j) => j.state);
  const screensOf = async (project: string) =>
    ((await ask('GET', `/projects/${project}`)).body as { screens: { id: string; name: string }[] }).screens;
  const read = async (project: string, name: string, source: string) => {
    const { status, body } = await ask('POST', `/projects/${project}/readings`, {
      name,
      source,
    });
    expect(status).toBe(202);
    return (body as { id: string }).id;
  };

  test('files are read; one that cannot be read is told and can be tried again', async () => {
    const project = await newProject();
    await read(project, 'boarding-pass-390.svg', PASS);
    const broken = await read(project, 'broken.svg', 'this is no drawing');
    await expect.poll(() => statesOf(project), WAIT).toEqual(['done', 'failed']);
    const [pass, wrong] = await jobsOf(project);
    expect(pass).toMatchObject({ kind: 'reading', progress: 1, said: null, proof: null });
    expect(wrong?.said).toMatch(/no drawing|not a drawing|cannot be read/i);
    const screens = await screensOf(project);
    expect(screens.map((s) => s.id)).toEqual(pass?.screens);
    const opened = await ask('GET', `/screens/${screens[0]?.id}`);
    const screen = opened.body as { structure: { root: { children: unknown[] } }; drawings: unknown[] };
    expect(screen.structure.root.children.length).toBeGreaterThan(0);
    expect(screen.drawings).toMatchObject([{ width: 390, source: PASS }]);
    expect((await ask('POST', `/jobs/${pass?.id}/retry`)).status).toBe(422);
    expect((await ask('POST', `/jobs/${broken}/retry`)).status).toBe(202);
    await expect.poll(() => statesOf(project), WAIT).toEqual(['done', 'failed']);
    expect((await ask('DELETE', `/jobs/${broken}`)).status).toBe(204);
    expect(await jobsOf(project)).toHaveLength(1);
  });

  test('all screens of a project are proved in all trials, and the runs are kept', async () => {
    const project = await newProject();
    await read(project, 'boarding-pass-390.svg', PASS);
    await expect.poll(() => statesOf(project), WAIT).toEqual(['done']);
    expect((await ask('POST', `/projects/${project}/proofs`)).status).toBe(202);
    await expect.poll(() => statesOf(project), WAIT).toEqual(['done', 'done']);
    const proof = (await jobsOf(project)).find((j) => j.kind === 'proof');
    expect(proof?.proof).toMatchObject({ revision: 0, trials: TRIAL_NAMES });
    const [screen] = await screensOf(project);
    const runs = (await ask('GET', `/screens/${screen?.id}/proofs`)).body as { trials: string[] }[];
    expect(runs).toEqual([proof?.proof]);
  });

  test('what is taken away while it is done leaves nothing behind', async () => {
    const project = await newProject();
    const id = await read(project, 'departures-1280.svg', BOARD);
    await expect.poll(() => statesOf(project), WAIT).toEqual(['running']);
    expect((await ask('DELETE', `/jobs/${id}`)).status).toBe(204);
    await read(project, 'boarding-pass-390.svg', PASS);
    await expect.poll(() => statesOf(project), WAIT).toEqual(['done']);
    await sleep(2000);
    expect(await screensOf(project)).toHaveLength(1);
  });

  test('one of each is killed at work: the others do all of it, each once', async () => {
    const project = await newProject();
    const names = ['Stern', 'Bow', 'Lee', 'Luff', 'Keel', 'Helm'];
    for (const name of names)
      await read(project, `${name}-1280.svg`, BOARD.replace(/<title>[^<]*<\/title>/, ''));
    await expect.poll(() => statesOf(project), WAIT).toContain('running');
    const [doomedServer] = servers;
    const [doomedWorker] = workers;
    doomedServer?.child.kill('SIGKILL');
    doomedWorker?.child.kill('SIGKILL');
    await expect
      .poll(() => statesOf(project), { ...WAIT, timeout: 240_000 })
      .toEqual(names.map(() => 'done'));
    const screens = await screensOf(project);
    expect(screens.map((s) => s.name).sort()).toEqual([...names].sort());
    // One that is told to end finishes what it is at.
    const [, other] = workers;
    other?.child.kill('SIGTERM');
    await expect.poll(() => other?.child.exitCode, WAIT).toBe(0);
  });
});
