import { type Align, type Part } from '../model/index.js';
import { containerBox, mirrorX, ownBaseline, type Box, type Placed } from './box.js';
import type { Engine } from './engine.js';
import { factsOf, type Facts } from './facts.js';
import type { Intrinsic } from './intrinsic.js';
import { placeInGrid, type Area } from './placement.js';
import {
  distribute,
  gapPx,
  horizontalEdges,
  isRightToLeft,
  lineAlign,
  offset,
  repeatCount,
  startEdge,
  topEdge,
  verticalEdges,
} from './sizing.js';
import { sizeTracks, trackSpec, type Spanning, type TrackSpec } from './tracks.js';

const SHARE: TrackSpec = { min: 0, max: { fr: 1 } };
const FIT: TrackSpec = { min: 'min-content', max: 'max-content' };
const CONTENT: TrackSpec = { min: 'max-content', max: 'max-content' };

const areaColumns = (part: Part): number => Math.max(0, ...(part.rules.areas ?? []).map((a) => a.length));

/** The columns that the rules name; `inner` decides how many repeat. */
function namedColumns(part: Part, inner: number | undefined): TrackSpec[] {
  const { columns } = part.rules;
  const gap = Math.max(0, gapPx(part));
  const named =
    columns?.kind === 'tracks'
      ? columns.tracks.map(trackSpec)
      : columns?.kind === 'repeat'
        ? repeated(columns, inner, gap)
        : columns || !part.rules.areas
          ? Array.from({ length: columns?.count ?? 1 }, () => SHARE)
          : [];
  return padded(named, areaColumns(part), FIT);
}

/** Columns that repeat: none is under its min, nor wider than the room, nor under its share of the most there may be. */
function repeated(
  columns: { min: number; most?: number },
  inner: number | undefined,
  gap: number,
): TrackSpec[] {
  if (inner === undefined) return [SHARE];
  const { min, most } = columns;
  const least = most === undefined ? min : Math.max(min, (inner - gap * (most - 1)) / most);
  return Array.from({ length: repeatCount(inner, columns, gap) }, (): TrackSpec => ({
    min: Math.max(0, Math.min(least, inner)),
    max: { fr: 1 },
  }));
}

/** The tracks with as many more of a kind as are needed. */
const padded = (specs: readonly TrackSpec[], count: number, more: TrackSpec): TrackSpec[] => [
  ...specs,
  ...Array.from({ length: Math.max(0, count - specs.length) }, () => more),
];

/** A grid's children in their areas, with as many tracks as they need. */
interface Cells {
  readonly areas: readonly Area[];
  readonly columns: readonly TrackSpec[];
  readonly rows: readonly TrackSpec[];
}

/** While a frame is dragged the children of a grid keep their areas from width to width, and most widths have as many tracks. */
function areasOf(facts: Facts, explicit: number): readonly Area[] {
  if (facts.areas?.explicit !== explicit)
    facts.areas = { explicit, all: placeInGrid(facts.children, facts.part.rules, explicit) };
  return facts.areas.all;
}

function cellsOf(part: Part, inner: number | undefined): Cells {
  const { rules } = part;
  const columns = namedColumns(part, inner);
  const rows = padded((rules.rows ?? []).map(trackSpec), (rules.areas ?? []).length, autoRow(part));
  const explicit = rules.autoFlow === 'column' ? rows.length : columns.length;
  const areas = areasOf(factsOf(part), explicit);
  const most = (end: (a: Area) => number) => areas.reduce((n, a) => Math.max(n, end(a)), 0);
  return {
    areas,
    columns: padded(
      columns,
      most((a) => a.column + a.columns),
      FIT,
    ),
    rows: padded(
      rows,
      most((a) => a.row + a.rows),
      autoRow(part),
    ),
  };
}

const autoRow = (part: Part): TrackSpec => (part.rules.autoRows ? trackSpec(part.rules.autoRows) : CONTENT);

