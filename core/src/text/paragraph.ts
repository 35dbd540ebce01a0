import { plainText, type TextContent, type TextRun, type TextStyle } from '../model/index.js';
import { breakPoints, type BreakPoint } from './lines.js';
import { baselineInLine, runWidth, type TextMeasurer } from './measurer.js';

/** One laid-out line: the runs that stand in it and its width without trailing spaces. */
export interface Line {
  readonly runs: readonly TextRun[];
  readonly width: number;
}

/** A line still fits when it is this much too wide: browsers lay out in units of 1/64 px. */
const FITS_WITHIN = 1 / 64;

/** How much nearer the last letter of some words stands to a space after it, px: 0 in most fonts. */
function kernedToSpace({ text, style, drawn }: TextRun, m: TextMeasurer): number {
  const last = Array.from(text).at(-1);
  if (drawn || last === undefined) return 0;
  return m.width(last, style) + m.width(' ', style) - m.width(`${last} `, style);
}

/** Browsers round the width of each run up to their unit. */
const snapped = (width: number): number => Math.ceil(width * 64 - 1e-6) / 64;

interface Prepared {
  readonly text: string;
  /** End indices of the unbreakable pieces; the last is the text's length. */
  readonly ends: readonly number[];
  readonly required: ReadonlySet<number>;
  readonly minContent: number;
  readonly maxContent: number;
  /** The widths from the n-th piece up to the m-th, as far as they were asked for, by n × pieces + m. */
  readonly widths: Map<number, number>;
  /** The lines of those pieces, likewise. */
  readonly lines: Map<number, Line>;
  /** Each way in which the words broke before, the narrowest first. */
  readonly known: Broken[];
}

/** Lines, and the widths from and to which, the last left out, the words break into them. */
export interface Broken {
  readonly lines: readonly Line[];
  readonly from: number;
  readonly to: number;
}

/** No more ways to break one paragraph are kept, so that a book does not fill the memory. */
const MOST_KNOWN = 64;

const prepared = new WeakMap<TextMeasurer, WeakMap<TextContent, Prepared>>();

/** The runs of `content` between two indices of its plain text. */
function slice(content: TextContent, from: number, to: number): TextRun[] {
  const runs: TextRun[] = [];
  let at = 0;
  for (const run of content.runs) {
    const text = run.text.slice(Math.max(0, from - at), Math.max(0, to - at));
    if (text !== '') runs.push({ ...run, text });
    at += run.text.length;
  }
  return runs;
}

const SOFT_HYPHEN = '\u00AD';

/** The runs of a line as they are shown: soft hyphens only where the line ends at one, as a hyphen. */
function shownRuns(content: TextContent, text: string, from: number, to: number): TextRun[] {
  const runs = slice(content, from, to);
  if (!text.includes(SOFT_HYPHEN)) return runs;
  const ends = text[to - 1] === SOFT_HYPHEN && to < text.length;
  return runs.map((run, i) => ({
    ...run,
    text: run.text.replaceAll(SOFT_HYPHEN, '') + (ends && i === runs.length - 1 ? '-' : ''),
  }));
}

const isSameFont = (a: TextStyle, b: TextStyle): boolean =>
  a.family === b.family &&
  a.size === b.size &&
  a.weight === b.weight &&
  a.italic === b.italic &&
  a.letterSpacing === b.letterSpacing &&
  a.sizeAdjust === b.sizeAdjust;

/** Runs that differ in colour alone as one: letters of one font are kerned whatever element each is in, as browsers do it. */
function shapedTogether(runs: readonly TextRun[]): TextRun[] {
  const joined: TextRun[] = [];
  for (const run of runs) {
    const last = joined.at(-1);
    if (last && !last.drawn && !run.drawn && isSameFont(last.style, run.style))
      joined[joined.length - 1] = { ...last, text: last.text + run.text };
    else joined.push(run);
  }
  return joined;
}

