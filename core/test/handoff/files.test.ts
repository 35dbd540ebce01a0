import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { measureDrawing, readSvg, type Drawing } from '@tinfold/core/drawing';
import {
  changesSince,
  exportAs,
  exportReact,
  exportSvg,
  FORMAT_NAMES,
  RULE_LABELS,
  sayRules,
  zipOf,
  type Tools,
} from '@tinfold/core/handoff';
import { readStructure } from '@tinfold/core/infer';
import { Engine, standingBoxes } from '@tinfold/core/layout';
import { distance } from '@tinfold/core/proof';
import {
  applyStep,
  checkAll,
  fixed,
  RULE_NAMES,
  structureFromJson,
  type Part,
  type Structure,
} from '@tinfold/core/model';
import { fromDesignTokens } from '@tinfold/core/tokens';
import { anyStructure } from '../support/arbitrary.js';
import { column, named, row, shape, structure, text } from '../support/build.js';
import { testMeasurer } from '../support/fonts.js';

const measurer = await testMeasurer();
const engine = new Engine(measurer);
const tools: Tools = { engine, measurer, fonts: [], widths: [390, 1280] };
const DEMO = new URL('../../../demo/', import.meta.url);
const demo = (name: string): Drawing =>
  measureDrawing(readSvg(readFileSync(new URL(name, DEMO), 'utf8'), name), measurer);
const wordsIn = (file: { readonly text: string | Uint8Array } | undefined): string =>
  String(file?.text ?? '');

describe('a drawing that leaves and comes back', () => {
  test.each(['departures-1280.svg', 'departures-390.svg', 'boarding-pass-390.svg'])(
    '%s has every item within half a px of where it stands',
    (name) => {
      const drawing = demo(name);
      const read = readStructure(drawing, measurer);
      const file = exportSvg(read, drawing.width, engine, measurer);
      const back = measureDrawing(readSvg(file.text, 'back'), measurer);
      const stands = standingBoxes(read, drawing.width, engine);
      expect(back.items).toHaveLength(drawing.items.length);
      for (const { id, kind } of drawing.items) {
        const box = stands.get(id);
        const off = back.items.flatMap((b) => (box && b.kind === kind ? [distance(box, b.box)] : []));
        expect(Math.min(...off), id).toBeLessThan(0.5);
      }
    },
  );

  test('whatever is painted is a drawing that can be read', () => {
    fc.assert(
      fc.property(anyStructure(3), (doc) => {
        const { text: svg } = exportSvg(doc, 700, engine, measurer);
        expect(readSvg(svg, 'Screen').width).toBe(700);
      }),
      { numRuns: 40 },
    );
  });
});

