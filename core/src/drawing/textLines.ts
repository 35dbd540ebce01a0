import type { TextContent, TextRun } from '../model/index.js';
import { runWidth, type TextMeasurer } from '../text/index.js';
import type { Chunk } from './svgText.js';

/** A drawn line of a text, frame px. */
export interface DrawnLine {
  readonly x: number;
  readonly baseline: number;
  readonly width: number;
  readonly runs: readonly TextRun[];
}

/** Chunks on one baseline, side by side, are one line. */
export const SAME_BASELINE = 0.6;
/** White space wider than this share of the type size stands for a space between two chunks. */
const SPACE = 0.14;
/** Chunks further apart than this many type sizes are not one line. */
const APART = 1;

/** Letter-spacing that was measured is meant from this on, px and em: less is rounding. */
const MEANT = { px: 0.06, em: 0.006 };

/** The letter-spacing by which the glyphs of a chunk stand as far apart as drawn, px. */
function spacingIn({ span = 0, last, runs }: Chunk, m: TextMeasurer): number {
  const [run] = runs;
  const letters = Array.from(run?.text ?? '');
  if (!run || letters.length < 2) return 0;
  const { text, style } = run;
  const end = last ?? letters.at(-1) ?? '';
  const before = letters.length - Array.from(end).length;
  if (before < 1) return 0;
  const spacing = (span - m.width(text, style) + m.width(end, style)) / before;
  return Math.abs(spacing) < Math.max(MEANT.px, MEANT.em * style.size) ? 0 : Math.round(spacing * 100) / 100;
}

/** The runs of a chunk, spaced so that it has the width that the file wants. */
function spacedRuns(chunk: Chunk, m: TextMeasurer): { runs: readonly TextRun[]; width: number } {
  if (chunk.span !== undefined) {
    const letterSpacing = spacingIn(chunk, m);
    const runs = chunk.runs.map((r) => ({ ...r, style: { ...r.style, letterSpacing } }));
    return { runs, width: runs.reduce((sum, r) => sum + runWidth(r, m), 0) };
  }
  const width = chunk.runs.reduce((sum, r) => sum + runWidth(r, m), 0);
  const letters = chunk.runs.reduce((sum, r) => sum + Array.from(r.text).length, 0);
  if (chunk.wanted === undefined || letters === 0) return { runs: chunk.runs, width };
  const more = (chunk.wanted - width) / letters;
  const runs = chunk.runs.map((r) => ({
    ...r,
    style: { ...r.style, letterSpacing: r.style.letterSpacing + more },
  }));
  return { runs, width: chunk.wanted };
}

export function linesOf(chunks: readonly Chunk[], m: TextMeasurer): DrawnLine[] {
  const lines: DrawnLine[] = [];
  let end = 0;
  for (const chunk of chunks) {
    const { runs, width } = spacedRuns(chunk, m);
    const from = chunk.after === undefined ? chunk.x : end + chunk.after;
    const x = from - (chunk.anchor === 'middle' ? width / 2 : chunk.anchor === 'end' ? width : 0);
    end = x + width;
    const last = lines.at(-1);
    const size = runs[0]?.style.size ?? 16;
    const gap = last ? x - last.x - last.width : 0;
    if (
      last &&
      Math.abs(last.baseline - chunk.y) < SAME_BASELINE &&
      gap > -size * SPACE &&
      gap < size * APART
    ) {
      const first = runs[0];
      const space = first && gap > size * SPACE ? [{ ...first, text: ' ' }] : [];
      lines[lines.length - 1] = {
        ...last,
        width: x + width - last.x,
        runs: [...last.runs, ...space, ...runs],
      };
    } else lines.push({ x, baseline: chunk.y, width, runs });
  }
  return lines;
}

/** The usual distance between the baselines, when it is the same for all lines. */
export const pitchOf = (lines: readonly DrawnLine[]): number | undefined => meanPitch(lines, () => 1.1);

/** Pieces of another type in a line make it so much higher than the others of its paragraph, as a share. */
const HIGHER = 0.12;

/**
 * The distance of the lines of what the file says is one text, px: some may be a little higher than others, where they
 * hold a piece of another type. Undefined where they stand at unlike distances.
 */
export const pitchOfText = (lines: readonly DrawnLine[]): number | undefined =>
  pitchOf(lines) ?? (startAlike(lines) ? meanPitch(lines, (mean) => mean * HIGHER) : undefined);

const startAlike = (lines: readonly DrawnLine[]): boolean =>
  lines.every((l) => Math.abs(l.x - (lines[0]?.x ?? NaN)) < 1);

function meanPitch(lines: readonly DrawnLine[], off: (mean: number) => number): number | undefined {
  const steps = lines.slice(1).map((l, i) => l.baseline - (lines[i]?.baseline ?? 0));
  const mean = steps.reduce((s, d) => s + d, 0) / steps.length;
  return steps.length > 0 && mean > 0 && steps.every((d) => Math.abs(d - mean) < off(mean))
    ? mean
    : undefined;
}

