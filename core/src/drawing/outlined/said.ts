import { plainText, UNREAD, type TextRun } from '../../model/index.js';
import { resolveFamily, type TextMeasurer } from '../../text/index.js';
import type { DrawingDecisions } from '../cleanUp.js';
import type { Drawing, TextItem } from '../items.js';
import type { RawDrawing, RawItem } from '../raw.js';
import type { Chunk } from '../svgText.js';
import { drawnRuns, middleOf } from './drawn.js';

/** What glyphs of a font that is not here say: one glyph a letter, or all of a word. */
export interface Said {
  readonly glyphs: string;
  readonly text: string;
}

/** The font that the words of a drawn one are set in. */
export interface SetIn {
  /** What the drawn font is called in the drawing. */
  readonly drawn: string;
  readonly family: string;
  readonly weight: number;
  readonly italic: boolean;
}

const NAME = 'Drawn font ';
/** What the n-th font that is not here is called in a drawing. */
export const drawnFontName = (n: number): string => `${NAME}${n + 1}`;
/** Whether a family is only what words look like. */
export const isDrawnFont = (family: string): boolean => family.startsWith(NAME);

/** What a drawn word says, as far as that was said: the whole word by itself, else its glyphs one by one. */
function reading(said: readonly Said[]): (glyphs: string) => string {
  const known = new Map(said.map((s) => [s.glyphs, s.text]));
  return (glyphs) => known.get(glyphs) ?? Array.from(glyphs, (g) => known.get(g) ?? g).join('');
}

/** A drawing with what was said of its drawn words, and with the fonts that those are to be set in that can be read. */
export function withSaid(raw: RawDrawing, { said, setIn }: DrawingDecisions): RawDrawing {
  if (said.length + setIn.length === 0) return raw;
  const read = reading(said);
  const fonts = new Map(setIn.map((s) => [s.drawn, s]));
  const chunk = ({ drawn, ...c }: Chunk): Chunk => {
    const runs = c.runs.map((r) => (r.drawn ? { ...r, text: read(r.text) } : r));
    const font = fonts.get(runs[0]?.style.family ?? '');
    const mayBeSet = drawn !== undefined || runs.some((r) => r.drawn);
    if (!font || !mayBeSet || runs.some((r) => r.drawn && UNREAD.test(r.text)))
      return { ...c, ...(drawn && { drawn }), runs };
    const { family, weight, italic } = font;
    return { ...c, runs: runs.map((r) => ({ ...r, style: { ...r.style, family, weight, italic } })) };
  };
  return {
    ...raw,
    items: raw.items.map((i) => (i.kind === 'text' ? { ...i, chunks: i.chunks.map(chunk) } : i)),
  };
}

/** The words of a chunk as they are drawn; undefined where they are not those that it says. */
function runsOf({ drawn = [], runs }: Chunk): TextRun[] | undefined {
  const [run, ...others] = runs;
  const words = run?.text.split(' ') ?? [];
  if (!run || others.length > 0 || words.length !== drawn.length) return undefined;
  return drawnRuns(
    drawn.map((w, i) => ({ ...w, text: words[i] ?? '' })),
    run.style,
  );
}

/** Words whose font is not here, but which the file draws, as drawn words. */
export function keepDrawn(items: readonly RawItem[], m: TextMeasurer): readonly RawItem[] {
  const chunk = (c: Chunk): Chunk => {
    const isHere = resolveFamily(c.runs[0]?.style.family ?? '', m.own).exact;
    const runs = c.drawn && !isHere ? runsOf(c) : undefined;
    if (!runs) return c;
    const { span: _, last: __, drawn: ___, ...rest } = c;
    return { ...rest, runs };
  };
  return items.map((i) =>
    i.kind === 'text' && i.chunks.some((c) => c.drawn) ? { ...i, chunks: i.chunks.map(chunk) } : i,
  );
}

/** Whether drawn words are to be set in a font that is here. */
const isSet = ({ runs }: Chunk): boolean =>
  runs.length > 0 && runs.every((r) => r.drawn && !isDrawnFont(r.style.family));

/** Sizes are rounded to this, px. */
const STEP = 0.5;

