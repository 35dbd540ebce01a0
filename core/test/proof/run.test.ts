import { beforeAll, describe, expect, test } from 'vitest';
import { Engine } from '@tinfold/core/layout';
import { FILL, fixed, textRunsIn, type Structure } from '@tinfold/core/model';
import { proofRun, structuresIn, TRIALS, type Fault, type RunNews } from '@tinfold/core/proof';
import { facesOfRuns } from '@tinfold/core/text';
import { loadMeasurer } from '../../../host/src/fonts.js';
import { column, row, shape, structure, text } from '../support/build.js';

const trials = { 'long-word': TRIALS['long-word'], 'right-to-left': TRIALS['right-to-left'] };
/** A box that scrolls sideways up to 398, and a label that a long word runs out of. */
const doc: Structure = structure(
  column(
    { width: FILL },
    shape(400, 20),
    row({ width: FILL }, { ...text('Leaves', { width: fixed(60) }) }, shape(100, 20)),
  ),
);

let engine: Engine;
beforeAll(async () => {
  engine = new Engine(
    await loadMeasurer(facesOfRuns(structuresIn(doc, trials).flatMap((s) => textRunsIn(s.root)))),
  );
});

interface Told {
  readonly news: RunNews;
  readonly faults: readonly Fault[];
}
/** All that a run tells as it goes, and what it comes to. */
function told(): { all: Told[]; faults: readonly Fault[] } {
  const all: Told[] = [];
  const run = proofRun(doc, engine, { trials });
  for (;;) {
    const step = run.next();
    if (step.done) return { all, faults: step.value.faults };
    all.push({ news: step.value, faults: step.value.faults() });
  }
}

describe('a run of the proof', () => {
  test('tells how far it is: each trial after the other, and always further', () => {
    const { all } = told();
    expect([...new Set(all.map(({ news }) => news.trial))]).toEqual([null, 'long-word', 'right-to-left']);
    const done = all.map(({ news }) => news.done);
    expect(done).toEqual(done.toSorted((a, b) => a - b));
    expect(done.at(-1)).toBe(1);
    for (const { news } of all) expect(news.pending[0]).toBe(news.trial);
  });

  test('tells faults as they are found, long before its end', () => {
    const { all, faults } = told();
    const first = all.find((t) => t.faults.length > 0);
    expect(first?.news.done).toBeLessThan(0.1);
    expect(first?.faults[0]).toMatchObject({ kind: 'side-scroll', from: 320 });
    const atLongWord = all.find((t) => t.faults.some((f) => f.trial === 'long-word'));
    expect(atLongWord?.news.pending).toEqual(['long-word', 'right-to-left']);
    expect(atLongWord?.faults).toEqual(expect.arrayContaining(faults.filter((f) => f.trial === null)));
  });

  test('does not tell again in a trial what the screen does anyway', () => {
    const { faults } = told();
    expect(faults.filter((f) => f.kind === 'side-scroll').map((f) => f.trial)).toEqual([null]);
    expect(faults.some((f) => f.trial === 'long-word' && f.kind === 'long-word')).toBe(true);
  });
});