function widthOf(content: TextContent, text: string, from: number, to: number, m: TextMeasurer): number {
  const runs = shownRuns(content, text, from, to);
  return (runs.length > 1 ? shapedTogether(runs) : runs).reduce(
    (sum, run) => sum + snapped(runWidth(run, m)),
    0,
  );
}

const trimmedEnd = (text: string, from: number, to: number): number => {
  let end = to;
  while (end > from && /\s/.test(text[end - 1] ?? '')) end--;
  return end;
};

/** Where lines may end: never within a drawn word. */
function breakPointsIn({ runs }: TextContent, text: string): BreakPoint[] {
  const points = breakPoints(text);
  if (!runs.some((r) => r.drawn)) return points;
  const ends = new Set<number>();
  let [at, whole] = [0, 0];
  for (const { text: words, drawn } of runs) {
    at += words.length;
    if (!drawn) for (let i = whole; i < at; i++) ends.add(i);
    ends.add(at);
    whole = at;
  }
  return points.filter((p) => ends.has(p.position));
}

function prepare(content: TextContent, m: TextMeasurer): Prepared {
  let cache = prepared.get(m);
  if (!cache) prepared.set(m, (cache = new WeakMap()));
  const known = cache.get(content);
  if (known) return known;
  const text = plainText(content);
  const points = breakPointsIn(content, text);
  const ends = points.map((p) => p.position).filter((p) => p < text.length);
  ends.push(text.length);
  const required = new Set(points.filter((p) => p.required).map((p) => p.position));
  let minContent = 0;
  let maxContent = 0;
  let [from, lineFrom] = [0, 0];
  for (const end of ends) {
    minContent = Math.max(minContent, widthOf(content, text, from, trimmedEnd(text, from, end), m));
    if (required.has(end) || end === text.length) {
      maxContent = Math.max(maxContent, widthOf(content, text, lineFrom, trimmedEnd(text, lineFrom, end), m));
      lineFrom = end;
    }
    from = end;
  }
  const result: Prepared = {
    text,
    ends,
    required,
    minContent,
    maxContent,
    widths: new Map(),
    lines: new Map(),
    known: [],
  };
  cache.set(content, result);
  return result;
}

/** The width of the widest unbreakable piece, in px (CSS Sizing 3 §2.1 min-content). */
export const minContentWidth = (content: TextContent, m: TextMeasurer): number =>
  prepare(content, m).minContent;

/** The width of the paragraph without optional breaks, in px (CSS Sizing 3 §2.1 max-content). */
export const maxContentWidth = (content: TextContent, m: TextMeasurer): number =>
  prepare(content, m).maxContent;

/** A paragraph that was looked up once, to be broken at many widths. */
export interface Paragraph {
  /** The lines, each at most `width` px wide where it can be, broken greedily. */
  breakAt(width: number): Broken;
}

const paragraphs = new WeakMap<Prepared, Paragraph>();

/** How the words broke before at a width like this. */
function knownAt({ known }: Prepared, width: number): Broken | undefined {
  for (const way of known) {
    if (width < way.from) return undefined;
    if (width < way.to) return way;
  }
  return undefined;
}

/** Keeps a way of breaking in its place. */
function keep({ known }: Prepared, way: Broken): Broken {
  if (known.length === MOST_KNOWN) known.length = 0;
  let place = known.length;
  while (place > 0 && (known[place - 1] as Broken).from > way.from) place--;
  known.splice(place, 0, way);
  return way;
}

/** The paragraph that words make with a measurer; the same object for the same words. */
export function paragraphOf(content: TextContent, m: TextMeasurer): Paragraph {
  const p = prepare(content, m);
  let paragraph = paragraphs.get(p);
  if (!paragraph) {
    const breaking = new Breaking(content, p, m);
    const breakAt = (width: number): Broken => knownAt(p, width) ?? keep(p, breaking.at(width));
    paragraphs.set(p, (paragraph = { breakAt }));
  }
  return paragraph;
}