/** Drawn words that are to be set in a font as words of it, in the size at which most are as wide as drawn. */
export function setWords(items: readonly RawItem[], m: TextMeasurer): readonly RawItem[] {
  const ratios = new Map<string, number[]>();
  const keyOf = ({ style }: TextRun) => `${style.family} ${style.weight} ${style.italic} ${style.size}`;
  const chunks = items.flatMap((i) => (i.kind === 'text' ? i.chunks.filter(isSet) : []));
  if (chunks.length === 0) return items;
  for (const run of chunks.flatMap((c) => c.runs)) {
    const width = m.width(run.text, run.style);
    if (!run.drawn?.d || width === 0) continue;
    ratios.set(keyOf(run), [...(ratios.get(keyOf(run)) ?? []), run.drawn.width / width]);
  }
  const set = (c: Chunk): Chunk => {
    const [first] = c.runs;
    if (!isSet(c) || !first) return c;
    const size = Math.round((first.style.size * middleOf(ratios.get(keyOf(first)) ?? [1])) / STEP) * STEP;
    const text = c.runs.map((r) => r.text).join('');
    return { ...c, runs: [{ text, style: { ...first.style, size: Math.max(STEP, size) } }] };
  };
  return items.map((i) => (i.kind === 'text' ? { ...i, chunks: i.chunks.map(set) } : i));
}

/** A font that is not here, as far as its words are drawn in a drawing. */
export interface DrawnFont {
  readonly name: string;
  /** The texts in it, and those of them of which something is not said yet. */
  readonly items: readonly string[];
  readonly unread: readonly string[];
  /** How many shapes of glyphs it has that are not said yet. */
  readonly shapes: number;
}

/** Whether a text's words are kept as they are drawn. */
export const isDrawn = ({ content }: TextItem): boolean => content.runs.some((r) => r.drawn);

/** The fonts that are not here, by what they are called. */
export function drawnFontsIn({ items }: Pick<Drawing, 'items'>): DrawnFont[] {
  const texts = items.filter((i) => i.kind === 'text').filter(isDrawn);
  const names = new Set(texts.map((t) => t.content.runs[0]?.style.family ?? ''));
  return [...names]
    .sort((a, b) => a.localeCompare(b, 'en', { numeric: true }))
    .map((name) => {
      const own = texts.filter((t) => t.content.runs[0]?.style.family === name);
      const words = own.map((t) => ({ id: t.id, text: plainText(t.content) }));
      return {
        name,
        items: words.map((w) => w.id),
        unread: words.filter((w) => UNREAD.test(w.text)).map((w) => w.id),
        shapes: new Set(words.flatMap((w) => Array.from(w.text).filter((ch) => UNREAD.test(ch)))).size,
      };
    });
}

/** What was typed for a text, told glyph by glyph, or why it cannot be. */
export type Taught = { readonly said: readonly Said[] } | { readonly refusal: string };

/**
 * Teaches what the glyphs of a drawn text say from its words as they were typed: where a word has as many glyphs as
 * letters each is learnt, so that other words can be read as well; else the word as a whole.
 */
export function teach({ content }: TextItem, typed: string): Taught {
  const drawn = content.runs.filter((r) => r.drawn && r.text.trim() !== '').map((r) => r.text);
  const words = typed.split(/\s+/).filter((w) => w !== '');
  if (words.length !== drawn.length)
    return {
      refusal: `The text shows ${drawn.length} ${drawn.length === 1 ? 'word' : 'words'}, but ${words.length} ${words.length === 1 ? 'was' : 'were'} typed: type them with one space between two.`,
    };
  const said = drawn.flatMap((glyphs, i): Said[] => {
    const text = words[i] ?? '';
    const [shapes, letters] = [Array.from(glyphs), Array.from(text)];
    if (!UNREAD.test(glyphs)) return [];
    if (shapes.length !== letters.length)
      return shapes.every((s) => UNREAD.test(s)) ? [{ glyphs, text }] : [];
    return shapes.flatMap((s, k) => (UNREAD.test(s) ? [{ glyphs: s, text: letters[k] ?? s }] : []));
  });
  return { said };
}
