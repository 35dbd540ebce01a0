import { centreY, union, type ArtPath, type TextStyle } from '../model/index.js';
import { baselineInLine, normalLineHeight, runWidth, type TextMeasurer } from '../text/index.js';
import type { DrawingDecisions, ForcedKind, ItemKind } from './cleanUp.js';
import type { ArtItem, Item, PictureItem, ShapeItem, TextItem } from './items.js';
import { drawnOutline } from './outlined/drawn.js';
import { svgDataUri } from './picture.js';
import { spaceRun } from './textLines.js';
import { serializeXml } from './xml.js';

/** What an item is taken for. */
export const kindOfItem = (item: Item): ItemKind =>
  item.kind === 'shape' ? 'box' : item.kind === 'art' ? 'icon' : item.kind;

/** What an item could be taken for instead; a bitmap has no outlines, so that it makes no icon. */
export const otherKinds = (item: Item): ItemKind[] =>
  (['box', 'text', 'picture', 'icon'] as const).filter(
    (kind) => kind !== kindOfItem(item) && !(kind === 'icon' && item.kind === 'picture'),
  );

const baseOf = ({ id, box, groups, paint }: Item): Pick<Item, 'id' | 'box' | 'groups' | 'paint'> => ({
  id,
  box,
  groups,
  paint,
});

function rectPath({ box, paint }: ShapeItem): ArtPath {
  const { x, y, width, height } = box;
  const most = Math.min(width, height) / 2;
  const radius = paint.radius === 'round' ? most : (paint.radius ?? 0);
  const [tl, tr, br, bl] = (typeof radius === 'number' ? [radius, radius, radius, radius] : radius).map((r) =>
    Math.min(r, most),
  ) as [number, number, number, number];
  const arc = (r: number, dx: number, dy: number) => `a${r} ${r} 0 0 1 ${dx * r} ${dy * r}`;
  const d = `M${x + tl} ${y}h${width - tl - tr}${arc(tr, 1, 1)}v${height - tr - br}${arc(br, -1, 1)}h${bl + br - width}${arc(bl, -1, -1)}v${tl + bl - height}${arc(tl, 1, -1)}z`;
  return {
    d,
    ...(paint.fill?.kind === 'solid' && { fill: paint.fill.colour }),
    ...(paint.stroke && { stroke: paint.stroke.colour, strokeWidth: paint.stroke.width }),
  };
}

/** The outlines of an item, frame px; none for a bitmap. */
function pathsOf(item: Item, m: TextMeasurer): ArtPath[] {
  if (item.kind === 'shape') return [rectPath(item)];
  if (item.kind === 'art') return item.content.kind === 'art' ? [...item.content.paths] : [];
  if (item.kind === 'picture') return [];
  const [line] = item.lines;
  let x = line?.x ?? item.box.x;
  return item.content.runs.flatMap((run) => {
    const at = { x, y: line?.baseline ?? item.box.y };
    const d = run.drawn ? drawnOutline(run, at) : m.outline(run.text, run.style, at);
    x += runWidth(run, m);
    return d === '' ? [] : [{ d, fill: run.style.colour }];
  });
}

function icon(item: Item, paths: readonly ArtPath[]): ArtItem {
  const { box } = item;
  return {
    ...baseOf(item),
    kind: 'art',
    paint: {},
    content: { kind: 'art', view: [box.x, box.y, box.width, box.height], paths },
  };
}

function picture(item: Item, paths: readonly ArtPath[]): PictureItem {
  const { x, y, width, height } = item.box;
  const children = paths.map(({ d, fill, fillRule, stroke, strokeWidth, opacity }) => ({
    name: 'path',
    attributes: {
      d,
      fill: fill ?? 'none',
      ...(fillRule && { 'fill-rule': fillRule }),
      ...(stroke && { stroke, 'stroke-width': String(strokeWidth ?? 1) }),
      ...(opacity !== undefined && { opacity: String(opacity) }),
    },
    children: [],
  }));
  const source = serializeXml({
    name: 'svg',
    attributes: {
      xmlns: 'http://www.w3.org/2000/svg',
      viewBox: `${x} ${y} ${width} ${height}`,
      width: String(width),
      height: String(height),
    },
    children,
  });
  const { stroke: _stroke, fill: _fill, ...paint } = item.paint;
  return {
    ...baseOf(item),
    kind: 'picture',
    paint,
    content: {
      kind: 'picture',
      fit: 'contain',
      ...(paths.length > 0 && { href: svgDataUri(source), natural: { width, height } }),
    },
  };
}

function box(item: Item): ShapeItem {
  const colour =
    item.kind === 'text'
      ? item.content.runs[0]?.style.colour
      : item.kind === 'art' && item.content.kind === 'art'
        ? item.content.paths.find((p) => p.fill !== undefined)?.fill
        : '#d9d6cd';
  const paint =
    item.paint.fill || !colour ? item.paint : { ...item.paint, fill: { kind: 'solid' as const, colour } };
  return { ...baseOf(item), kind: 'shape', paint };
}

