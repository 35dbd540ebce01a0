import { describe, expect, test } from 'vitest';
import { Engine } from '@tinfold/core/layout';
import {
  FILL,
  fixed,
  pad,
  plainText,
  textRunsIn,
  unsound,
  walk,
  type Paint,
  type Part,
  type Structure,
} from '@tinfold/core/model';
import { faultsIn, prove, tryWith, TRIALS, TRIAL_NAMES, type Trial } from '@tinfold/core/proof';
import { facesOfRuns } from '@tinfold/core/text';
import { loadMeasurer } from '../../../host/src/fonts.js';
import { column, grid, row, shape, structure, text } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const PAINT: Paint = { fill: { kind: 'solid', colour: '#e3ecea' } };
const card = (words: string): Part => ({
  ...column({ width: FILL, padding: pad(16) }, text(words, { width: FILL })),
  paint: PAINT,
  pattern: 'Sailing card',
});
const board = (): Structure =>
  structure(
    column(
      { width: FILL },
      row({ width: FILL, gap: 'between' }, text('Kittiwake Line'), text('Fares'), {
        ...shape(60, 20),
        kind: 'picture',
        content: { kind: 'picture', fit: 'cover' },
      }),
      grid(
        { columns: { kind: 'count', count: 4 }, width: FILL, gap: 16 },
        card('Marrow Isle'),
        card('Low Tarn'),
        card('Nether Quay'),
        card('Ellin Skerry'),
      ),
    ),
  );
const wordsOf = (s: Structure): string[] =>
  [...walk(s.root)].flatMap((p) => (p.content?.kind === 'text' ? [plainText(p.content)] : []));
const shownCount = (s: Structure): number => [...walk(s.root)].filter((p) => !p.rules.hidden).length;

describe('trials are copies with other content', () => {
  test.each(TRIAL_NAMES)('%s leaves the screen as it is and can stand itself', (name) => {
    const doc = board();
    const before = JSON.stringify(doc);
    const tried = tryWith(doc, TRIALS[name]);
    expect(JSON.stringify(doc)).toBe(before);
    expect(unsound(tried.structure)).toBeUndefined();
    expect(JSON.stringify(tryWith(doc, TRIALS[name]).structure)).toBe(JSON.stringify(tried.structure));
  });

  test('longer text is longer by its share, a long word as long as it says', () => {
    const doc = board();
    for (const percent of [30, 100]) {
      const longer = wordsOf(tryWith(doc, { kind: 'longer-text', percent }).structure);
      wordsOf(doc).forEach((w, i) => {
        const grown = (longer[i]?.length ?? 0) / w.length;
        expect(grown).toBeGreaterThan(1.05);
        expect(grown).toBeLessThan(1.1 + percent / 100);
      });
    }
    const long = wordsOf(tryWith(doc, { kind: 'long-word', letters: 24 }).structure);
    for (const w of long) expect(Math.max(...w.split(' ').map((x) => x.length))).toBe(24);
  });

  test('other scripts have as many letters; a seed decides what is empty or hidden', () => {
    const doc = board();
    const arabic = wordsOf(tryWith(doc, { kind: 'other-script', script: 'arabic' }).structure);
    expect(arabic.map((w) => w.length)).toEqual(wordsOf(doc).map((w) => w.length));
    expect(arabic.every((w) => /^[\p{Script=Arabic}\s]+$/u.test(w))).toBe(true);
    const empty = (seed: number) =>
      wordsOf(tryWith(doc, { kind: 'empty-text', percent: 50, seed }).structure).map((w) => w === '');
    expect(empty(1)).toEqual(empty(1));
    expect(new Set([1, 2, 3, 4].map((s) => empty(s).join())).size).toBeGreaterThan(1);
    const hidden = tryWith(doc, { kind: 'hidden-part', percent: 50, seed: 3 }).structure;
    expect(shownCount(hidden)).toBeLessThan(shownCount(doc));
  });

  test('more and fewer instances, under ids that lead back', () => {
    const doc = board();
    const more = tryWith(doc, { kind: 'more-instances', more: 3 });
    const cards = (s: Structure) => [...walk(s.root)].filter((p) => p.pattern === 'Sailing card');
    expect(cards(more.structure)).toHaveLength(7);
    const ids = new Set([...walk(doc.root)].map((p) => p.id));
    for (const part of walk(more.structure.root))
      expect(ids.has(more.original.get(part.id) ?? part.id)).toBe(true);
    expect(cards(tryWith(doc, { kind: 'fewer-instances', left: 1 }).structure)).toHaveLength(1);
  });

  test('larger type scales words and the tokens that set them', () => {
    const doc: Structure = {
      ...structure(
        column({ width: FILL, gap: 10 }, { ...text('Fares'), bound: { 'text.size': 'body' } }, text('Fleet')),
      ),
      tokens: [
        { kind: 'length', name: 'body', value: 16, below: [{ width: 600, value: 12 }] },
        { kind: 'length', name: 'space', value: 10 },
      ],
    };
    const { structure: larger } = tryWith(doc, { kind: 'larger-type', percent: 200 });
    expect(larger.tokens).toMatchObject([{ value: 32, below: [{ width: 600, value: 24 }] }, { value: 10 }]);
    const [, fleet] = larger.root.children;
    expect(fleet?.content).toMatchObject({ lineHeight: 48, runs: [{ style: { size: 32 } }] });
  });
});