/** Breaks the paragraph into lines greedily so that each is at most `width` px wide where it can be. */
export const breakLines = (content: TextContent, width: number, m: TextMeasurer): readonly Line[] =>
  paragraphOf(content, m).breakAt(width).lines;

/** Breaks one paragraph; pieces are counted by where they end. */
class Breaking {
  readonly #content: TextContent;
  readonly #p: Prepared;
  readonly #m: TextMeasurer;

  constructor(content: TextContent, p: Prepared, m: TextMeasurer) {
    this.#content = content;
    this.#p = p;
    this.#m = m;
  }

  /** Where a piece begins in the text. */
  #start(piece: number): number {
    return piece === 0 ? 0 : (this.#p.ends[piece - 1] as number);
  }

  /** The width of the pieces `from` to `to`, both included, without trailing spaces. */
  #width(from: number, to: number): number {
    const { text, ends, widths } = this.#p;
    const key = from * ends.length + to;
    let found = widths.get(key);
    if (found === undefined) {
      const start = this.#start(from);
      const end = trimmedEnd(text, start, ends[to] as number);
      widths.set(key, (found = widthOf(this.#content, text, start, end, this.#m)));
    }
    return found;
  }

  /**
   * How much room the pieces `from` to `to` ask for. Browsers look for the break in the words as they stand, where the last letter may
   * be nearer to the space after it, and only then leave the space out.
   */
  #needed(from: number, to: number): number {
    const { text, ends } = this.#p;
    const own = this.#width(from, to) - FITS_WITHIN;
    const end = trimmedEnd(text, this.#start(from), ends[to] as number);
    if (text[end] !== ' ') return own;
    const last = slice(this.#content, end - 1, end + 1);
    const kerned =
      last.length === 1 && last[0]
        ? kernedToSpace({ ...last[0], text: text.slice(end - 1, end) }, this.#m)
        : 0;
    return kerned > 0 ? own - kerned - FITS_WITHIN : own;
  }

  #line(from: number, to: number): Line {
    const { text, ends, lines } = this.#p;
    const key = from * ends.length + to;
    let found = lines.get(key);
    if (!found) {
      const start = this.#start(from);
      const runs = shownRuns(this.#content, text, start, trimmedEnd(text, start, ends[to] as number));
      lines.set(key, (found = { runs, width: this.#width(from, to) }));
    }
    return found;
  }

  /** The lines in this width, and the widths from and to which they are the same. */
  at(width: number): Broken {
    const { ends, required, maxContent } = this.#p;
    const count = ends.length;
    if (required.size === 0 && maxContent <= width + FITS_WITHIN)
      return { lines: [this.#line(0, count - 1)], from: maxContent - FITS_WITHIN, to: Infinity };
    const lines: Line[] = [];
    /** The first piece of the line at hand. */
    let first = 0;
    // What fits tells how narrow the paragraph may get, what does not how wide, before it breaks otherwise.
    let [least, most] = [0, Infinity];
    for (let piece = 0; piece < count; piece++) {
      if (piece > first) {
        const needed = this.#needed(first, piece);
        if (needed > width) {
          most = Math.min(most, needed);
          lines.push(this.#line(first, piece - 1));
          first = piece;
        } else least = Math.max(least, needed);
      }
      if (required.has(ends[piece] as number)) {
        lines.push(this.#line(first, piece));
        first = piece + 1;
      }
    }
    if (first < count) lines.push(this.#line(first, count - 1));
    return { lines, from: least, to: most };
  }
}

/** The height of so many lines, px: browsers round the height of a line to whole 64ths of a px. */
export const linesHeight = (count: number, { lineHeight }: TextContent): number =>
  (count * Math.round(lineHeight * 64)) / 64;

/** From the top of the paragraph to the baseline of its first line, in px. */
export function firstBaseline(content: TextContent, m: TextMeasurer): number {
  const style = content.runs[0]?.style;
  if (!style) return content.lineHeight;
  return baselineInLine(m.metrics(style), content.lineHeight);
}