/** Side bearings of drawn words are not known: their lines seem to begin and end this far off, em. */
const UNKNOWN_BEARING = 0.08;
/** By how much the ends of lines may be off because their side bearings are not known, px; 0 for words in a font. */
export const bearingOff = (lines: readonly DrawnLine[]): number =>
  Math.max(0, ...lines.map(({ runs: [first] }) => (first?.drawn ? UNKNOWN_BEARING * first.style.size : 0)));

export function alignOf(lines: readonly DrawnLine[], anchor: Chunk['anchor']): TextContent['align'] {
  const off = Math.max(1, 2 * bearingOff(lines));
  const spread = (of: (l: DrawnLine) => number) => Math.max(...lines.map(of)) - Math.min(...lines.map(of));
  const byAnchor = anchor === 'middle' ? 'centre' : anchor === 'end' ? 'end' : 'start';
  if (lines.length < 2 || spread((l) => l.x) < off) return lines.length < 2 ? byAnchor : 'start';
  if (spread((l) => l.x + l.width / 2) < off) return 'centre';
  return spread((l) => l.x + l.width) < off ? 'end' : byAnchor;
}

const NO_BREAK_SPACE = '\u00a0';
/** An indentation is of whole spaces when it is off by no more than this share of one. */
const WHOLE_SPACES = 0.15;

/**
 * Lines of which some are indented by whole spaces, as those of code are: each with its spaces written, so that it stands
 * where it was drawn. Other lines come back as they are.
 */
export function indentedLines(lines: readonly DrawnLine[], m: TextMeasurer): readonly DrawnLine[] {
  const left = Math.min(...lines.map((l) => l.x));
  const indents = lines.map((line) => {
    const [first] = line.runs;
    const space = first && !first.drawn ? m.width(NO_BREAK_SPACE, first.style) : Infinity;
    const count = Math.round((line.x - left) / space);
    return { line, first, count, isWhole: Math.abs(line.x - left - count * space) <= WHOLE_SPACES * space };
  });
  if (indents.some((i) => !i.isWhole) || indents.every((i) => i.count === 0)) return lines;
  return indents.map(({ line, first, count }) =>
    first && count > 0
      ? {
          ...line,
          x: left,
          width: line.x + line.width - left,
          runs: [{ ...first, text: NO_BREAK_SPACE.repeat(count) + first.text }, ...line.runs.slice(1)],
        }
      : line,
  );
}

/** The usual width of a space, em. */
const USUAL_SPACE = 0.28;

/** A space as the words of a line have it. */
export function spaceRun({ runs }: Pick<DrawnLine, 'runs'>): TextRun {
  const [first] = runs;
  if (!first) throw new RangeError('A line without words has no space.');
  const space = runs.find((r) => r.drawn && r.text === ' ');
  const { size } = first.style;
  return (
    space ?? {
      text: ' ',
      style: first.style,
      ...(first.drawn && { drawn: { width: USUAL_SPACE * size, size, d: '' } }),
    }
  );
}

/** How much room a line's first word would have needed at the end of the line before, with the space in front of it, px. */
export function nextWordWidth(line: DrawnLine, m: TextMeasurer): number {
  const [first] = line.runs;
  if (!first) return 0;
  if (first.drawn) return runWidth(spaceRun(line), m) + runWidth(first, m);
  return m.width(` ${/^\S+/.exec(first.text)?.[0] ?? ''}`, first.style);
}

/**
 * Joins lines to one paragraph. A line that ends although the next word would have had room clearly ends because the
 * writer wanted it: that break stays, and so do all of code.
 */
export function joinLines(lines: readonly DrawnLine[], m: TextMeasurer): TextRun[] {
  const widest = Math.max(...lines.map((l) => l.width));
  const isCode = lines.some((l) => l.runs[0]?.text.startsWith(NO_BREAK_SPACE));
  const runs: TextRun[] = [];
  for (const [i, line] of lines.entries()) {
    const last = runs.at(-1);
    const first = line.runs[0];
    if (last && first) {
      const before = lines[i - 1]?.width ?? 0;
      const room = widest - before - nextWordWidth(line, m);
      const glue = isCode || room > 1 ? '\n' : /[-\u2010\u2013]$/.test(last.text) ? '' : ' ';
      if (last.drawn) runs.push(glue === ' ' ? spaceRun(line) : { text: glue, style: last.style });
      else runs[runs.length - 1] = { ...last, text: last.text + glue };
    }
    runs.push(...line.runs);
  }
  return mergeRuns(runs);
}

export const sameStyle = (a: TextRun, b: TextRun): boolean =>
  JSON.stringify(a.style) === JSON.stringify(b.style);

function mergeRuns(runs: readonly TextRun[]): TextRun[] {
  const merged: TextRun[] = [];
  for (const run of runs) {
    const last = merged.at(-1);
    if (last && !last.drawn && !run.drawn && sameStyle(last, run))
      merged[merged.length - 1] = { ...last, text: last.text + run.text };
    else merged.push(run);
  }
  return merged;
}

export const styleKey = (run: TextRun | undefined): string => `${run?.style.family}|${run?.style.size}`;
