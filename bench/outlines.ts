/**
 * Reads screens as other programs export them (`demo/exported.ts`) beside the drawings that they were made from, and tells
 * how many words come back in their places, how many icons are taken for words, and how alike the structures are.
 *
 *     npm run bench:outlines -- FOLDER_OF_EXPORTS FILE.svg ...
 *     DRAWN=1 npm run bench:outlines -- ...    with no font known
 */
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { SVGPathData } from 'svg-pathdata';
import type { Drawing } from '@tinfold/core/drawing';
import { ruleOf, type Part, type Structure, type TextRun } from '@tinfold/core/model';
import { breakLines, runWidth, type TextMeasurer } from '@tinfold/core/text';
import { readSource, readSources, type Reading } from '../host/src/reading.js';
import { sourceText } from '../host/src/source.js';

const FORMS = ['poppler.svg', 'mupdf.svg', 'librsvg.svg', 'pdf'] as const;
/** Words within this of their place came back, px. */
const NEAR = 1;
/** The ink of drawn words within this of its place came back, px. */
const NEAR_DRAWN = 1.5;

/** With `DRAWN=1` no font is known: words come back as they are drawn, told by where their ink is. */
const drawnOnly = process.env['DRAWN'] !== undefined;

interface Word {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  /** Where its ink begins and ends, px. */
  readonly ink: readonly [number, number];
  readonly item: string;
}

function inkOf({ text, style, drawn }: TextRun, x: number, m: TextMeasurer): [number, number] {
  const d = drawn?.d ?? m.outline(text, style, { x: 0, y: 0 });
  if (d === '') return [x, x];
  const { minX, maxX } = new SVGPathData(d).getBounds();
  return [x + minX, x + maxX];
}

/** The words of runs that begin at `x`. */
function wordsIn(runs: readonly TextRun[], x: number, y: number, item: string, m: TextMeasurer): Word[] {
  let at = x;
  return runs.flatMap((run) => {
    const from = at;
    at += runWidth(run, m);
    return [...run.text.matchAll(/\S+/g)].map((found) => {
      const [text] = found;
      const start = run.drawn ? from : from + m.width(run.text.slice(0, found.index), run.style);
      return { text, x: start, y, ink: inkOf({ ...run, text }, start, m), item };
    });
  });
}

/** The words of a drawing where they stand: its texts broken as they are drawn. */
function wordsOf(drawing: Drawing, m: TextMeasurer): Word[] {
  return drawing.items.flatMap((item) => {
    if (item.kind !== 'text') return [];
    const widest = Math.max(...item.lines.map((l) => l.width));
    const tries = [0.05, 0.5, 1].map((more) => breakLines(item.content, widest + more, m));
    const lines = tries.find((t) => t.length === item.lines.length) ?? tries[0] ?? [];
    return lines.flatMap(({ runs }, i) => {
      const { x = 0, baseline = 0 } = item.lines[i] ?? {};
      return wordsIn(runs, x, baseline, item.id, m);
    });
  });
}

/** The sets of words that stand together in a container, with the container; words go by the names given. */
function sets(
  structure: Structure,
  words: readonly Word[],
  names: ReadonlyMap<Word, string>,
): Map<string, Part> {
  const at = new Map<string, number[]>();
  words.forEach((w, i) => at.set(w.item, [...(at.get(w.item) ?? []), i]));
  const found = new Map<string, Part>();
  const inside = (part: Part): number[] => {
    const own = [...part.source.flatMap((id) => at.get(id) ?? []), ...part.children.flatMap(inside)];
    if (part.kind === 'container' && own.length > 1) {
      const key = own
        .map((i) => names.get(words[i] as Word) ?? '')
        .sort()
        .join(' ');
      if (!found.has(key)) found.set(key, part);
    }
    return own;
  };
  inside(structure.root);
  return found;
}

interface Tally {
  words: number;
  back: number;
  icons: number;
  taken: number;
  sets: [both: number, ours: number, theirs: number];
  spaces: [alike: number, all: number];
}

const spacesOf = ({ rules }: Part): number[] => {
  const { top = 0, right = 0, bottom = 0, left = 0 } = rules.padding ?? {};
  const gap = ruleOf(rules, 'gap');
  return [typeof gap === 'number' ? gap : -1, top, right, bottom, left];
};

const near = (a: number, b: number, off: number): boolean => Math.abs(a - b) <= off;
const isSame = (a: Word, b: Word): boolean =>
  a.text === b.text && near(a.x, b.x, NEAR) && near(a.y, b.y, NEAR);