/** What a child asks for of its columns. */
function acrossOf({ part, column, columns }: Area, { min, max }: Intrinsic): Spanning {
  const { width, height, minWidth } = part.rules;
  const own = width?.kind === 'fixed' || (width?.kind === 'ratio' && height?.kind === 'fixed');
  const least = own || minWidth === 'content' ? min : Math.max(minWidth ?? 0, horizontalEdges(part));
  return { start: column, span: columns, least, min, max };
}

/** The minimum contribution of a child down the page (CSS Grid §6.6): its own height, or the least that it may have. */
function leastHeight(part: Part, tall: number): number {
  const { height, minHeight } = part.rules;
  if (height?.kind === 'fixed' || height?.kind === 'ratio' || minHeight === 'content') return tall;
  return Math.max(minHeight ?? 0, verticalEdges(part));
}

/** What a grid asks for across the page by its content, without its own edges (CSS Grid §5.2). */
export function gridContent(part: Part, contribution: (part: Part) => Intrinsic): Intrinsic {
  const { columns } = part.rules;
  // A repeat takes as many columns as it gets; by itself it asks for one.
  if (columns?.kind === 'repeat') return { min: columns.min, max: columns.min };
  const gap = Math.max(0, gapPx(part));
  const cells = cellsOf(part, undefined);
  const items = cells.areas.map((a) => acrossOf(a, contribution(a.part)));
  const total = (room: 'min-content' | 'max-content') =>
    sizeTracks(cells.columns, items, room, gap).reduce((s, n) => s + n, 0) +
    gap * Math.max(0, cells.columns.length - 1);
  return { min: total('min-content'), max: total('max-content') };
}

/** Where tracks of these sizes begin, and where the last ends. */
function lineUp(sizes: readonly number[], from: number, gap: number): number[] {
  let at = from;
  return sizes.map((size) => {
    const start = at;
    at += size + gap;
    return start;
  });
}

/** The room of `span` tracks from `start`, gaps between them included. */
function spanSize(sizes: readonly number[], starts: readonly number[], start: number, span: number): number {
  const end = start + span - 1;
  return (starts[end] ?? 0) + (sizes[end] ?? 0) - (starts[start] ?? 0);
}

