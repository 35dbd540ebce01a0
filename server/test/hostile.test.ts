import fc from 'fast-check';
import type { Sequelize } from 'sequelize';
import type supertest from 'supertest';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { column, structure, text } from '../../core/test/support/build.js';
import { NEEDS } from '../src/access/needs.js';
import type { Queue } from '../src/jobs/queue.js';
import { freshAgentWithQueue } from './database.js';

/** So many requests are made; the whole number with `HOSTILE_REQUESTS=3000`. */
const REQUESTS = Number(process.env['HOSTILE_REQUESTS'] ?? 300);

type Json = string | number | boolean | null | readonly Json[] | { readonly [key: string]: Json };

const doc = JSON.parse(JSON.stringify(structure(column({ gap: 8 }, text('Low Tarn'))))) as Json;
const drawing = { name: 'Board', width: 1000, height: 600, source: '<svg/>' };

/** What a route takes when it is asked rightly; `:p` and `:s` stand for a project and a screen that are there. */
const ROUTES: readonly (readonly ['post' | 'put' | 'patch', string, Json])[] = [
  ['post', '/api/projects', { name: 'Kittiwake Line' }],
  ['patch', '/api/projects/:p', { name: 'Another' }],
  ['put', '/api/projects/:p/order', { screens: ['7b0f3a52-1111-4000-8000-000000000000'] }],
  ['post', '/api/projects/:p/screens', { name: 'Board', drawing, structure: doc }],
  ['patch', '/api/screens/:s', { name: 'Another' }],
  [
    'post',
    '/api/screens/:s/steps',
    { revision: 0, label: 'x', steps: [{ kind: 'rename', id: 'a', name: 'b' }] },
  ],
  ['put', '/api/screens/:s/structure', { revision: 0, structure: doc }],
  ['put', '/api/screens/:s/expectations', { expectations: ['no side scroll'] }],
  [
    'put',
    '/api/screens/:s/left',
    { left: [{ kind: 'overlap', part: 'a', from: 320, to: 400, reason: 'so' }] },
  ],
  [
    'post',
    '/api/screens/:s/proofs',
    { revision: 0, from: 320, to: 1920, trials: ['long text'], errors: 1, warnings: 2, notes: 3 },
  ],
  ['post', '/api/projects/:p/readings', { name: 'board.svg', source: '<svg/>' }],
  ['post', '/api/projects/:p/invitations', { role: 'viewer' }],
  ['put', '/api/projects/:p/people/7b0f3a52-1111-4000-8000-000000000000', { role: 'viewer' }],
  ['post', '/api/screens/:s/handoffs', { revision: 0, formats: ['json'], widths: [1000] }],
  ['put', '/api/screens/:s/revisions/0/name', { name: 'As drawn' }],
  ['post', '/api/screens/:s/revisions/0/restore', { revision: 0 }],
  ['post', '/api/screens/:s/links', { days: 7 }],
  ['post', '/api/session', { name: 'mate', password: 'tide table 1907' }],
];

/** Routes that write without a body in JSON, or to which one comes only with a token. */
const WITHOUT = [
  'post /projects/file',
  'post /projects/:id/fonts',
  'post /projects/:id/copy',
  'post /projects/:id/restore',
  'post /projects/:id/proofs',
  'post /screens/:id/copy',
  'post /screens/:id/restore',
  'post /jobs/:id/retry',
  'post /invitations/:token',
];

/** The ways to every value in a body. */
function waysIn(value: Json, way: readonly (string | number)[] = []): (readonly (string | number)[])[] {
  if (typeof value !== 'object' || value === null) return [way];
  const inner = Object.entries(value).flatMap(([k, v]) =>
    waysIn(v, [...way, Array.isArray(value) ? Number(k) : k]),
  );
  return [way, ...inner];
}

function withAt(value: Json, [key, ...rest]: readonly (string | number)[], put: Json): Json {
  if (key === undefined) return put;
  if (Array.isArray(value)) return value.map((v: Json, i) => (i === key ? withAt(v, rest, put) : v));
  const object = value as { readonly [key: string]: Json };
  return { ...object, [key]: withAt(object[key] ?? null, rest, put) };
}

const deep = (depth: number): Json => (depth === 0 ? 1 : [deep(depth - 1)]);
const kindOf = (v: Json | undefined): string => (Array.isArray(v) ? 'array' : typeof v);
const at = (value: Json, way: readonly (string | number)[]): Json =>
  way.reduce<Json>((v, key) => (v as { readonly [key: string]: Json })[key as string] ?? null, value);

/** Values of a sort that stands nowhere at a place. */
const WRONG: readonly Json[] = [{ toString: 'x' }, [[]], 'no such word', true, null, -1e300, deep(60)];

