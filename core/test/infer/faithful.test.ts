import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { facesOf, measureDrawing, readSvg, type Drawing } from '@tinfold/core/drawing';
import { readStructure } from '@tinfold/core/infer';
import { deviations, EXACT } from '@tinfold/core/proof';
import { Engine, reflow, textBox } from '@tinfold/core/layout';
import { checkAll, FIT, walk, type Part } from '@tinfold/core/model';
import type { TextMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from '../../../host/src/fonts.js';
import { expectOfMost, MINUTES, pageCases, patternCases } from '../support/benchmark.js';
import { soundRoot } from '../support/arbitrary.js';
import { testMeasurer } from '../support/fonts.js';

const DEMO = new URL('../../../demo/', import.meta.url);

/** No reading may move anything further than this and call it a snap, px. */
const WORST_SNAP = 5;

function expectFaithful(drawing: Drawing, measurer: TextMeasurer): void {
  const structure = readStructure(drawing, measurer);
  expect(checkAll(structure)).toEqual([]);
  const limit = Math.max(EXACT, structure.snap);
  const off = deviations(structure, drawing, new Engine(measurer)).filter((d) => !(d.by <= limit));
  expect(off).toEqual([]);
  expect(structure.snap).toBeLessThanOrEqual(WORST_SNAP);
}

const named = (file: URL) => ({ name: file.pathname.split('/').slice(-2).join('/'), file });
const files = [
  ...readdirSync(DEMO)
    .filter((f) => f.endsWith('.svg'))
    .map((f) => new URL(f, DEMO)),
  ...patternCases.flatMap((c) => c.files),
].map(named);
const pages = pageCases.flatMap((c) => c.files).map(named);

async function expectFileFaithful(file: URL): Promise<void> {
  const raw = readSvg(readFileSync(file, 'utf8'), 'Screen');
  const measurer = await loadMeasurer(facesOf(raw));
  expectFaithful(measureDrawing(raw, measurer), measurer);
}

/** A tree such as a designer would build: nothing lies over or out of anything else. */
function plain(part: Part): Part {
  const {
    pin: _pin,
    gapBefore: _before,
    minHeight: _min,
    maxHeight: _max,
    maxLines: _lines,
    scroll: _scroll,
    givesWay: _gives,
    cell: _cell,
    rows: _rows,
    autoRows: _auto,
    ...rules
  } = part.rules;
  const isText = part.kind === 'text';
  const gap = typeof rules.gap === 'number' ? Math.max(0, rules.gap) : rules.gap;
  const sized = isText || part.kind === 'container' ? { height: FIT } : {};
  const children = part.children.filter((c) => !c.rules.pin).map(plain);
  return {
    ...part,
    children,
    rules: { ...rules, ...(gap !== undefined && { gap }), ...sized, ...(isText && { width: FIT }) },
  };
}

/** A laid-out tree drawn at fixed places, as an exporter would write it. */
function drawn(root: Part, width: number, measurer: TextMeasurer): string {
  const { parts, lines, height } = reflow(root, width, new Engine(measurer));
  const shapes = [...walk(root)].map((part, i) => {
    const box = parts.get(part.id);
    if (!box) return '';
    const { content } = part;
    if (content?.kind !== 'text')
      return i === 0 || box.width < 1 || box.height < 1
        ? ''
        : `<rect id="${part.id}" x="${box.x}" y="${box.y}" width="${box.width}" height="${box.height}" fill="hsl(${i * 40} 30% 80%)"/>`;
    const laid = lines.get(part.id) ?? [];
    const own = textBox(content, laid, box);
    const spans = laid.map(
      (l, k) =>
        `<tspan x="${own.x}" y="${own.y + 16 + k * content.lineHeight}">${l.runs.map((r) => r.text).join('')}</tspan>`,
    );
    return `<text id="${part.id}" font-family="Inter" font-size="16">${spans.join('')}</text>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${Math.max(1, height)}">${shapes.join('')}</svg>`;
}

describe('at the drawn width everything stands where it was drawn', () => {
  test.each(files)('$name', ({ file }) => expectFileFaithful(file));

  test.runIf(pages.length > 0)(
    'nine in ten drawings of real pages',
    () =>
      expectOfMost(
        pages,
        0.9,
        (p) => p.name,
        ({ file }) => expectFileFaithful(file),
      ),
    MINUTES,
  );

  /** Whether every word has room: words that hang out of their box are drawn where no box says. */
  const holdsWords = (root: Part, width: number, measurer: TextMeasurer): boolean => {
    const { parts, lines } = reflow(root, width, new Engine(measurer));
    return [...lines].every(([id, laid]) => laid.every((l) => l.width <= (parts.get(id)?.width ?? 0) + 0.02));
  };

  test('nearly all drawings made from random trees', async () => {
    const measurer = await testMeasurer();
    const trees = fc
      .sample(fc.tuple(soundRoot(2), fc.constantFrom(390, 768, 1280)), 300)
      .map(([tree, width]) => ({ root: plain(tree), width }))
      .filter(({ root, width }) => holdsWords(root, width, measurer));
    await expectOfMost(
      trees,
      0.98,
      ({ root, width }) => `${JSON.stringify(root)} at ${width}`,
      ({ root, width }) => {
        expectFaithful(measureDrawing(readSvg(drawn(root, width, measurer), 'Screen'), measurer), measurer);
      },
    );
  });

  test('the same drawing gives the same structure, byte for byte', async () => {
    const source = readFileSync(new URL('departures-1280.svg', DEMO), 'utf8');
    const raw = readSvg(source, 'Screen');
    const measurer = await loadMeasurer(facesOf(raw));
    const once = () =>
      JSON.stringify(readStructure(measureDrawing(readSvg(source, 'Screen'), measurer), measurer));
    expect(once()).toBe(once());
  });
});
