import { contains, type Rect, type TextContent, type TextRun } from '../model/index.js';
import {
  baselineInLine,
  faceFor,
  familyNames,
  needsExtended,
  normalLineHeight,
  resolveFamily,
  type Face,
  type TextMeasurer,
} from '../text/index.js';
import { cleanUp, cleanUpNote, NO_DECISIONS, type DrawingDecisions } from './cleanUp.js';
import type { Drawing, Item, Note, TextItem } from './items.js';
import type { RawDrawing, RawText } from './raw.js';
import type { Chunk } from './svgText.js';

/** The font files that measuring a drawing needs. */
export function facesOf(raw: RawDrawing): Face[] {
  const runs = raw.items.flatMap((i) => (i.kind === 'text' ? i.chunks.flatMap((c) => c.runs) : []));
  return facesOfRuns(runs);
}

/** The font files that some runs of text need, each once. */
export function facesOfRuns(runs: readonly TextRun[]): Face[] {
  const found = new Map<string, Face>();
  const add = (face: Face) =>
    found.set(`${face.family.slug} ${face.weight} ${face.italic} ${face.subset}`, face);
  for (const { text, style } of runs) {
    add(faceFor(style));
    if (needsExtended(text)) add(faceFor(style, 'latin-ext'));
  }
  return [...found.values()];
}

interface Line {
  readonly x: number;
  readonly baseline: number;
  readonly width: number;
  readonly runs: readonly TextRun[];
}

/** Chunks on one baseline, side by side, are one line. */
const SAME_BASELINE = 0.6;
/** White space wider than this share of the type size stands for a space between two chunks. */
const SPACE = 0.14;
/** Chunks further apart than this many type sizes are not one line. */
const APART = 1;

/** The runs of a chunk, spaced so that it has the width that the file wants. */
function spacedRuns(chunk: Chunk, m: TextMeasurer): { runs: readonly TextRun[]; width: number } {
  const width = chunk.runs.reduce((sum, r) => sum + m.width(r.text, r.style), 0);
  const letters = chunk.runs.reduce((sum, r) => sum + Array.from(r.text).length, 0);
  if (chunk.wanted === undefined || letters === 0) return { runs: chunk.runs, width };
  const more = (chunk.wanted - width) / letters;
  const runs = chunk.runs.map((r) => ({
    ...r,
    style: { ...r.style, letterSpacing: r.style.letterSpacing + more },
  }));
  return { runs, width: chunk.wanted };
}