/** A body that is wrong somewhere, as JSON text. */
const wrongBody = (right: Json): fc.Arbitrary<string> =>
  fc.oneof(
    fc
      .tuple(fc.constantFrom(...waysIn(right)), fc.constantFrom(...WRONG))
      .filter(([way, put]) => kindOf(at(right, way)) !== kindOf(put))
      .map(([way, put]) => JSON.stringify(withAt(right, way, put))),
    fc
      .constantFrom('__proto__', 'constructor', 'hasOwnProperty', 'extra')
      .map((key) => `{${JSON.stringify(key)}:{"polluted":true},${JSON.stringify(right).slice(1)}`),
    fc.constantFrom('', '{', '[', 'null', '7', '"x"', '{"name":"\\u0000"}', '{"name":1e999}', '[{}]'),
    fc.constant(JSON.stringify(deep(3000))),
  );

const ids = fc.constantFrom(
  ':p',
  ':s',
  '7b0f3a52-1111-4000-8000-000000000000',
  '..%2f..%2fetc',
  '%00',
  '%ff',
  '__proto__',
  "' OR 1=1 --",
  'x'.repeat(3000),
);

describe('requests that are wrong', () => {
  let sequelize: Sequelize;
  let queue: Queue;
  let drop: () => Promise<void>;
  let agent: ReturnType<typeof supertest>;
  let project: string;
  let screen: string;

  beforeAll(async () => {
    ({ agent, sequelize, queue, drop } = await freshAgentWithQueue(inject('postgresUrl')));
    project = ((await agent.post('/api/projects').send({ name: 'Kittiwake Line' })).body as { id: string })
      .id;
    const made = await agent
      .post(`/api/projects/${project}/screens`)
      .send({ name: 'Board', drawing, structure: doc });
    screen = (made.body as { id: string }).id;
  });
  afterAll(async () => {
    await queue.close();
    await sequelize.close();
    await drop();
  });

  test('there is a right body to make wrong for every route that takes one', () => {
    const written = NEEDS.filter(([method]) => method !== 'get' && method !== 'delete').map(
      ([method, path]) => `${method} ${path}`,
    );
    const lines = ROUTES.map(
      ([method, path]) =>
        `${method} ${path
          .replace('/api', '')
          .replace(/:[ps]/, ':id')
          .replace(/people\/.*/, 'people/:account')
          .replace('revisions/0', 'revisions/:revision')}`,
    );
    expect([...lines, ...WITHOUT].sort()).toEqual(written.sort());
  });

  const address = (path: string): string => path.replace(':p', project).replace(':s', screen);
  /** Every row of every table, as one number. */
  const everything = async (): Promise<unknown> => {
    const tables = [
      ...['projects', 'screens', 'drawings', 'steps', 'snapshots', 'fonts', 'proofs'],
      ...['jobs', 'handoffs', 'links', 'invitations', 'members', 'accounts', 'sessions', 'revision_names'],
    ];
    const sums = tables.map(
      (t) => `(SELECT md5(coalesce(string_agg(r::text, '|' ORDER BY r::text), '')) FROM ${t} r)`,
    );
    const [rows] = await sequelize.query(`SELECT ${sums.map((s, i) => `${s} AS t${i}`).join(', ')}`);
    return rows;
  };

  test('get an answer that says so, never one of a broken server, and change nothing', async () => {
    const before = await everything();
    const request = fc.constantFrom(...ROUTES).chain(([method, path, right]) =>
      fc.record({
        method: fc.constant(method),
        path: fc.oneof(
          { weight: 4, arbitrary: fc.constant(path) },
          { weight: 1, arbitrary: ids.map((id) => path.replace(/:[ps]/, id)) },
        ),
        body: wrongBody(right),
        type: fc.oneof(
          { weight: 8, arbitrary: fc.constant('application/json') },
          {
            weight: 1,
            arbitrary: fc.constantFrom(
              'text/plain',
              'application/json; charset=utf-7',
              'multipart/form-data',
            ),
          },
        ),
      }),
    );
    for (const { method, path, body, type } of fc.sample(request, { numRuns: REQUESTS, seed: 16 })) {
      const answer = await agent[method](address(path)).set('content-type', type).send(body);
      const what = `${method} ${path.slice(0, 80)} ${type} ${body.slice(0, 200)}: ${answer.status} ${answer.text.slice(0, 200)}`;
      expect(answer.status, what).toBeGreaterThanOrEqual(400);
      expect(answer.status, what).toBeLessThan(500);
      expect(answer.headers['content-type'], what).toContain('application/problem+json');
    }
    expect(await everything()).toEqual(before);
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
  }, 300_000);

  test('so do bytes that are no text, and addresses that are none', async () => {
    const bytes = Buffer.from([0x7b, 0x22, 0xff, 0xfe, 0x22, 0x3a, 0x31, 0x7d]);
    const answers = [
      await agent
        .post('/api/projects')
        .set('content-type', 'application/json')
        .send(bytes.toString('latin1')),
      await agent
        .post('/api/projects')
        .set('content-encoding', 'zstd')
        .set('content-type', 'application/json')
        .send('{}'),
      await agent.get('/api/screens/%ff'),
      await agent.get('/%E0%A4%A'),
      await agent.get(`/api/screens/${screen}/steps?after=1&after=2`),
      await agent.get(`/api/screens/${screen}/steps?after[$gt]=1`),
      await agent.get('/fonts/..%2f..%2fpackage.json'),
    ];
    expect(answers.map((a) => a.status).filter((s) => s < 400 || s >= 500)).toEqual([]);
  });
});
