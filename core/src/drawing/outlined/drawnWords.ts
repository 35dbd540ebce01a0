import type { TextStyle } from '../../model/index.js';
import type { RawDrawing, RawText } from '../raw.js';
import { heightOf, pathOf, widthOf } from './contours.js';
import { drawnRuns, middleOf, type PlacedWord } from './drawn.js';
import { GlyphCodes, isPlain, type Mark } from './drawnGlyphs.js';
import { CAPITALS, drawnLines, type DrawnGlyphs } from './drawnLines.js';
import { piecesOf, replaced } from './pieces.js';
import { drawnFontName } from './said.js';

/** A line of glyphs whose font is not known. */
interface Line extends DrawnGlyphs {
  /** One private character for each glyph. */
  readonly codes: readonly string[];
  /** Number of its font among those of the drawing. */
  readonly font: number;
  readonly size: number;
  /** The gaps between its glyphs beyond the usual one between letters, px, and that one. */
  readonly gaps: readonly number[];
  readonly usual: number;
}

/** Letters of one word are at most so far apart, in heights of capitals. */
const TIGHT = 0.35;
/** So many glyphs in a row are words although some of them are unusual. */
const MANY = 5;
/** Of so many glyphs this share must look like letters. */
const MOST = 0.6;
/** The heights of capitals and figures differ by no more than this share: round ones are a little higher. */
const EVEN = 0.06;
/** Small letters are so high, in heights of capitals. */
const SMALL = { least: 0.6, most: 0.86 };
/** Letters are no wider than this, in heights of capitals. */
const WIDEST = 1.4;
/** A space is wider than the usual gap between letters by something between these, em. */
const SPACE = { least: 0.05, usual: 0.13, most: 0.25 };
/** So many gaps tell how wide a font's spaces are. */
const ENOUGH_GAPS = 12;
/** Words further apart than this beyond that gap are texts of their own, em. */
const APART = 0.75;
/** The gap between letters is at most this where they are not spaced, em. */
const WIDEST_GAP = 0.3;
/** Sizes are rounded to this, px. */
const SIZE_STEP = 0.5;

/** From where to where a glyph reaches above a baseline: the tail of a j goes below the letter before it. */
function reachAbove({ left, right, contours }: Mark, baseline: number): readonly [number, number] {
  let [from, to] = [Infinity, -Infinity];
  for (const { curves } of contours)
    for (const curve of curves) {
      const [x = 0, y = 0] = curve;
      if (y > baseline) continue;
      from = Math.min(from, x);
      to = Math.max(to, x);
    }
  return from < to ? [from, to] : [left, right];
}

/** The gaps between the glyphs of a line, px. */
function gapsOf({ glyphs, baseline }: DrawnGlyphs): number[] {
  return glyphs.slice(1).map((g, i) => {
    const before = glyphs[i] as Mark;
    const gap = g.left - before.right;
    const hangs = Math.max(g.bottom, before.bottom) > baseline + 1;
    return hangs ? Math.max(gap, reachAbove(g, baseline)[0] - reachAbove(before, baseline)[1]) : gap;
  });
}

/** Figures are this wide, in their height: narrower ones have more room about them, so that they stand in columns. */
const FIGURE = 0.66;
/** A one has no more room than this on each side beyond that of other figures, in its height. */
const MOST_ROOM = 0.17;

/** A gap that is wider by this than any room about narrow figures is surely a space, in heights of capitals. */
const SURELY_SPACE = 0.42;

/** The gaps between the glyphs of a line, less what figures of one width, and capitals, have about a narrow one, px. */
function letterGaps(line: DrawnGlyphs): number[] {
  const { glyphs, baseline, high } = line;
  const gaps = gapsOf(line);
  const isHigh = (g: Mark) =>
    Math.abs(heightOf(g) / high - 1) < EVEN && Math.abs(g.bottom - baseline) < EVEN * high;
  const room = (g: Mark) =>
    isHigh(g) ? Math.min(MOST_ROOM * high, Math.max(0, (FIGURE * high - widthOf(g)) / 2)) : 0;
  const less = gaps.map((gap, i) => gap - room(glyphs[i] as Mark) - room(glyphs[i + 1] as Mark));
  const result = [...gaps];
  let from = 0;
  for (let end = 0; end < glyphs.length; end++) {
    if (end < gaps.length && (less[end] as number) < SURELY_SPACE * high) continue;
    // Signs between figures are lower than small letters.
    if (glyphs.slice(from, end + 1).every((g) => isHigh(g) || heightOf(g) < SMALL.least * high))
      for (let i = from; i < end; i++) result[i] = less[i] as number;
    from = end + 1;
  }
  return result;
}

