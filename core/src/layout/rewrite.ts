import { FILL, ruleOf, type Align, type Part, type Rules, type Track } from '../model/index.js';
import { containerBox, type Box } from './box.js';
import { crossAlign, inFlow } from './sizing.js';

const SHARE: Track = { kind: 'fr', weight: 1 };
const WHOLE: Track = { kind: 'fr', weight: 1, min: 'content' };

const centred = new WeakMap<Part, Part>();

/**
 * A container whose children stand at equal distances from middle to middle, as the grid of equal cells that it is in
 * CSS; undefined for others.
 */
export function byCentres(part: Part): Part | undefined {
  if (part.rules.gap !== 'centres') return undefined;
  const { flow = 'column', gap: _gap, crossGap: _cross, justify: _justify, ...rest } = part.rules;
  if (part.kind !== 'container' || (flow !== 'row' && flow !== 'column')) return undefined;
  const known = centred.get(part);
  if (known) return known;
  const cells = inFlow(part).map(() => SHARE);
  if (cells.length === 0) return undefined;
  const horizontal = flow === 'row';
  const rules: Rules = horizontal
    ? {
        ...rest,
        flow: 'grid',
        columns: { kind: 'tracks', tracks: cells },
        rows: [WHOLE],
        justifyItems: 'centre',
      }
    : { ...rest, flow: 'grid', columns: { kind: 'count', count: 1 }, rows: cells };
  const children = horizontal
    ? part.children
    : part.children.map((c) => (c.rules.pin || c.rules.hidden ? c : inCell(c, crossAlign(part, c))));
  const grid = { ...part, rules, children };
  centred.set(part, grid);
  return grid;
}

/** A column's child in a cell of its own: in the middle down the page, across it as it stood. */
function inCell(child: Part, align: Align): Part {
  const { alignSelf: _align, width, ...rest } = child.rules;
  const stretched = align === 'stretch' && (width === undefined || width.kind === 'fit');
  return {
    ...child,
    rules: {
      ...rest,
      ...(width && { width }),
      ...(stretched && { width: FILL }),
      alignSelf: 'centre',
      justifySelf: align === 'centre' || align === 'end' ? align : 'start',
    },
  };
}

/** The children of a wrap, cut where one begins a new line; undefined where none does. */
export function segmentsOf(part: Part): Part[][] | undefined {
  if (ruleOf(part.rules, 'flow') !== 'wrap' || !part.children.some((c) => c.rules.newLine)) return undefined;
  const segments: Part[][] = [];
  for (const child of part.children) {
    const last = segments.at(-1);
    if (child.rules.pin) continue;
    if (last && !child.rules.newLine) last.push(child);
    else segments.push([child]);
  }
  return segments.length > 1 ? segments : undefined;
}

const segmented = new WeakMap<Part, Part>();

/** A wrap with forced lines as the column of wraps that it is in CSS; undefined for others. */
export function inSegments(part: Part): Part | undefined {
  const known = segmented.get(part);
  if (known) return known;
  const segments = segmentsOf(part);
  if (!segments) return undefined;
  const { gap, crossGap, align, justify, alignLines, reverse, direction, ...rest } = part.rules;
  const common = {
    flow: 'wrap' as const,
    width: FILL,
    ...(gap !== undefined && { gap }),
    ...(crossGap !== undefined && { crossGap }),
    ...(align && { align }),
    ...(justify && { justify }),
    ...(reverse && { reverse }),
    ...(direction && { direction }),
  };
  const between = crossGap ?? (typeof gap === 'number' ? Math.max(0, gap) : 0);
  const shared = alignLines === 'between' || alignLines === 'around' || alignLines === 'evenly';
  const { gap: gapToken, crossGap: crossToken, ...otherTokens } = part.bound ?? {};
  const lineToken = crossGap === undefined ? gapToken : crossToken;
  const lineTokens = { ...(gapToken && { gap: gapToken }), ...(crossToken && { crossGap: crossToken }) };
  const column: Part = {
    ...part,
    bound: { ...otherTokens, ...(lineToken && !shared && { gap: lineToken }) },
    rules: {
      ...rest,
      flow: 'column',
      align: 'start',
      gap: shared ? alignLines : between,
      ...((alignLines === 'centre' || alignLines === 'end') && { justify: alignLines }),
      ...(direction && { direction }),
    },
    children: [
      ...segments.map((children, i) => ({
        id: `${part.id}/${i}`,
        name: `${part.name} line`,
        kind: 'container' as const,
        source: [],
        bound: lineTokens,
        rules: children.every((c) => c.rules.hidden) ? { ...common, hidden: true } : common,
        children,
      })),
      ...part.children.filter((c) => c.rules.pin),
    ],
  };
  segmented.set(part, column);
  return column;
}

/** The box of a wrap from that of its column of segments: its children stand directly in it. */
export function flattened(part: Part, column: Box): Box {
  const children = column.children.flatMap(({ box, x, y }) =>
    box.children.map((c) => ({ box: c.box, x: x + c.x, y: y + c.y })),
  );
  return containerBox(part, column.width, column.height, children, column.baseline);
}

/** The boxes of a rewritten container with the parts that they stand for. */
export function restored(part: Part, box: Box): Box {
  const own = new Map(part.children.map((c) => [c.id, c]));
  const children = box.children.map((c) => {
    const child = own.get(c.box.part.id);
    return !child || child === c.box.part ? c : { ...c, box: { ...c.box, part: child } };
  });
  return { ...box, part, children };
}

/** The tree with every container as what it is in CSS: nothing is left that has no property of its own there. */
export function desugar(part: Part): Part {
  const own = byCentres(part) ?? inSegments(part) ?? part;
  const children = own.children.map(desugar);
  return children.every((c, i) => c === own.children[i]) ? own : { ...own, children };
}
