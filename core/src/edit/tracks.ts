import {
  breakpoints,
  inRange,
  NO_PADDING,
  parentOf,
  round,
  ruleOf,
  standing,
  type Cell,
  type Columns,
  type Part,
  type Rect,
  type Step,
  type Structure,
  type Track,
} from '../model/index.js';

/** A column of a grid as it stands: from its start, px of the frame, so wide. */
export interface StandingColumn {
  readonly start: number;
  readonly width: number;
  readonly track: Track;
}

const EVEN: Track = { kind: 'fr', weight: 1 };

/** The columns that a grid names; undefined where their number follows from its width, or where it has none. */
export function namedColumns(columns: Columns | undefined): readonly Track[] | undefined {
  if (columns?.kind === 'tracks') return columns.tracks;
  return columns?.kind === 'count' ? Array.from({ length: columns.count }, () => EVEN) : undefined;
}

/**
 * The columns of a grid as they stand in its box; undefined where it does not name them, or where their widths follow from what is
 * in them.
 */
export function standingColumns(grid: Part, box: Rect): readonly StandingColumn[] | undefined {
  if (grid.kind !== 'container' || ruleOf(grid.rules, 'flow') !== 'grid') return undefined;
  const tracks = namedColumns(grid.rules.columns);
  if (!tracks || tracks.some((t) => t.kind === 'fit' || t.kind === 'range')) return undefined;
  const { left, right } = grid.rules.padding ?? NO_PADDING;
  const gap = typeof grid.rules.gap === 'number' ? grid.rules.gap : 0;
  const fixed = tracks.reduce((sum, t) => sum + (t.kind === 'fixed' ? t.px : 0), 0);
  const weights = tracks.reduce((sum, t) => sum + (t.kind === 'fr' ? t.weight : 0), 0);
  const rest = Math.max(0, box.width - left - right - gap * (tracks.length - 1) - fixed);
  let start = box.x + left;
  return tracks.map((track) => {
    const width =
      track.kind === 'fixed' ? track.px : track.kind === 'fr' ? (rest * track.weight) / weights : 0;
    const column = { start, width, track };
    start += width + gap;
    return column;
  });
}

/** The columns with the line after one of them moved, so that it is so many px wide; shares take from those beside them. */
export function withLineMoved(columns: readonly StandingColumn[], at: number, px: number): Columns {
  const [here, next] = [columns[at], columns[at + 1]];
  const tracks = columns.map((c) => c.track);
  if (!here) return { kind: 'tracks', tracks };
  if (here.track.kind === 'fixed')
    return { kind: 'tracks', tracks: tracks.with(at, { kind: 'fixed', px: round(px, 2) }) };
  if (here.track.kind !== 'fr' || next?.track.kind !== 'fr')
    return next?.track.kind === 'fixed'
      ? {
          kind: 'tracks',
          tracks: tracks.with(at + 1, {
            kind: 'fixed',
            px: round(Math.max(0, next.width + here.width - px), 2),
          }),
        }
      : { kind: 'tracks', tracks };
  const both = here.width + next.width;
  const weight = here.track.weight + next.track.weight;
  // A share of nothing is none: a column stays at least a hundredth of both.
  const share = Math.min(0.99, Math.max(0.01, px / both));
  const first = round(weight * share, 2);
  return {
    kind: 'tracks',
    tracks: tracks
      .with(at, { ...here.track, weight: first })
      .with(at + 1, { ...next.track, weight: round(weight - first, 2) }),
  };
}

/** How many columns a child takes that is so wide, px, from the one in which it begins. */
export function spanOf(columns: readonly StandingColumn[], x: number, px: number): number {
  const first = columns.reduce(
    (best, c, i) => (Math.abs(c.start - x) < Math.abs((columns[best]?.start ?? Infinity) - x) ? i : best),
    0,
  );
  const ends = columns.slice(first).map((c) => c.start + c.width);
  const end = x + px;
  const last = ends.reduce(
    (best, e, i) => (Math.abs(e - end) < Math.abs((ends[best] ?? Infinity) - end) ? i : best),
    0,
  );
  return last + 1;
}

/** The cell in a grid of fewer columns: as much of it as there is. */
function within(cell: Cell, count: number): Cell {
  const column = cell.column === undefined ? undefined : Math.min(cell.column, count);
  const columnSpan = Math.min(cell.columnSpan ?? 1, count - (column ?? 1) + 1);
  return { ...cell, ...(column !== undefined && { column }), columnSpan };
}

/**
 * The steps that put children of a grid into a cell in all frames: in narrower ranges in which the grid has fewer columns, into as
 * much of it as there is.
 */
export function intoCell(structure: Structure, ids: readonly string[], cell: Cell): Step[] {
  const put = (to: Cell, below?: number): Step => ({
    kind: 'setRules',
    ...inRange(below),
    parts: ids.map((id) => ({ id, set: { cell: to } })),
  });
  const steps = [put(cell)];
  let said = cell;
  for (const below of breakpoints(structure)) {
    const parent = parentOf(standing(structure, { width: below - 0.5 }), ids[0] ?? '');
    const count = namedColumns(parent?.rules.columns)?.length;
    const fits = count === undefined ? cell : within(cell, count);
    if (JSON.stringify(fits) !== JSON.stringify(said) && (fits.columnSpan ?? 1) < (said.columnSpan ?? 1))
      steps.push(put((said = fits), below));
  }
  return steps;
}

/** The columns with one more, like the last, or with the last taken away; undefined where there is none to take. */
export function withColumns(columns: Columns | undefined, by: 1 | -1): Columns | undefined {
  if (!columns || columns.kind === 'repeat') return undefined;
  if (columns.kind === 'count')
    return columns.count + by >= 1 ? { kind: 'count', count: columns.count + by } : undefined;
  const { tracks } = columns;
  const last = tracks.at(-1);
  if (by === 1) return last && { kind: 'tracks', tracks: [...tracks, last] };
  return tracks.length > 1 ? { kind: 'tracks', tracks: tracks.slice(0, -1) } : undefined;
}