describe('the files of a screen', () => {
  const card = (words: string, badge: boolean): Part => ({
    ...named(
      `${words} tile`,
      column(
        { gap: 4 },
        text(words),
        text('38 min'),
        ...(badge ? [named('Full tag', row({}, text('full')))] : []),
      ),
    ),
    pattern: 'Sailing tile',
  });
  const board = structure(
    named(
      'Board',
      column({ gap: 8 }, card('Marrow Isle', false), card('Low Tarn', true), card('Nether Quay', false)),
    ),
  );

  test('are the same each time, byte for byte, one format or all in a zip', () => {
    const all = () =>
      FORMAT_NAMES.flatMap((f) => exportAs(f, board, tools).map((o) => ({ ...o, name: `${f}/${o.name}` })));
    expect(zipOf(all())).toEqual(zipOf(all()));
    const files = unzipSync(zipOf(all()));
    expect(Object.keys(files).sort()).toEqual(
      all()
        .map((f) => f.name)
        .sort(),
    );
    expect(new TextDecoder().decode(files['html/index.html'])).toBe(
      wordsIn(exportAs('html', board, tools)[0]),
    );
  });

  test('a pattern is written once, with the slots in which its copies differ and no others', () => {
    const files = exportReact(board);
    const tile = wordsIn(files.find((f) => f.name === 'components/SailingTile.tsx'));
    expect(tile).toMatch(
      /\{ heading, withFullTag \}: SailingTileProps|\{ withFullTag, heading \}: SailingTileProps/,
    );
    expect(tile).toContain('38 min');
    const screen = wordsIn(files[0]);
    expect(screen.match(/<SailingTile/g)).toHaveLength(3);
    expect(screen).toContain('<SailingTile heading="Low Tarn" withFullTag />');
    expect(wordsIn(exportAs('elements', board, tools)[0])).toContain(
      '<sailing-tile heading="Low Tarn" with-full-tag="">',
    );
  });

  test('words of a drawing are words of the code, whatever stands in them', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, unit: 'grapheme' }), (words) => {
        const tsx = wordsIn(exportReact(structure(column({}, text(words))))[0]);
        const said = /<(?:p|h1)[^>]*>([\s\S]*)<\/(?:p|h1)>/.exec(tsx)?.[1] ?? '';
        expect(said.startsWith('{') ? JSON.parse(said.slice(1, -1)) : said).toBe(words);
      }),
    );
  });

  test('the document and the tokens come back as they were', () => {
    fc.assert(
      fc.property(anyStructure(2), (doc) => {
        fc.pre(checkAll(doc).length === 0);
        expect(structureFromJson(JSON.parse(wordsIn(exportAs('json', doc, tools)[0])))).toEqual(doc);
        expect(fromDesignTokens(wordsIn(exportAs('tokens', doc, tools)[0])).tokens).toEqual(doc.tokens);
      }),
      { numRuns: 30 },
    );
    const schema = JSON.parse(wordsIn(exportAs('json', board, tools)[1])) as { required: string[] };
    expect(schema.required).toContain('root');
  });

  test('the specification tells each part once, with its rules, ranges and tokens', () => {
    const doc: Structure = {
      ...board,
      root: { ...board.root, below: [{ width: 600, rules: { gap: 4 } }], bound: { 'padding.left': 'space' } },
      tokens: [{ kind: 'length', name: 'space', value: 24, below: [{ width: 600, value: 16 }] }],
    };
    const spec = wordsIn(exportAs('spec', doc, tools)[0]);
    expect(spec.match(/3 copies/g)).toHaveLength(1);
    expect(spec).toContain('<dt>gap</dt><dd>8 px</dd>');
    expect(spec).toContain('<h4>Below 600</h4><dl><dt>gap</dt><dd>4 px</dd></dl>');
    expect(spec).toContain('below 600: 16 px');
  });
});

describe('what has changed since', () => {
  const doc = structure(
    named('Board', column({ gap: 8 }, named('Heading', text('Next sailings')), named('Line', shape(9, 1)))),
  );

  test('is told part by part, and nothing where nothing has', () => {
    expect(changesSince(doc, doc)).toEqual([]);
    const [heading, line] = doc.root.children as [Part, Part];
    const steps = applyStep(doc, {
      kind: 'several',
      steps: [
        { kind: 'setRules', parts: [{ id: doc.root.id, set: { gap: 12 } }] },
        { kind: 'setRules', below: 600, parts: [{ id: heading.id, set: { hidden: true } }] },
        { kind: 'remove', id: line.id },
        { kind: 'insert', parent: doc.root.id, at: 1, part: { ...shape(3, 3), id: 'fresh', name: 'Mark' } },
        { kind: 'token', name: 'space', to: { kind: 'length', name: 'space', value: 8 } },
      ],
    });
    if (!steps.ok) throw new Error(steps.reason);
    expect(changesSince(doc, steps.doc).map(({ name, says }) => `${name}: ${says.join('; ')}`)).toEqual([
      'Board: gap: 8 px → 12 px',
      'Heading: below 600: hidden: nothing → yes',
      'Mark: new, in “Board”',
      'Line: gone',
      'space: new token: 8',
    ]);
  });

  test('every rule is said in words', () => {
    expect(Object.keys(RULE_LABELS).sort()).toEqual([...RULE_NAMES].sort());
    expect(sayRules({ width: fixed(240), maxWidth: null })).toEqual([
      ['width', '240 px'],
      ['at most wide', 'no more'],
    ]);
  });
});