describe('what a trial brings about is told with its name', () => {
  const found = async (doc: Structure, trial: Trial) => {
    const { structure: copy } = tryWith(doc, trial);
    const m = await loadMeasurer(facesOfRuns(textRunsIn(copy.root)));
    return faultsIn(doc, new Engine(m), { trials: { mine: trial } }).filter((f) => f.trial === 'mine');
  };

  test('longer words run out of a label that does not give way', async () => {
    const doc = structure(
      column(
        { width: FILL },
        row({ width: FILL }, { ...text('Leaves', { width: fixed(60) }) }, shape(100, 20)),
      ),
    );
    const faults = await found(doc, { kind: 'long-word', letters: 24 });
    expect(faults[0]).toMatchObject({ kind: 'long-word', trial: 'mine', from: 320, to: 1920 });
    expect(prove(doc, new Engine(await testMeasurer())).faults).toEqual([]);
  });

  test('one more card stands alone; three more do not', async () => {
    const doc = board();
    const lonely = async (more: number) =>
      (await found(doc, { kind: 'more-instances', more })).some((f) => f.kind === 'lonely-card');
    expect([await lonely(1), await lonely(3)]).toEqual([true, false]);
  });

  test('in another script words run from the right, and nothing is told that mirrors the drawing', async () => {
    const doc = structure(
      column({ width: FILL }, row({ width: FILL, gap: 20 }, text('Fares'), text('Fleet'))),
    );
    expect(await found(doc, { kind: 'other-script', script: 'hebrew' })).toEqual([]);
  });

  test('a flat frame has no room for what keeps its height', async () => {
    const doc = structure(
      column({ width: FILL, height: FILL }, shape(200, 300), {
        ...shape(200, 60),
        rules: { width: fixed(200), height: fixed(60), pin: { left: 0, bottom: 0 } },
      }),
      1000,
      700,
    );
    const faults = await found(doc, { kind: 'flat-frame', height: 320 });
    expect(faults.some((f) => f.kind === 'overlap')).toBe(true);
  });

  test('trials combine', () => {
    const both = tryWith(board(), TRIALS['more-instances'], TRIALS['longer-text'], TRIALS.insets);
    expect(both.view.insets).toEqual(TRIALS.insets.insets);
    expect(wordsOf(both.structure)).toHaveLength(9);
    expect(wordsOf(both.structure)[0]?.length).toBeGreaterThan('Kittiwake Line'.length);
  });
});
