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
import type { Drawing, Item, Note, TextItem } from './items.js';
import type { RawDrawing, RawText } from './svg.js';
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

function linesOf(chunks: readonly Chunk[], m: TextMeasurer): Line[] {
  const lines: Line[] = [];
  for (const chunk of chunks) {
    const width = chunk.runs.reduce((sum, r) => sum + m.width(r.text, r.style), 0);
    const x = chunk.x - (chunk.anchor === 'middle' ? width / 2 : chunk.anchor === 'end' ? width : 0);
    const last = lines.at(-1);
    if (last && Math.abs(last.baseline - chunk.y) < SAME_BASELINE && x >= last.x + last.width - 0.5) {
      const first = chunk.runs[0];
      const space = first && x - last.x - last.width > 0.5 ? [{ ...first, text: ' ' }] : [];
      lines[lines.length - 1] = {
        ...last,
        width: x + width - last.x,
        runs: [...last.runs, ...space, ...chunk.runs],
      };
    } else lines.push({ x, baseline: chunk.y, width, runs: chunk.runs });
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
function paragraphs(raw: RawText, m: TextMeasurer): { raw: RawText; lines: Line[] }[] {
  const lines = linesOf(raw.chunks, m);
  if (lines.length < 2 || pitchOf(lines) !== undefined) return [{ raw, lines }];
  return lines.map((line, i) => ({
    raw: { ...raw, id: i === 0 ? raw.id : `${raw.id}-line-${i + 1}`, chunks: raw.chunks.slice(0, 1) },
    lines: [line],
  }));
}

/**
 * Measures the texts of a drawing and cleans it up: the shape that covers the whole frame becomes its background.
 * The measurer must hold the files of {@link facesOf}.
 */
export function measureDrawing(raw: RawDrawing, m: TextMeasurer): Drawing {
  const texts = new Map(
    raw.items.flatMap((i) => (i.kind === 'text' ? [[i, paragraphs(i, m)] as const] : [])),
  );
  const pitches = new Map<string, number>();
  for (const group of texts.values())
    for (const { lines } of group) {
      const pitch = pitchOf(lines);
      if (pitch !== undefined) pitches.set(styleKey(lines[0]?.runs[0]), pitch);
    }
  const items: Item[] = [];
  for (const item of raw.items) {
    if (item.kind !== 'text') items.push(item.item);
    else
      for (const { raw: one, lines } of texts.get(item) ?? []) {
        const run = lines[0]?.runs[0];
        if (!run) continue;
        const lineHeight =
          pitchOf(lines) ?? pitches.get(styleKey(run)) ?? normalLineHeight(m.metrics(run.style));
        items.push(textItem(one, lines, lineHeight, m));
      }
  }
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
    notes: [...raw.notes, ...fallbackNotes(items)],
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
