import type { TextRun, TextStyle } from '../model/index.js';
import { familyNames, resolveFamily, type TextMeasurer } from '../text/index.js';
import type { RawItem, RawText } from './raw.js';
import type { Chunk } from './svgText.js';

/** Factors beyond these come from words that were taken for neighbours and are none. */
const SANE = { least: 0.6, most: 1.6 };
/** Smaller changes are not worth saying. */
const SLIGHT = 0.003;

const textOfChunk = (chunk: Chunk): string => chunk.runs.map((r) => r.text).join('');
const measure = (runs: readonly TextRun[], m: TextMeasurer): number =>
  runs.reduce((sum, r) => sum + m.width(r.text, r.style), 0);

/** How much wider words are drawn than measured, px ÷ px, as one place of the file tells it. */
interface Sample {
  /** If the next piece follows at once. */
  readonly bare: number;
  /** If a space stands between this piece and the next. */
  readonly spaced: number;
  readonly width: number;
}

/** By how much the drawn words are wider than measured, wherever the file tells their width. */
function samplesOf(chunks: readonly Chunk[], m: TextMeasurer): Sample[] {
  return chunks.flatMap((chunk, i): Sample[] => {
    const width = measure(chunk.runs, m);
    if (width <= 0) return [];
    if (chunk.wanted !== undefined)
      return [{ bare: chunk.wanted / width, spaced: chunk.wanted / width, width }];
    const next = chunks[i + 1];
    const [run] = chunk.runs;
    if (!next || !run || next.after !== undefined || next.y !== chunk.y || chunk.anchor !== 'start')
      return [];
    const step = next.x - chunk.x;
    if (step <= 0) return [];
    const isLetter = Array.from(textOfChunk(chunk)).length === 1;
    const bare = step / width;
    return [{ bare, spaced: isLetter ? bare : step / (width + m.width(' ', run.style)), width }];
  });
}

const faceName = (style: TextStyle): string =>
  `${familyNames(style.family)[0] ?? style.family}|${style.weight}|${style.italic}`;

interface Ratio {
  readonly ratio: number;
  readonly width: number;
}

/** The middle of the sane ratios, wide words counting more, and how far the others are from it. */
function middle(ratios: readonly Ratio[]): { ratio: number; spread: number } | undefined {
  const sane = ratios.filter((r) => r.ratio >= SANE.least && r.ratio <= SANE.most);
  const sorted = sane.toSorted((a, b) => a.ratio - b.ratio);
  const all = sorted.reduce((sum, s) => sum + s.width, 0);
  let passed = 0;
  for (const { ratio, width } of sorted) {
    passed += width;
    if (passed < all / 2) continue;
    const off = sane.reduce((sum, s) => sum + Math.abs(s.ratio - ratio) * s.width, 0);
    return { ratio, spread: off / all };
  }
  return undefined;
}

/** The ratio that the samples agree on best: pieces are words with a space between, or follow each other at once. */
function factorOf(samples: readonly Sample[]): number | undefined {
  const spaced = middle(samples.map(({ spaced: ratio, width }) => ({ ratio, width })));
  const bare = middle(samples.map(({ bare: ratio, width }) => ({ ratio, width })));
  if (!spaced || !bare) return (spaced ?? bare)?.ratio;
  return bare.spread < spaced.spread ? bare.ratio : spaced.ratio;
}

/** Texts on one baseline, each beginning where the last may end, read as the pieces of one. */
function neighbours(texts: readonly RawText[]): Chunk[][] {
  const found: Chunk[][] = [];
  for (const text of texts) {
    const last = found.at(-1)?.at(-1);
    const [first] = text.chunks;
    const size = last?.runs[0]?.style.size ?? 16;
    const near =
      last &&
      first &&
      last.y === first.y &&
      first.x > last.x &&
      first.x - last.x < size * textOfChunk(last).length;
    if (near) found.at(-1)?.push(...text.chunks);
    else found.push([...text.chunks]);
  }
  return found;
}

/**
 * The items with every font that is missing enlarged or reduced ({@link TextStyle.sizeAdjust}) so that its words keep
 * the width that they were drawn with, as far as the file tells it.
 */
export function adjustMissingFonts(items: readonly RawItem[], m: TextMeasurer): readonly RawItem[] {
  const isMissing = (style: TextStyle) => !resolveFamily(style.family, m.own).exact;
  const texts = items.filter((i): i is RawText => i.kind === 'text');
  const missing = texts.filter((t) =>
    t.chunks.some((c) => c.runs.some((r) => !r.drawn && isMissing(r.style))),
  );
  if (missing.length === 0) return items;
  const samples = new Map<string, Sample[]>();
  for (const chunks of neighbours(missing)) {
    const style = chunks[0]?.runs[0]?.style;
    if (!style || !isMissing(style)) continue;
    const key = faceName(style);
    samples.set(key, [...(samples.get(key) ?? []), ...samplesOf(chunks, m)]);
  }
  const factors = new Map(
    [...samples].flatMap(([key, all]): [string, number][] => {
      const factor = factorOf(all);
      return factor !== undefined && Math.abs(factor - 1) > SLIGHT
        ? [[key, Math.round(factor * 1e4) / 1e4]]
        : [];
    }),
  );
  if (factors.size === 0) return items;
  const adjusted = (run: TextRun): TextRun => {
    const sizeAdjust = isMissing(run.style) ? factors.get(faceName(run.style)) : undefined;
    return sizeAdjust === undefined ? run : { ...run, style: { ...run.style, sizeAdjust } };
  };
  return items.map((item) =>
    item.kind === 'text'
      ? { ...item, chunks: item.chunks.map((c) => ({ ...c, runs: c.runs.map(adjusted) })) }
      : item,
  );
}
