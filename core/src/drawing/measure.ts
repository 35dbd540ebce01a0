import { contains, type Rect } from '../model/index.js';
import {
  baselineInLine,
  facesOfRuns,
  familyNames,
  normalLineHeight,
  resolveFamily,
  type Face,
  type Family,
  type TextMeasurer,
} from '../text/index.js';
import { adjustMissingFonts } from './adjust.js';
import { depthNotes } from './contain.js';
import { cleanUp, cleanUpNote, NO_DECISIONS, type DrawingDecisions } from './cleanUp.js';
import { applyForced } from './force.js';
import type { Drawing, Item, Note, TextItem } from './items.js';
import { joinTexts, paragraphs, type Measured } from './joinTexts.js';
import { drawnFontsIn, isDrawnFont, keepDrawn, setWords } from './outlined/said.js';
import type { RawDrawing, RawText } from './raw.js';
import {
  alignOf,
  indentedLines,
  joinLines,
  pitchOf,
  pitchOfText,
  styleKey,
  type DrawnLine,
} from './textLines.js';
import { turnText } from './turned.js';

/** The font files that measuring a drawing needs. */
export const facesOf = (raw: RawDrawing, own: readonly Family[] = []): Face[] =>
  facesOfRuns(
    raw.items.flatMap((i) => (i.kind === 'text' ? i.chunks.flatMap((c) => c.runs) : [])),
    own,
  );

function textItem(raw: RawText, drawn: readonly DrawnLine[], lineHeight: number, m: TextMeasurer): TextItem {
  const align = alignOf(drawn, raw.chunks[0]?.anchor ?? 'start');
  const lines = align === 'start' ? indentedLines(drawn, m) : drawn;
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
      align,
    },
    lines: lines.map((l) => ({ x: l.x, baseline: l.baseline, width: l.width })),
    ...(raw.outlined && { outlined: raw.outlined }),
  };
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
  const adjusted = adjustMissingFonts(keepDrawn(setWords(cleaned.items, m), m), m);
  // Only texts that follow each other in the file are taken for pieces of one.
  const runsOfTexts: Measured[][] = [];
  const order: (Item | Measured[])[] = [];
  for (const item of adjusted) {
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
      const known = one.lineHeight ?? pitchOfText(lines) ?? pitches.get(styleKey(run));
      const metrics = m.metrics(run.style);
      const lineHeight = known ?? normalLineHeight(metrics);
      const item: TextItem = {
        ...textItem(one, lines, lineHeight, m),
        ...(known === undefined && { loneLine: { letters: metrics.ascent + metrics.descent } }),
      };
      return [one.angle === undefined ? item : turnText(item, one.angle)];
    });
  });
  const frame: Rect = { x: 0, y: 0, width: raw.width, height: raw.height };
  const covering = decisions.keepKinds.includes('background') ? 0 : coveringShapes(items, frame, decisions);
  const background = items.slice(0, covering);
  const backgroundIds = background.map((i) => i.id);
  const own = applyForced(items.slice(covering), decisions, m);
  return {
    name: raw.name,
    width: raw.width,
    height: raw.height,
    background: background.at(-1)?.paint ?? {},
    backgroundIds,
    items: own,
    notes: [
      ...raw.notes,
      ...cleaned.notes,
      ...(covering > 0 ? [cleanUpNote('background', backgroundIds)] : []),
      ...(words.length > 0 ? [cleanUpNote('words', words)] : []),
      ...drawnNotes(own),
      ...fontNotes(own, m),
      ...depthNotes(own),
      ...wholePictureNotes(own, frame),
    ],
    ...(cleaned.safeArea && { safeArea: cleaned.safeArea }),
  };
}

/** How many of the first items cover the whole frame. */
function coveringShapes(items: readonly Item[], frame: Rect, { keep }: DrawingDecisions): number {
  const first = items.findIndex(
    (i) => i.kind !== 'shape' || !contains(i.box, frame, 1) || keep.includes(i.id),
  );
  return first < 0 ? items.length : first;
}

/** What is told of a file that is nothing but a picture of a screen. */
function wholePictureNotes(items: readonly Item[], frame: Rect): Note[] {
  const [only] = items;
  if (items.length !== 1 || only?.kind !== 'picture' || !contains(only.box, frame, WHOLE)) return [];
  const text =
    'The file is one picture of the whole screen, in which nothing can be told apart: export the screen as SVG or PDF, with its words and boxes.';
  return [{ kind: 'not understood', text, items: [only.id] }];
}
/** A picture is as large as the frame but for this, px. */
const WHOLE = 2;

/** What is said of words that are kept as they are drawn. */
const drawnNotes = (items: readonly Item[]): Note[] =>
  drawnFontsIn({ items }).map(({ name, items: own }) => ({
    kind: 'fell back',
    text: isDrawnFont(name)
      ? `Words are outlines of a font that is not here: kept as they are drawn, as “${name}”.`
      : `“${familyNames(name)[0] ?? name}” is not here: its words are kept as the file draws them.`,
    items: own,
  }));

/** What is said of fonts: which stand in for missing ones, and what no font here can show. */
function fontNotes(items: readonly Item[], m: TextMeasurer): Note[] {
  const places = new Map<string, Set<string>>();
  const add = (text: string, id: string) => {
    const ids = places.get(text) ?? new Set();
    places.set(text, ids.add(id));
  };
  for (const item of items) {
    const content =
      item.kind === 'text'
        ? item.content
        : item.kind === 'art' && item.content.kind === 'turned'
          ? item.content.text
          : undefined;
    for (const { text, style, drawn } of content?.runs ?? []) {
      if (drawn) continue;
      const { family, exact } = resolveFamily(style.family, m.own);
      const name = familyNames(style.family)[0] ?? style.family;
      const scaled =
        style.sizeAdjust === undefined
          ? ''
          : `, at ${Math.round(style.sizeAdjust * 1000) / 10} % so that its words are as wide as drawn`;
      if (!exact) add(`“${name}” is not here: measured with ${family.family}${scaled}.`, item.id);
      if (m.uncovered(text, style) !== '')
        add('Some characters are in no font here: their width is estimated.', item.id);
    }
  }
  return [...places].map(([text, ids]) => ({ kind: 'fell back', text, items: [...ids] }));
}