/** Whether a line is words by itself, and not an icon of pieces in a row. */
function isSurelyWords(line: DrawnGlyphs): boolean {
  const { glyphs, baseline, high } = line;
  const telling = glyphs.filter((g) => !isPlain(g));
  const tight = gapsOf(line).filter((g) => g < TIGHT * high).length;
  if (telling.length < 2 || tight === 0) return false;
  const above = (g: Mark) => (baseline - g.top) / high;
  const isHigh = (g: Mark) => Math.abs(above(g) - 1) < EVEN;
  const isLetter = (g: Mark) => {
    const isSmall = above(g) > SMALL.least && above(g) < SMALL.most;
    return widthOf(g) < WIDEST * high && (isHigh(g) || isSmall) && g.bottom > baseline - EVEN * high;
  };
  const letters = telling.filter(isLetter).length;
  if (glyphs.length >= MANY) return letters >= MOST * glyphs.length && tight >= 0.4 * glyphs.length;
  // Of few glyphs none may be unusual; two of small letters could be anything.
  return letters === telling.length && (letters > 2 || telling.every(isHigh)) && tight === glyphs.length - 1;
}

/** So few gaps may all be kerned. */
const FEW_GAPS = 8;
/** The usual gap between letters of text faces, em. */
const USUAL_GAP = 0.07;

/** The usual gap between the letters of a line, px: there are more of them than spaces, and they are narrower. */
function usualGap(gaps: readonly number[], size: number): number {
  const sorted = gaps.toSorted((a, b) => a - b);
  const usual = sorted[Math.floor(0.4 * (gaps.length - 1))] ?? 0;
  return Math.min(WIDEST_GAP * size, gaps.length < FEW_GAPS ? Math.max(USUAL_GAP * size, usual) : usual);
}

/** So many glyphs that two lines share make them lines of one font; of short ones a third does. */
const SHARED = { glyphs: 2, share: 1 / 3 };

/** Sorts lines by font: those that share glyphs have one. Lines that are no words are left out. */
class Fonts {
  readonly #codes = new GlyphCodes();
  /** By code, the font and how high the glyph is in it, em. */
  readonly #known = new Map<string, { font: number; em: number }>();
  /** By font, the one that it turned out to be. */
  readonly #same: number[] = [];

