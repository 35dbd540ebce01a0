/**
 * How long saves take on loopback: one client's one after the other, and those of 50 clients that edit 20 screens for 60 s, each
 * rebasing where another came first. `node … bench/saves.ts SECONDS` for a shorter run.
 */
import { performance } from 'node:perf_hooks';
import { once } from 'node:events';
import { startTemporaryPostgres } from '../scripts/lib/postgres.mjs';
import { startProcess } from '../server/test/processes.js';
import { cardsStructure } from './support.js';

const SECONDS = Number(process.argv[2] ?? 60);
const CLIENTS = 50;
const SCREENS = 20;
/** How long a client looks at what it did before its next edit, ms: a hand that is quick. */
const PAUSE = 1000;
const ALONE = 300;

const structure = cardsStructure(200);
const postgres = await startTemporaryPostgres();
const { child: server, line: url } = await startProcess('serving', postgres.url);

async function ask(method: string, path: string, body?: object) {
  const response = await fetch(`${url}/api${path}`, {
    method,
    ...(body && { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
  });
  return { status: response.status, body: (await response.json()) as { id: string; revision: number } };
}

const edit = (revision: number) => ({
  revision,
  label: 'gap',
  steps: [{ kind: 'setRules', parts: [{ id: structure.root.id, set: { gap: revision % 40 } }] }],
});

const { id: project } = (await ask('POST', '/projects', { name: 'Kittiwake Line' })).body;
const drawing = { name: 'Board', width: 1280, height: 900, source: '<svg/>' };
const screens = await Promise.all(
  Array.from({ length: SCREENS }, async (_, i) => {
    const made = await ask('POST', `/projects/${project}/screens`, {
      name: `Board ${i}`,
      drawing,
      structure,
    });
    return made.body.id;
  }),
);

const quantile = (times: readonly number[], q: number): string =>
  (times.toSorted((a, b) => a - b)[Math.floor(times.length * q)] ?? NaN).toFixed(1);

const alone: number[] = [];
for (let revision = 0; revision < ALONE; revision++) {
  const from = performance.now();
  await ask('POST', `/screens/${screens[0]}/steps`, edit(revision));
  alone.push(performance.now() - from);
}

const many: number[] = [];
const errors: number[] = [];
const end = performance.now() + SECONDS * 1000;
await Promise.all(
  Array.from({ length: CLIENTS }, async (_, i) => {
    const screen = screens[i % SCREENS];
    let revision = 0;
    await new Promise((resolve) => setTimeout(resolve, (i / CLIENTS) * PAUSE));
    while (performance.now() < end) {
      const from = performance.now();
      const { status, body } = await ask('POST', `/screens/${screen}/steps`, edit(revision));
      many.push(performance.now() - from);
      // One that comes too late is told where the screen is, and is sent again on top of it.
      revision = body.revision;
      if (status !== 200 && status !== 409) errors.push(status);
      if (status !== 409) await new Promise((resolve) => setTimeout(resolve, PAUSE));
    }
  }),
);
console.table(
  [
    { who: 'one client', times: alone },
    { who: `${CLIENTS} clients on ${SCREENS} screens`, times: many },
  ].map(({ who, times }) => ({
    who,
    saves: times.length,
    'median ms': quantile(times, 0.5),
    '99 % ms': quantile(times, 0.99),
  })),
);
console.log(`${errors.length} errors`);
server.kill();
await once(server, 'exit');
await postgres.stop();