const isDrawnAs = (a: Word, b: Word): boolean =>
  near(a.y, b.y, NEAR_DRAWN) && a.ink.every((x, i) => near(x, b.ink[i] ?? NaN, NEAR_DRAWN));

function compare(name: string, drawn: Reading, exported: Reading, tally: Tally): void {
  const [a, b] = [drawn.drawings[0]?.drawing, exported.drawings[0]?.drawing];
  if (!a || !b) return;
  const [was, is] = [wordsOf(a, drawn.measurer), wordsOf(b, exported.measurer)];
  const left = new Set(is);
  const missing: string[] = [];
  const names = new Map<Word, string>();
  was.forEach((w, i) => names.set(w, String(i)));
  is.forEach((w, i) => names.set(w, `other ${i}`));
  for (const word of was) {
    const found = [...left].find((w) => (drawnOnly ? isDrawnAs(w, word) : isSame(w, word)));
    if (found) {
      left.delete(found);
      names.set(found, names.get(word) ?? '');
      tally.back++;
    } else missing.push(`${word.text}@${word.x.toFixed(1)},${word.y.toFixed(1)}`);
  }
  tally.words += was.length;
  tally.icons += a.items.filter((i) => i.kind === 'art').length;
  const strange = [...left].filter(
    (w) => !was.some((o) => Math.abs(o.y - w.y) < 3 && Math.abs(o.x - w.x) < 60),
  );
  tally.taken += strange.length;
  if (process.env['WHY'] !== undefined && strange.length > 0)
    console.log(
      name,
      'strange:',
      strange
        .map((w) => `${w.text} ${w.item}@${w.ink.map((n) => n.toFixed(1)).join('-')},${w.y.toFixed(1)}`)
        .join(' '),
    );
  const [mine, theirs] = [sets(drawn.structure, was, names), sets(exported.structure, is, names)];
  // Words that did not come back would blame every set around them.
  for (const [key, part] of mine) {
    const other = theirs.get(key);
    if (!other) continue;
    tally.sets[0]++;
    spacesOf(part).forEach((space, i) => {
      tally.spaces[1]++;
      if (Math.abs(space - (spacesOf(other)[i] ?? NaN)) <= 1) tally.spaces[0]++;
    });
  }
  tally.sets[1] += mine.size;
  tally.sets[2] += theirs.size;
  if (process.env['WHY'] !== undefined)
    console.log(
      name,
      `${was.length - missing.length}/${was.length}`,
      missing.slice(0, 12).join(' '),
      '| instead:',
      [...left]
        .slice(0, 12)
        .map((w) => `${w.text}@${w.x.toFixed(1)},${w.y.toFixed(1)}`)
        .join(' '),
      '| sets',
      [...mine.keys()].filter((k) => theirs.has(k)).length,
      mine.size,
      theirs.size,
    );
}

const exported = (text: string, name: string): Promise<Reading> =>
  readSources([{ text, name }], {}, drawnOnly ? () => [] : undefined);

const [folder = '', ...files] = process.argv.slice(2);
const rows: Record<string, string | number>[] = [];
for (const form of FORMS) {
  const tally: Tally = { words: 0, back: 0, icons: 0, taken: 0, sets: [0, 0, 0], spaces: [0, 0] };
  let screens = 0;
  for (const file of files) {
    const name = `${path.basename(path.dirname(file))}-${path.basename(file, '.svg')}`;
    const other = path.join(folder, `${name}.${form}`);
    if (!existsSync(other)) continue;
    const drawn = await readSource(readFileSync(file, 'utf8'), name);
    try {
      compare(`${name}.${form}`, drawn, await exported(await sourceText(other), name), tally);
      screens++;
    } catch (error) {
      console.log(`${name}.${form}: ${error instanceof Error ? error.message : String(error)}`);
    }
  }
  const [both, ours, theirs] = tally.sets;
  rows.push({
    form,
    screens,
    words: tally.words,
    'back, %': ((tally.back / tally.words) * 100).toFixed(2),
    'icons for words, %': ((tally.taken / tally.icons) * 100).toFixed(2),
    'nesting F1': ((2 * both) / (ours + theirs)).toFixed(3),
    'spaces alike, %': ((tally.spaces[0] / tally.spaces[1]) * 100).toFixed(1),
  });
}
console.table(rows);