  /** The number of a font after all lines were seen. */
  fontOf(font: number): number {
    let at = font;
    while (this.#same[at] !== at) at = this.#same[at] as number;
    return at;
  }

  line(drawn: DrawnGlyphs, sure: boolean): Line | undefined {
    const telling = drawn.glyphs.filter((g) => !isPlain(g));
    const found = telling.flatMap((g) => {
      const known = this.#known.get(this.#codes.find(g) ?? '');
      return known ? [{ font: this.fontOf(known.font), size: heightOf(g) / known.em }] : [];
    });
    const counts = new Map<number, number>();
    for (const { font } of found) counts.set(font, (counts.get(font) ?? 0) + 1);
    const shared = [...counts]
      .filter(([, n]) => n >= SHARED.glyphs || n >= SHARED.share * telling.length)
      .sort((a, b) => b[1] - a[1])
      .map(([font]) => font);
    if (!sure && found.length < 0.5 * telling.length) return undefined;
    const [known] = shared;
    if (!sure && known === undefined) return undefined;
    const font = known ?? this.#same.push(this.#same.length) - 1;
    for (const other of shared) this.#same[other] = font;
    const sizes = found.filter((f) => f.font === font).map((f) => f.size);
    const exact = known === undefined ? drawn.high / CAPITALS : middleOf(sizes);
    const size = Math.max(SIZE_STEP, Math.round(exact / SIZE_STEP) * SIZE_STEP);
    const codes = drawn.glyphs.map((g) => this.#codes.codeOf(g));
    drawn.glyphs.forEach((g, i) => {
      const code = codes[i] ?? '';
      if (!isPlain(g) && !this.#known.has(code)) this.#known.set(code, { font, em: heightOf(g) / exact });
    });
    const gaps = letterGaps(drawn);
    const usual = usualGap(gaps, size);
    return { ...drawn, codes, font, size, usual, gaps: gaps.map((g) => g - usual) };
  }
}

interface Word {
  readonly glyphs: readonly Mark[];
  readonly text: string;
}

/**
 * From which gap beyond the usual one there is a space in lines of one font, em: the place that parts narrow gaps from
 * wide ones best, by the variance that it takes away (Otsu 1979).
 */
function spaceIn(lines: readonly Line[], otherwise: number): number {
  const gaps = lines
    .flatMap((line) => line.gaps.map((g) => g / line.size))
    .filter((g) => Math.abs(g) < APART)
    .sort((a, b) => a - b);
  if (gaps.length < ENOUGH_GAPS) return otherwise;
  const all = gaps.reduce((s, g) => s + g, 0);
  let best = { space: otherwise, apart: 0 };
  let narrow = 0;
  for (const [i, gap] of gaps.entries()) {
    narrow += gap;
    const next = gaps[i + 1];
    const space = next === undefined ? 0 : (gap + next) / 2;
    if (next === undefined || space < SPACE.least || space > SPACE.most) continue;
    const [few, many] = [i + 1, gaps.length - i - 1];
    const apart = few * many * (narrow / few - (all - narrow) / many) ** 2;
    if (apart > best.apart) best = { space, apart };
  }
  return best.space;
}

/** The texts of a line, each as its words. */
function textsOf({ glyphs, codes, size, gaps, usual }: Line, space: number): Word[][] {
  const texts: { glyphs: Mark[]; text: string }[][] = [];
  glyphs.forEach((g, i) => {
    const gap = i === 0 ? Infinity : (gaps[i - 1] as number);
    const code = codes[i] ?? '';
    if (gap > APART * size + usual) texts.push([{ glyphs: [g], text: code }]);
    else if (gap > space * size) texts.at(-1)?.push({ glyphs: [g], text: code });
    else {
      const word = texts.at(-1)?.at(-1);
      word?.glyphs.push(g);
      if (word) word.text += code;
    }
  });
  return texts;
}

/** A letter's advance goes this far beyond what is drawn of it on each side, em: the mean of text faces. */
const BEARING = 0.05;

const leftOf = (word: Word | undefined, size: number): number =>
  (word?.glyphs[0]?.left ?? 0) - BEARING * size;
const rightOf = (word: Word, size: number): number =>
  Math.max(...word.glyphs.map((g) => g.right)) + BEARING * size;

/** The words of a text where they stand along their line, with what is drawn of them. */
const placed = (words: readonly Word[], baseline: number, size: number): PlacedWord[] =>
  words.map((word) => {
    const from = leftOf(word, size);
    const d = word.glyphs.flatMap((g) => g.contours.map((c) => pathOf(c, -from, -baseline))).join('');
    return { text: word.text, from, to: rightOf(word, size), d };
  });

/** A drawing with what else looks like lines of words as texts of drawn words. */
export function withDrawnWords(raw: RawDrawing): RawDrawing {
  const pieces = piecesOf(raw.items);
  const fonts = new Fonts();
  const drawn = drawnLines(pieces);
  const sure = new Set(drawn.filter(isSurelyWords));
  const all = [
    ...[...sure].map((line) => fonts.line(line, true)),
    // What is too short to tell is words where its glyphs are those of words.
    ...drawn.filter((line) => !sure.has(line)).map((line) => fonts.line(line, false)),
  ].filter((line) => line !== undefined);
  if (all.length === 0) return raw;
  const numbers = [...new Set(all.map((line) => fonts.fontOf(line.font)))];
  const lines = all.map((line) => ({ ...line, font: numbers.indexOf(fonts.fontOf(line.font)) }));
  const everywhere = spaceIn(lines, SPACE.usual);
  const spaces = numbers.map((_, font) =>
    spaceIn(
      lines.filter((l) => l.font === font),
      everywhere,
    ),
  );
  const instead = lines.flatMap((line) =>
    textsOf(line, spaces[line.font] ?? everywhere).map((words) => {
      const glyphs = words.flatMap((w) => w.glyphs);
      const [first] = glyphs;
      const item = raw.items[pieces[first?.pieces[0] ?? 0]?.item ?? 0];
      const rule = item && item.kind !== 'text' && item.kind !== 'picture' ? item.art.fillRule : undefined;
      const style: TextStyle = {
        family: drawnFontName(line.font),
        size: line.size,
        weight: 400,
        italic: false,
        letterSpacing: 0,
        colour: first?.paint ?? '#000000',
      };
      const { baseline } = line;
      const x = leftOf(words[0], line.size);
      return {
        pieces: glyphs.flatMap((g) => g.pieces),
        x,
        baseline,
        text: (id: string, groups: readonly string[]): RawText => {
          const runs = drawnRuns(placed(words, baseline, line.size), style, rule);
          return { kind: 'text', id, groups, chunks: [{ x, y: baseline, anchor: 'start', runs }] };
        },
      };
    }),
  );
  return { ...raw, items: replaced(raw.items, pieces, instead) };
}
