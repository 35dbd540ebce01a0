import { readdirSync, readFileSync } from 'node:fs';
import type { Server } from 'node:http';
import fc from 'fast-check';
import type { WebDriver } from 'selenium-webdriver';
import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest';
import { standing, type Part, type Structure } from '@tinfold/core/model';
import { faceFor, SHIPPED } from '@tinfold/core/text';
import { loadMeasurer } from '../host/src/fonts.js';
import { readSources } from '../host/src/reading.js';
import { anyRoot, anyStructure } from '../core/test/support/arbitrary.js';
import {
  expectOfMost,
  MINUTES,
  pageCases,
  patternCases,
  type BenchmarkCase,
} from '../core/test/support/benchmark.js';
import { structure } from '../core/test/support/build.js';
import { reduce } from './support/reduce.js';
import { openBrowser } from './support/browser.js';
import { withShippedFonts } from './support/shippedFonts.js';
import { compare, facesIn, loadFonts, startLawServer, type Difference } from './support/law.js';

const WIDTHS = [320, 480, 768, 1024, 1440];
const DEMO = new URL('../demo/', import.meta.url);
/** How many random documents; the law's long run sets more. */
const DOCUMENTS = Number(process.env['LAW_DOCUMENTS'] ?? 60);
/** How many failing documents are shown. */
const SHOWN = 3;
const SEED = Number(process.env['LAW_SEED'] ?? 1);

const ALL_FACES = SHIPPED.flatMap((f) =>
  f.weights.flatMap((weight) => [false, true].map((italic) => faceFor({ family: f.family, weight, italic }))),
);

/** The tree with its rules, so that a failure can be read. */
const show = (part: Part, depth = 0): string =>
  `${'  '.repeat(depth)}${part.id} ${part.kind} ${JSON.stringify(part.rules)} ${part.below ? JSON.stringify(part.below) : ''}${part.wide ? ` wide ${JSON.stringify(part.wide)}` : ''}${part.bound ? JSON.stringify(part.bound) : ''}\n` +
  part.children.map((c) => show(c, depth + 1)).join('');

const report = (root: Part, found: readonly Difference[]): string =>
  `${found
    .slice(0, 5)
    .map((d) => JSON.stringify(d))
    .join('\n')}\n${show(root)}`;

describe('the engine lays out what the exported files lay out in a browser', () => {
  let driver: WebDriver;
  let server: Server;
  let url: string;

  beforeAll(async () => {
    driver = await openBrowser(1600, 1000);
    ({ server, url } = await startLawServer(ALL_FACES));
  });
  afterAll(async () => {
    await driver.quit();
    server.close();
  });

  interface Kind {
    readonly over: string;
    readonly arbitrary: () => fc.Arbitrary<Structure>;
    /** The share of the documents that are tried. */
    readonly share: number;
    readonly window: { readonly width: number; readonly height: number };
  }
  const kinds: readonly Kind[] = [
    {
      over: 'all flows, sizes, limits, alignments and pins, nested to depth 5',
      arbitrary: () => anyRoot(5).map((r) => structure(r)),
      share: 1,
      window: { width: 1600, height: 1000 },
    },
    {
      over: 'breakpoints and tokens in a window that is wider than high',
      arbitrary: () => anyStructure(3),
      share: 0.25,
      window: { width: 1600, height: 1000 },
    },
    {
      over: 'breakpoints and tokens in a window that is higher than wide',
      arbitrary: () => anyStructure(3),
      share: 0.25,
      window: { width: 1600, height: 2000 },
    },
  ];
  afterEach(() => driver.manage().window().setRect({ width: 1600, height: 1000 }));

  test.each(kinds)('random documents over $over', async ({ arbitrary, share, window }) => {
    await driver.manage().window().setRect(window);
    const faces = [faceFor({ family: 'Inter', weight: 400, italic: false })];
    await loadFonts(driver, url, faces);
    const measurer = await loadMeasurer(faces);
    const documents = fc.sample(arbitrary(), { numRuns: Math.ceil(DOCUMENTS * share), seed: SEED });
    let boxes = 0;
    const wrong: string[] = [];
    for (const document of documents) {
      const result = await compare(driver, document, [240, ...WIDTHS], measurer);
      boxes += result.boxes;
      if (result.differences.length === 0) continue;
      const differing = async (root: Part) =>
        (await compare(driver, { ...document, root }, [240, ...WIDTHS], measurer)).differences;
      const root =
        wrong.length < SHOWN
          ? await reduce(document.root, async (r) => (await differing(r)).length > 0)
          : document.root;
      wrong.push(wrong.length < SHOWN ? report(root, await differing(root)) : '');
    }
    expect(
      wrong.length,
      `${wrong.length} of ${documents.length} documents differ (${boxes} boxes, seed ${SEED}); first:\n${wrong.slice(0, SHOWN).join('\n')}`,
    ).toBe(0);
    expect(boxes).toBeGreaterThan(documents.length * 6);
  });

  const drawings = [
    ...readdirSync(DEMO)
      .filter((f) => f.endsWith('.svg'))
      .map((f) => ({ name: f, files: [new URL(f, DEMO)] })),
    {
      name: 'the departures board at two widths',
      files: ['departures-1280.svg', 'departures-390.svg'].map((f) => new URL(f, DEMO)),
    },
    {
      name: 'the boarding pass with drawn words',
      files: [new URL('exported/boarding-pass-390.foreign.svg', DEMO)],
    },
    ...patternCases.flatMap(atOneAndTwo),
  ];
  const pages = pageCases.flatMap(atOneAndTwo);

  const expectSameBoxes = async (files: readonly URL[]): Promise<void> => {
    const sources = files.map((file) => ({ text: readFileSync(file, 'utf8'), name: 'Screen' }));
    const { structure: read, measurer } = await readSources(sources);
    await loadFonts(driver, url, facesIn(read));
    const shown = withShippedFonts(read, measurer);
    const { boxes, differences } = await compare(driver, shown, WIDTHS, measurer as never);
    expect(differences, report(read.root, differences)).toEqual([]);
    const wanted = WIDTHS.map((width) => shownParts(standing(read, { width })));
    expect(boxes).toBeGreaterThanOrEqual(wanted.reduce((s, n) => s + n, 0));
  };

  test.each(drawings)('$name, read and exported', ({ files }) => expectSameBoxes(files));

  // Down pages of many thousand px, lengths that a browser rounds to its unit add up to more than half a px.
  test.runIf(pages.length > 0)(
    'nine in ten real pages, read and exported',
    () =>
      expectOfMost(
        pages,
        0.9,
        (p) => p.name,
        ({ files }) => expectSameBoxes(files),
      ),
    MINUTES,
  );
});

/** A case read from its source drawing alone, and from both. */
const atOneAndTwo = ({ name, files }: BenchmarkCase) => [
  { name, files: files.slice(0, 1) },
  { name: `${name} at two widths`, files },
];

/** How many parts are shown. */
const shownParts = (part: Part): number =>
  part.rules.hidden ? 0 : part.children.reduce((n, c) => n + shownParts(c), 1);