/** Lays a grid out (CSS Grid §12). */
export function layoutGrid(engine: Engine, facts: Facts, width: number, height: number | undefined): Box {
  const { part } = facts;
  const { rules } = part;
  const rtl = isRightToLeft(part);
  const inner = Math.max(0, width - horizontalEdges(part));
  const gap = Math.max(0, gapPx(part));
  const rowGap = rules.crossGap ?? gap;
  const cells = cellsOf(part, inner);
  const across = cells.areas.map((a) => acrossOf(a, engine.intrinsic.contribution(a.part)));
  const columns = sizeTracks(cells.columns, across, inner, gap);
  const spread = tracksShift(rules.justifyTracks, columns, gap, inner);
  const lefts = lineUp(columns, startEdge(part, rtl) + spread.start, gap + spread.between);
  const widths = cells.areas.map((a) => {
    const room = spanSize(columns, lefts, a.column, a.columns);
    return { room, own: engine.crossWidth(factsOf(a.part), room, false) };
  });
  const boxes = cells.areas.map((a, i) => {
    const w = widths[i]?.own ?? 0;
    const child = factsOf(a.part);
    return engine.place(child, w, engine.ownHeight(child, w, undefined));
  });
  const aligns = cells.areas.map((a) => lineAlign(part, a.part));
  const ascents = rowAscents(aligns, cells.areas, boxes);
  const down = cells.areas.map((a, i): Spanning => {
    const box = boxes[i] as Box;
    const based = aligns[i] === 'baseline';
    const tall = based ? (ascents.get(a.row) ?? 0) - ownBaseline(box) + box.height : box.height;
    return { start: a.row, span: a.rows, least: leastHeight(a.part, tall), min: tall, max: tall };
  });
  const innerHeight = height === undefined ? undefined : Math.max(0, height - verticalEdges(part));
  const { minHeight, maxHeight } = rules;
  const least = typeof minHeight === 'number' ? Math.max(0, minHeight - verticalEdges(part)) : 0;
  const most = typeof maxHeight === 'number' ? Math.max(0, maxHeight - verticalEdges(part), least) : Infinity;
  const rows = sizeTracks(cells.rows, down, innerHeight ?? 'max-content', rowGap, { least, most });
  const content = rows.reduce((s, n) => s + n, 0) + rowGap * Math.max(0, rows.length - 1);
  const outer = engine.outerHeight(facts, content, height);
  const fall = tracksShift(rules.alignLines, rows, rowGap, outer - verticalEdges(part));
  const tops = lineUp(rows, topEdge(part) + fall.start, rowGap + fall.between);
  const talls = cells.areas.map((a) => spanSize(rows, tops, a.row, a.rows));
  const final = boxes.map((box, i) => inArea(engine, part, box, talls[i] ?? 0));
  const shared = rowAscents(aligns, cells.areas, final);
  let placed = cells.areas.map((a, i): Placed => {
    const { room, own } = widths[i] ?? { room: 0, own: 0 };
    const box = final[i] as Box;
    const align = aligns[i] ?? 'start';
    const y =
      align === 'baseline'
        ? (shared.get(a.row) ?? 0) - ownBaseline(box)
        : offset(align, (talls[i] ?? 0) - box.height);
    const word = rules.justifyItems ?? 'start';
    const x = offset(
      a.part.rules.width?.kind === 'fill' ? 'start' : (a.part.rules.justifySelf ?? word),
      room - own,
    );
    return { box, x: (lefts[a.column] ?? 0) + x, y: (tops[a.row] ?? 0) + y };
  });
  const baseline = gridBaseline(aligns, cells.areas, placed);
  if (rtl) placed = mirrorX(placed, width);
  return containerBox(part, width, outer, placed, baseline);
}

function tracksShift(word: string | undefined, sizes: readonly number[], gap: number, room: number) {
  const used = sizes.reduce((s, n) => s + n, 0) + gap * Math.max(0, sizes.length - 1);
  return distribute(word, sizes.length, room - used);
}

/** A child at its area's height: stretched where it fills, a share of it where it says so. */
function inArea(engine: Engine, part: Part, box: Box, tall: number): Box {
  const child = factsOf(box.part);
  const { kind } = child.height;
  if (kind === 'share') return engine.place(child, box.width, engine.ownHeight(child, box.width, tall));
  if ((kind !== 'fill' && kind !== 'fit') || lineAlign(part, child.part) !== 'stretch') return box;
  return engine.place(child, box.width, engine.clampHeight(child, box.width, tall));
}

/** How far below their row's top the shared baselines stand, by row. */
function rowAscents(
  aligns: readonly Align[],
  areas: readonly Area[],
  boxes: readonly Box[],
): Map<number, number> {
  const found = new Map<number, number>();
  areas.forEach((a, i) => {
    const box = boxes[i];
    if (box && aligns[i] === 'baseline')
      found.set(a.row, Math.max(found.get(a.row) ?? -Infinity, ownBaseline(box)));
  });
  return found;
}

/** The baseline of what shares one in the first row, else of its first child (CSS Grid §10.6). */
function gridBaseline(
  aligns: readonly Align[],
  areas: readonly Area[],
  placed: readonly Placed[],
): number | undefined {
  const top = areas.reduce((least, a) => Math.min(least, a.row), Infinity);
  const first = areas
    .map((area, i) => ({ area, at: placed[i], align: aligns[i] }))
    .filter(({ area }) => area.row === top)
    .sort((a, b) => a.area.column - b.area.column);
  const lead = first.find(({ align }) => align === 'baseline') ?? first[0];
  return lead?.at && lead.at.y + ownBaseline(lead.at.box);
}
