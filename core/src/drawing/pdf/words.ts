import { SVGPathData } from 'svg-pathdata';
import type { PlacedOutline } from '../outlined/drawn.js';

/** A glyph of a PDF where it is set: page px, along its line. */
export interface SetGlyph {
  readonly text: string;
  /** From the start of its line's own axis, and where its advance ends. */
  readonly x: number;
  readonly end: number;
  readonly baseline: number;
  readonly style: string;
  readonly size: number;
  /** Its outline from where it is set, px downwards, where its font is not here. */
  readonly outline?: string;
}

/** A stretch of words on one baseline. */
export interface SetWords {
  readonly text: string;
  readonly x: number;
  readonly baseline: number;
  /** From where its first glyph is set to where its last one is. */
  readonly span: number;
  /** What that last one says. */
  readonly last: string;
  readonly style: string;
  /** Its words as they are drawn, where their font is not here: from where to where they go from `x`, and their outlines. */
  readonly drawn?: readonly PlacedOutline[];
}

/** White space beyond a glyph's advance stands for a space from this on, em. */
const SPACE = 0.13;
/** Words further apart than this are texts of their own, em. */
const APART = 0.5;
/** Glyphs stand on one baseline within this, px. */
const LEVEL = 0.1;

/** Glyphs in the order in which they are shown, as stretches of words. Spaces that are shown are glyphs like others. */
export function wordsIn(glyphs: readonly SetGlyph[]): SetWords[] {
  const stretches: SetGlyph[][] = [];
  for (const g of glyphs) {
    const run = stretches.at(-1);
    const last = run?.at(-1);
    const gap = last ? g.x - last.end : 0;
    const spaced = run ? Math.max(0, middle(gapsOf(run))) : 0;
    const goesOn =
      last !== undefined &&
      last.style === g.style &&
      Math.abs(last.baseline - g.baseline) < LEVEL &&
      gap > -0.5 * g.size &&
      gap < APART * g.size + 2 * spaced;
    if (goesOn) run?.push(g);
    else stretches.push([g]);
  }
  return stretches.flatMap((run) => {
    const from = run.findIndex((g) => g.text.trim() !== '');
    const to = run.findLastIndex((g) => g.text.trim() !== '');
    const shown = run.slice(from, to + 1);
    const [first, last] = [shown[0], shown.at(-1)];
    if (from < 0 || !first || !last) return [];
    const spacing = middle(gapsOf(shown));
    let text = '';
    const drawn: { from: number; to: number; d: string }[] = [];
    shown.forEach((g, i) => {
      const before = shown[i - 1];
      const gap = before ? g.x - before.end - Math.max(0, spacing) : 0;
      const isApart = gap > SPACE * g.size && !/\s$/.test(text) && !/^\s/.test(g.text);
      const word = isApart || /\s$/.test(text) ? undefined : drawn.at(-1);
      text += (isApart ? ' ' : '') + g.text;
      if (g.text.trim() === '') return;
      const [from, to] = [g.x - first.x, g.end - first.x];
      if (!word) drawn.push({ from, to, d: moved(g.outline, 0) });
      else {
        word.to = to;
        word.d += moved(g.outline, from - word.from);
      }
    });
    return [
      {
        text: text.replaceAll(/\s+/g, ' '),
        x: first.x,
        baseline: first.baseline,
        span: last.x - first.x,
        last: last.text,
        style: first.style,
        ...(shown.some((g) => g.outline) && { drawn }),
      },
    ];
  });
}

/** An outline so many px further right. */
const moved = (outline: string | undefined, dx: number): string =>
  !outline || dx === 0 ? (outline ?? '') : new SVGPathData(outline).translate(dx, 0).round(100).encode();

/** The last of a long stretch say as much as all of it. */
const MOST_GAPS = 24;
const gapsOf = (run: readonly SetGlyph[]): number[] => {
  const last = run.slice(-MOST_GAPS);
  return last.slice(1).map((g, i) => g.x - (last[i]?.end ?? 0));
};

const middle = (values: readonly number[]): number => {
  const sorted = values.toSorted((a, b) => a - b);
  return sorted[sorted.length >> 1] ?? 0;
};