function linesOf(chunks: readonly Chunk[], m: TextMeasurer): Line[] {
  const lines: Line[] = [];
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
function pitchOf(lines: readonly Line[]): number | undefined {
  const steps = lines.slice(1).map((l, i) => l.baseline - (lines[i]?.baseline ?? 0));
  const mean = steps.reduce((s, d) => s + d, 0) / steps.length;
  return steps.length > 0 && mean > 0 && steps.every((d) => Math.abs(d - mean) < 1.1) ? mean : undefined;
}

function alignOf(lines: readonly Line[], anchor: Chunk['anchor']): TextContent['align'] {
  const spread = (of: (l: Line) => number) => Math.max(...lines.map(of)) - Math.min(...lines.map(of));
  const byAnchor = anchor === 'middle' ? 'centre' : anchor === 'end' ? 'end' : 'start';
  if (lines.length < 2 || spread((l) => l.x) < 1) return lines.length < 2 ? byAnchor : 'start';
  if (spread((l) => l.x + l.width / 2) < 1) return 'centre';
  return spread((l) => l.x + l.width) < 1 ? 'end' : byAnchor;
}

/**
 * Joins lines to one paragraph. A line that ends although the next word would have had room clearly ends because the
 * writer wanted it: that break stays.
 */
function joinLines(lines: readonly Line[], m: TextMeasurer): TextRun[] {
  const widest = Math.max(...lines.map((l) => l.width));
  const runs: TextRun[] = [];
  for (const [i, line] of lines.entries()) {
    const last = runs.at(-1);
    const first = line.runs[0];
    if (last && first) {
      const word = /^\S+/.exec(first.text)?.[0] ?? '';
      const before = lines[i - 1]?.width ?? 0;
      const room = widest - before - m.width(` ${word}`, first.style);
      const glue = room > 1 ? '\n' : /[-\u2010\u2013]$/.test(last.text) ? '' : ' ';
      runs[runs.length - 1] = { ...last, text: last.text + glue };
    }
    runs.push(...line.runs);
  }
  return mergeRuns(runs);
}

const sameStyle = (a: TextRun, b: TextRun): boolean => JSON.stringify(a.style) === JSON.stringify(b.style);

function mergeRuns(runs: readonly TextRun[]): TextRun[] {
  const merged: TextRun[] = [];
  for (const run of runs) {
    const last = merged.at(-1);
    if (last && sameStyle(last, run)) merged[merged.length - 1] = { ...last, text: last.text + run.text };
    else merged.push(run);
  }
  return merged;
}

const styleKey = (run: TextRun | undefined): string => `${run?.style.family}|${run?.style.size}`;

function textItem(raw: RawText, lines: readonly Line[], lineHeight: number, m: TextMeasurer): TextItem {
  const first = lines[0];
  const style = first?.runs[0]?.style;
  if (!first || !style) throw new RangeError(`The text ${raw.id} has no line.`);
  const x = Math.min(...lines.map((l) => l.x));
  const width = Math.max(...lines.map((l) => l.x + l.width)) - x;
  const top = first.baseline - baselineInLine(m.metrics(style), lineHeight);
  return {
    kind: 'text',
    id: raw.id,
    groups: raw.groups,
    paint: {},
    box: { x, y: top, width, height: lineHeight * lines.length },
    content: {
      kind: 'text',
      runs: joinLines(lines, m),
      lineHeight,
      align: alignOf(lines, raw.chunks[0]?.anchor ?? 'start'),
    },
    lines: lines.map((l) => ({ x: l.x, baseline: l.baseline, width: l.width })),
  };
}

/** Chunks that stand at unlike distances below each other are paragraphs of their own. */
function paragraphs(raw: RawText, m: TextMeasurer): Measured[] {
  const lines = linesOf(raw.chunks, m);
  if (lines.length < 2 || pitchOf(lines) !== undefined) return [{ raw, lines }];
  return lines.map((line, i) => ({
    raw: { ...raw, id: i === 0 ? raw.id : `${raw.id}-line-${i + 1}`, chunks: raw.chunks.slice(0, 1) },
    lines: [line],
  }));
}

interface Measured {
  readonly raw: RawText;
  readonly lines: readonly Line[];
}

const lastLine = (t: Measured): Line | undefined => t.lines.at(-1);
const wordsOf = (line: Line | undefined): string => line?.runs.map((r) => r.text).join('') ?? '';

/** Whether a text goes on where another ends: the next word of its line, or the next line of its paragraph. */
function continuation(a: Measured, b: Measured, m: TextMeasurer): 'line' | 'paragraph' | undefined {
  const [end, start] = [lastLine(a), b.lines[0]];
  const [ra, rb] = [end?.runs.at(-1), start?.runs[0]];
  if (!end || !start || !ra || !rb || a.raw.groups.join() !== b.raw.groups.join() || !sameStyle(ra, rb))
    return undefined;
  const { size } = ra.style;
  const space = m.width(' ', ra.style);
  const gap = start.x - end.x - end.width;
  if (Math.abs(start.baseline - end.baseline) < SAME_BASELINE)
    return Math.abs(gap - space) < space * 0.45 ? 'line' : undefined;
  const pitch = start.baseline - end.baseline;
  const sameStart = Math.abs(start.x - (a.lines[0]?.x ?? NaN)) < 0.6;
  if (!sameStart || pitch < size * 0.95 || pitch > size * 1.8) return undefined;
  // The line ends in the middle of a sentence, and the next word had no room in it.
  const goesOn = !/[.!?:]$/.test(wordsOf(end)) && /^[\p{Ll},;]/u.test(wordsOf(start));
  const widest = Math.max(...a.lines.map((l) => l.width), ...b.lines.map((l) => l.width));
  const word = /^\S+/.exec(wordsOf(start))?.[0] ?? '';
  const steady = a.lines.length < 2 || Math.abs((pitchOf(a.lines) ?? NaN) - pitch) < 1.1;
  return goesOn && steady && end.width + m.width(` ${word}`, ra.style) > widest - 1 ? 'paragraph' : undefined;
}

/** Joins texts that exporters cut into words or lines, as far as that was not taken back. */
function joinTexts(
  texts: readonly Measured[],
  decisions: DrawingDecisions,
  m: TextMeasurer,
): { texts: Measured[]; joined: string[] } {
  const found: Measured[] = [];
  const joined = new Set<string>();
  for (const text of texts) {
    const last = found.at(-1);
    const kept = decisions.keepKinds.includes('words') || decisions.keep.includes(text.raw.id);
    const how = last && !kept ? continuation(last, text, m) : undefined;
    const [end, start] = [last && lastLine(last), text.lines[0]];
    if (!last || !how || !end || !start) {
      found.push(text);
      continue;
    }
    joined.add(last.raw.id);
    const space = { ...(start.runs[0] as TextRun), text: ' ' };
    const whole: Line = {
      ...end,
      width: start.x + start.width - end.x,
      runs: [...end.runs, space, ...start.runs],
    };
    const lines =
      how === 'line'
        ? [...last.lines.slice(0, -1), whole, ...text.lines.slice(1)]
        : [...last.lines, ...text.lines];
    found[found.length - 1] = {
      raw: { ...last.raw, chunks: [...last.raw.chunks, ...text.raw.chunks] },
      lines,
    };
  }
  return { texts: found, joined: [...joined] };
}

/**
 * Measures the texts of a drawing and cleans it up: the shape that covers the whole frame becomes its background.
 * The measurer must hold the files of {@link facesOf}.
 */
export function measureDrawing(
  raw: RawDrawing,
  m: TextMeasurer,
  decisions: DrawingDecisions = NO_DECISIONS,
): Drawing {
  const cleaned = cleanUp(raw, decisions);
  // Only texts that follow each other in the file are taken for pieces of one.
  const runsOfTexts: Measured[][] = [];
  const order: (Item | Measured[])[] = [];
  for (const item of cleaned.items) {
    const last = order.at(-1);
    if (item.kind !== 'text') order.push(item.item);
    else if (Array.isArray(last)) last.push(...paragraphs(item, m));
    else {
      const run = paragraphs(item, m);
      runsOfTexts.push(run);
      order.push(run);
    }
  }
  // An exporter that writes a paragraph as one text writes what is apart as texts of their own.
  const writesParagraphs = runsOfTexts.flat().some((t) => t.lines.length > 1);
  const words: string[] = [];
  const joined = new Map(
    runsOfTexts.map((run) => {
      if (writesParagraphs) return [run, run];
      const result = joinTexts(run, decisions, m);
      words.push(...result.joined);
      return [run, result.texts];
    }),
  );
  const pitches = new Map<string, number>();
  for (const { lines } of [...joined.values()].flat()) {
    const pitch = pitchOf(lines);
    if (pitch !== undefined) pitches.set(styleKey(lines[0]?.runs[0]), pitch);
  }
  const items = order.flatMap((entry): Item[] => {
    if (!Array.isArray(entry)) return [entry];
    return (joined.get(entry) ?? []).flatMap(({ raw: one, lines }) => {
      const run = lines[0]?.runs[0];
      if (!run) return [];
      const lineHeight =
        pitchOf(lines) ?? pitches.get(styleKey(run)) ?? normalLineHeight(m.metrics(run.style));
      return [textItem(one, lines, lineHeight, m)];
    });
  });
  const frame: Rect = { x: 0, y: 0, width: raw.width, height: raw.height };
  let covering = 0;
  while (items[covering]?.kind === 'shape' && contains(items[covering]?.box ?? frame, frame, 1)) covering++;
  const background = items.slice(0, covering);
  return {
    name: raw.name,
    width: raw.width,
    height: raw.height,
    background: background.at(-1)?.paint ?? {},
    backgroundIds: background.map((i) => i.id),
    items: items.slice(covering),
    notes: [
      ...raw.notes,
      ...cleaned.notes,
      ...(words.length > 0 ? [cleanUpNote('words', words)] : []),
      ...fallbackNotes(items),
    ],
  };
}

function fallbackNotes(items: readonly Item[]): Note[] {
  const places = new Map<string, string[]>();
  for (const item of items) {
    if (item.kind !== 'text') continue;
    for (const { style } of item.content.runs) {
      const { family, exact } = resolveFamily(style.family);
      const name = familyNames(style.family)[0] ?? style.family;
      if (exact) continue;
      const text = `“${name}” is not here: measured with ${family.family}.`;
      const ids = places.get(text) ?? [];
      if (!ids.includes(item.id)) ids.push(item.id);
      places.set(text, ids);
    }
  }
  return [...places].map(([text, ids]) => ({ kind: 'fell back', text, items: ids }));
}