/** Words for something drawn as outlines: set in the drawing's usual type, as wide as they were drawn. */
function text(item: Item, words: string, usual: TextStyle, m: TextMeasurer): TextItem {
  const atUsual = m.width(words, usual) || 1;
  const size = Math.min((usual.size * item.box.width) / atUsual, item.box.height * 1.6);
  const style = { ...usual, size: Math.round(size * 100) / 100 };
  const metrics = m.metrics(style);
  const lineHeight = normalLineHeight(metrics);
  const top = centreY(item.box) - lineHeight / 2;
  const width = m.width(words, style);
  return {
    ...baseOf(item),
    kind: 'text',
    paint: {},
    box: { x: item.box.x, y: top, width, height: lineHeight },
    content: { kind: 'text', runs: [{ text: words, style }], lineHeight, align: 'start' },
    lines: [{ x: item.box.x, baseline: top + baselineInLine(metrics, lineHeight), width }],
  };
}

/** The type style that most of a drawing's words have. */
function usualStyle(items: readonly Item[]): TextStyle {
  const counts = new Map<string, { style: TextStyle; letters: number }>();
  for (const item of items)
    for (const run of item.kind === 'text' ? item.content.runs : []) {
      const key = JSON.stringify(run.style);
      const letters = (counts.get(key)?.letters ?? 0) + run.text.length;
      counts.set(key, { style: run.style, letters });
    }
  const [most] = [...counts.values()].sort((a, b) => b.letters - a.letters);
  return (
    most?.style ?? {
      family: 'Inter',
      size: 16,
      weight: 400,
      italic: false,
      letterSpacing: 0,
      colour: '#000000',
    }
  );
}

function forced(item: Item, { kind, words }: ForcedKind, usual: TextStyle, m: TextMeasurer): Item {
  if (kindOfItem(item) === kind) return item;
  if (kind === 'box') return box(item);
  if (kind === 'text') return text(item, words?.trim() || item.id, usual, m);
  const paths = pathsOf(item, m);
  if (kind === 'picture') return picture(item, paths);
  return paths.length > 0 ? icon(item, paths) : item;
}

/** Paragraphs as one, top to bottom. */
function oneText(texts: readonly TextItem[]): TextItem {
  const sorted = texts.toSorted((a, b) => a.box.y - b.box.y || a.box.x - b.box.x);
  const [first] = sorted as [TextItem];
  const lines = sorted.flatMap((t) => t.lines);
  const box = union(sorted.map((t) => t.box));
  const rows = new Set(lines.map((l) => Math.round(l.baseline)));
  const runs = sorted.flatMap((t, i) => {
    const before = sorted[i - 1];
    if (!before) return t.content.runs;
    const sameLine = Math.abs((before.lines.at(-1)?.baseline ?? 0) - (t.lines[0]?.baseline ?? 0)) < 1;
    const [head, ...rest] = t.content.runs;
    if (!head) return rest;
    const glue = sameLine ? ' ' : '\n';
    if (head.drawn)
      return [glue === ' ' ? spaceRun(t.content) : { text: glue, style: head.style }, head, ...rest];
    return [{ ...head, text: `${glue}${head.text}` }, ...rest];
  });
  return {
    ...first,
    box,
    lines,
    content: { ...first.content, runs, lineHeight: box.height / Math.max(1, rows.size) },
  };
}

/** Why these items cannot be made one, as a sentence; undefined where they can. */
export function joinRefusal(items: readonly Item[]): string | undefined {
  if (items.length < 2) return 'Choose at least two items to make one of them.';
  const texts = items.filter((i) => i.kind === 'text').length;
  if (texts > 0 && texts < items.length)
    return 'Words and shapes cannot be made one: choose only texts, or only shapes and icons.';
  if (items.some((i) => i.kind === 'picture'))
    return 'A picture cannot be made one with others: leave it out of the choice.';
  return undefined;
}

function joined(items: readonly Item[], m: TextMeasurer): Item | undefined {
  const [first] = items;
  if (!first || joinRefusal(items) !== undefined) return undefined;
  const texts = items.filter((i) => i.kind === 'text');
  if (texts.length > 0) return oneText(texts);
  const paths = items.flatMap((i) => pathsOf(i, m));
  return icon({ ...first, box: union(items.map((i) => i.box)) }, paths);
}

/** The items as the designer takes them: some made one, some taken for another kind. What no longer exists is passed over. */
export function applyForced(
  items: readonly Item[],
  decisions: DrawingDecisions,
  m: TextMeasurer,
): readonly Item[] {
  if (decisions.force.length + decisions.join.length === 0) return items;
  let result = [...items];
  for (const ids of decisions.join) {
    const pieces = result.filter((i) => ids.includes(i.id));
    const whole = joined(pieces, m);
    const [first] = pieces;
    if (!whole || !first) continue;
    result = result.flatMap((i) =>
      i === first ? [{ ...whole, id: first.id }] : pieces.includes(i) ? [] : [i],
    );
  }
  const usual = usualStyle(items);
  for (const force of decisions.force)
    result = result.map((i) => (i.id === force.id ? forced(i, force, usual, m) : i));
  return result;
}
