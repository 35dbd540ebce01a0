import { readFileSync } from 'node:fs';
import type { Server } from 'node:http';
import type { WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { exportHtml } from '@tinfold/core/handoff';
import { Engine } from '@tinfold/core/layout';
import { walk, type Structure } from '@tinfold/core/model';
import { isAt, prove, type FaultKind } from '@tinfold/core/proof';
import { faceFor, SHIPPED } from '@tinfold/core/text';
import { readSources } from '../host/src/reading.js';
import { everyPage, patternCases } from '../core/test/support/benchmark.js';
import { openBrowser } from './support/browser.js';
import { facesIn, loadFonts, startLawServer } from './support/law.js';
import { withShippedFonts } from './support/shippedFonts.js';

/** Twenty widths from 320 to 1920, in equal steps of the logarithm. */
const WIDTHS = Array.from({ length: 20 }, (_, i) => Math.round(320 * 6 ** (i / 19)));

/** A part as the browser shows it: its box, what is seen of its words, and whether lines are cut. */
interface Seen {
  readonly id: string;
  readonly box: readonly [left: number, top: number, right: number, bottom: number];
  readonly ink: readonly [left: number, top: number, right: number, bottom: number];
  readonly isText: boolean;
  readonly isCut: boolean;
}

/** What the browser shows of the frame at each width, and how far it scrolls sideways. */
const LOOK = `
  const [html, css, widths, height] = arguments;
  document.getElementById('own').textContent = css;
  const frame = document.getElementById('frame');
  frame.style.overflow = 'hidden';
  frame.innerHTML = html;
  const range = document.createRange();
  return widths.map((width) => {
    frame.style.width = width + 'px';
    frame.style.height = height + 'px';
    const parts = [...frame.querySelectorAll('[data-part]')].flatMap((el) => {
      const b = el.getBoundingClientRect();
      if (b.width === 0 && b.height === 0) return [];
      const box = [b.left, b.top + scrollY, b.right, b.bottom + scrollY];
      const isText = !el.querySelector('[data-part]') && el.textContent.trim() !== '' && !el.querySelector('svg');
      let ink = box;
      const clamp = getComputedStyle(el).webkitLineClamp;
      if (isText) {
        range.selectNodeContents(el);
        const rects = [...range.getClientRects()].filter((r) => r.width > 0);
        if (rects.length > 0)
          ink = [Math.min(...rects.map((r) => r.left)), box[1], Math.max(...rects.map((r) => r.right)), Math.max(b.top + el.scrollHeight, b.top) + scrollY];
      }
      const isCut = isText && ((clamp !== 'none' && clamp !== '' && el.scrollHeight > el.clientHeight + 1) || (getComputedStyle(el).textOverflow === 'ellipsis' && el.scrollWidth > el.clientWidth + 1));
      return [{ id: el.dataset.part, box, ink, isText, isCut }];
    });
    return { scroll: frame.scrollWidth - width, parts };
  });`;

interface Shown {
  readonly scroll: number;
  readonly parts: readonly Seen[];
}

const overlapOf = (a: Seen, b: Seen): number =>
  Math.min(
    Math.min(a.ink[2], b.ink[2]) - Math.max(a.ink[0], b.ink[0]),
    Math.min(a.ink[3], b.ink[3]) - Math.max(a.ink[1], b.ink[1]),
  );

/** What goes wrong by the browser's own numbers, beside how it looks at the drawn width. */
function browserFinds(now: Shown, drawn: Shown, items: ReadonlySet<string>): Set<FaultKind> {
  const found = new Set<FaultKind>();
  if (now.scroll > 1 && drawn.scroll <= 1) found.add('side-scroll');
  const before = new Map(drawn.parts.map((p) => [p.id, p]));
  const grown = (by: (p: Seen) => number, p: Seen): boolean => {
    const was = before.get(p.id);
    const drawnBy = was ? by(was) : 0;
    return by(p) > (drawnBy > 1 ? drawnBy + 4 : 1);
  };
  for (const p of now.parts) {
    // What lies before the frame's start is lost: no scrolling reaches it, so that `scrollWidth` does not tell it.
    if (grown((t) => -t.ink[0], p)) found.add('side-scroll');
    if (!p.isText) continue;
    if (p.isCut && !before.get(p.id)?.isCut) found.add('text-cut');
    if (p.isCut) continue;
    if (grown((t) => Math.max(t.ink[2] - t.box[2], t.box[0] - t.ink[0]), p)) found.add('long-word');
    if (grown((t) => t.ink[3] - t.box[3], p)) found.add('text-over');
  }
  const shown = now.parts.filter((p) => items.has(p.id));
  shown.forEach((a, i) => {
    for (const b of shown.slice(i + 1)) {
      const [wasA, wasB] = [before.get(a.id), before.get(b.id)];
      if (wasA && wasB && overlapOf(wasA, wasB) > 0.5) continue;
      if (overlapOf(a, b) > 3) found.add('overlap');
    }
  });
  return found;
}

const KINDS: readonly FaultKind[] = ['side-scroll', 'long-word', 'text-over', 'overlap', 'text-cut'];

let driver: WebDriver;
let server: Server;
let url: string;

beforeAll(async () => {
  driver = await openBrowser(1990, 1000);
  const faces = SHIPPED.flatMap((f) =>
    f.weights.flatMap((weight) =>
      [false, true].map((italic) => faceFor({ family: f.family, weight, italic })),
    ),
  );
  ({ server, url } = await startLawServer(faces));
});
afterAll(async () => {
  await driver.quit();
  server.close();
});

test.runIf(patternCases.length > 0)(
  'side scrolls, words out of their boxes, overlaps and cut texts are those that a browser shows',
  async () => {
    const tally = { browser: 0, both: 0, proof: 0 };
    const unlike: string[] = [];
    for (const { name, files } of [...patternCases, ...everyPage(3)]) {
      const reading = await readSources([{ text: readFileSync(files[0] as URL, 'utf8'), name: 'Screen' }]);
      const structure: Structure = withShippedFonts(reading.structure, reading.measurer);
      await loadFonts(driver, url, facesIn(structure));
      const [html, css] = exportHtml(structure);
      const body = /<body>([\s\S]*)<\/body>/.exec(html.text)?.[1] ?? '';
      const { width, height } = structure.drawn;
      const shown: Shown[] = await driver.executeScript(LOOK, body, css.text, [width, ...WIDTHS], height);
      const [drawn, ...at] = shown as [Shown, ...Shown[]];
      const items = new Set(
        [...walk(structure.root)]
          .filter((p) => p.source.length > 0 || p.content !== undefined || p.paint?.fill || p.paint?.stroke)
          .map((p) => p.id),
      );
      const { faults } = prove(structure, new Engine(reading.measurer));
      WIDTHS.forEach((w, i) => {
        const browser = browserFinds(at[i] as Shown, drawn, items);
        const proof = new Set(faults.filter((f) => isAt(f, w)).map((f) => f.kind));
        for (const kind of KINDS) {
          if (browser.has(kind)) tally.browser++;
          if (proof.has(kind)) tally.proof++;
          if (browser.has(kind) && proof.has(kind)) tally.both++;
          if (browser.has(kind) !== proof.has(kind))
            unlike.push(`${name} at ${w}: ${kind} in the ${browser.has(kind) ? 'browser' : 'proof'} alone`);
        }
      });
    }
    expect(tally.both / tally.browser, unlike.join('\n')).toBeGreaterThanOrEqual(0.98);
    expect(tally.both / tally.proof, unlike.join('\n')).toBeGreaterThanOrEqual(0.98);
  },
  600_000,
);
