import {
  fixed,
  NO_PADDING,
  round,
  ruleOf,
  type Part,
  type Pin,
  type Rect,
  type RuleChange,
  type Side,
} from '@tinfold/core/model';
import { spanOf, standingColumns, withLineMoved, type StandingColumn } from '@tinfold/core/edit';
import type { Hatch } from './Overlay';

/** Something on a sheet that is dragged: which number it is, and what the rules say with another. */
export interface Handle {
  readonly id: string;
  /** What is dragged, in words. */
  readonly label: string;
  readonly box: Rect;
  readonly axis: 'x' | 'y';
  /** How the number grows with the pointer: 1 away from the origin, -1 towards it. */
  readonly sign: 1 | -1;
  /** Whether it is a line of its own that has to be drawn, and no edge that is seen. */
  readonly isLimit?: boolean;
  /** The number before the drag, px. */
  readonly from: number;
  /** What is said with another number; `more` are the keys held: Shift for opposite sides, all gaps, a largest size; Alt for all sides, a least size. */
  readonly say: (px: number, more: { readonly shift: boolean; readonly alt: boolean }) => Said;
}

export interface Said {
  /** The part whose rules change. */
  readonly part: string;
  readonly set: RuleChange;
  /** What changes, as history tells it. */
  readonly what: string;
}

/** Edges are taken hold of within so many px on the screen. */
export const GRIP = 8;

const OPPOSITE: Readonly<Record<Side, Side>> = { left: 'right', right: 'left', top: 'bottom', bottom: 'top' };

function paddingHandle(part: Part, hatch: Extract<Hatch, { kind: 'padding' }>): Handle {
  const padding = part.rules.padding ?? NO_PADDING;
  const { side } = hatch;
  return {
    id: `padding-${side}`,
    label: `${side} padding of ${part.name}`,
    box: hatch,
    axis: side === 'left' || side === 'right' ? 'x' : 'y',
    sign: side === 'left' || side === 'top' ? 1 : -1,
    from: padding[side],
    say: (px, { shift, alt }) => ({
      part: part.id,
      set: {
        padding: alt
          ? { top: px, right: px, bottom: px, left: px }
          : { ...padding, [side]: px, ...(shift && { [OPPOSITE[side]]: px }) },
      },
      what: `${alt ? 'paddings' : shift ? `${side} and ${OPPOSITE[side]} padding` : `${side} padding`} of ${part.name}`,
    }),
  };
}

function gapHandle(part: Part, hatch: Extract<Hatch, { kind: 'gap' }>): Handle {
  const flow = ruleOf(part.rules, 'flow');
  const isLine = flow === 'row' || flow === 'column';
  const next = part.children.find((c) => c.id === hatch.before);
  return {
    id: `gap-${hatch.before}`,
    label: `gap before ${next?.name ?? ''}`,
    box: hatch,
    axis: hatch.axis,
    sign: part.rules.reverse === true ? -1 : 1,
    from: round(hatch.axis === 'x' ? hatch.width : hatch.height, 2),
    say: (px, { shift }) => {
      if (hatch.isCross) return { part: part.id, set: { crossGap: px }, what: `cross gap of ${part.name}` };
      if (shift || !isLine) return { part: part.id, set: { gap: px }, what: `gap of ${part.name}` };
      return { part: hatch.before, set: { gapBefore: px }, what: `gap before ${next?.name ?? ''}` };
    },
  };
}

/** The lines between the columns of a grid; the column before a line is dragged wider or narrower. */
function lineHandles(part: Part, box: Rect, grip: number): Handle[] {
  const columns = standingColumns(part, box);
  if (!columns) return [];
  return columns.slice(0, -1).map((column, i) => ({
    id: `line-${i + 1}`,
    label: `line after column ${i + 1} of ${part.name}`,
    box: { x: column.start + column.width - grip / 2, y: box.y, width: grip, height: box.height },
    axis: 'x',
    sign: 1,
    from: round(column.width, 2),
    say: (px) => ({
      part: part.id,
      set: { columns: withLineMoved(columns, i, px) },
      what: `column ${i + 1} of ${part.name}`,
    }),
  }));
}

/** The right edge of a part in a grid: it is dragged over as many columns as it is to take. */
function spanHandle(part: Part, box: Rect, columns: readonly StandingColumn[], grip: number): Handle {
  return {
    ...sizeHandle(part, box, 'x', grip),
    id: 'span',
    label: `columns that ${part.name} takes`,
    say: (px) => {
      const columnSpan = spanOf(columns, box.x, px);
      return {
        part: part.id,
        set: { cell: { ...part.rules.cell, columnSpan } },
        what: `${part.name} over ${columnSpan === 1 ? '1 column' : `${columnSpan} columns`}`,
      };
    },
  };
}

/** The strip along which an edge is taken hold of, so many px from the part's own corner. */
const edgeAt = (box: Rect, axis: 'x' | 'y', px: number, grip: number): Rect =>
  axis === 'x'
    ? { x: box.x + px - grip / 2, y: box.y, width: grip, height: box.height }
    : { x: box.x, y: box.y + px - grip / 2, width: box.width, height: grip };

const LIMITS = {
  x: { name: 'width', least: 'minWidth', most: 'maxWidth' },
  y: { name: 'height', least: 'minHeight', most: 'maxHeight' },
} as const;

/** The edge of a part that its width or height is dragged by, or with Shift its largest, with Alt its least. */
function sizeHandle(part: Part, box: Rect, axis: 'x' | 'y', grip: number): Handle {
  const { name, least, most } = LIMITS[axis];
  return {
    id: name,
    label: `${name} of ${part.name}`,
    box: edgeAt(box, axis, box[name], grip),
    axis,
    sign: 1,
    from: round(box[name], 2),
    say: (px, { shift, alt }) =>
      shift
        ? { part: part.id, set: { [most]: px }, what: `largest ${name} of ${part.name}` }
        : alt
          ? { part: part.id, set: { [least]: px }, what: `least ${name} of ${part.name}` }
          : { part: part.id, set: { [name]: fixed(px) }, what: `${name} of ${part.name}, fixed` },
  };
}

/** The limits that a part has, each as a line where its edge would be. */
function limitHandles(part: Part, box: Rect, grip: number): Handle[] {
  return (['x', 'y'] as const).flatMap((axis) => {
    const { name, least, most } = LIMITS[axis];
    return [[least, 'least'] as const, [most, 'largest'] as const].flatMap(([rule, word]): Handle[] => {
      const px = part.rules[rule];
      // Where it stands at its limit, the edge is that of its size.
      if (typeof px !== 'number' || Math.abs(px - box[name]) < grip) return [];
      return [
        {
          id: rule,
          label: `${word} ${name} of ${part.name}`,
          box: edgeAt(box, axis, px, grip),
          axis,
          sign: 1,
          from: px,
          isLimit: true,
          say: (to) => ({ part: part.id, set: { [rule]: to }, what: `${word} ${name} of ${part.name}` }),
        },
      ];
    });
  });
}

const EDGES = [
  ['left', 'x', 1],
  ['right', 'x', -1],
  ['top', 'y', 1],
  ['bottom', 'y', -1],
] as const;

/** A pinned part is dragged along one axis by the edge that it hangs on. */
function pinHandles(part: Part, box: Rect): Handle[] {
  const { pin } = part.rules;
  if (!pin) return [];
  return EDGES.flatMap(([side, axis, sign]) => {
    const px = pin[side];
    if (px === undefined) return [];
    const half = axis === 'x' ? { ...box, width: box.width / 2 } : { ...box, height: box.height / 2 };
    return [
      {
        id: `pin-${side}`,
        label: `${side} pin of ${part.name}`,
        box: half,
        axis,
        sign,
        from: px,
        say: (to: number) => ({
          part: part.id,
          set: { pin: { ...pin, [side]: to } satisfies Pin },
          what: `${side} pin of ${part.name}`,
        }),
      },
    ];
  });
}

/** Everything that can be dragged of the part in hand; `grip` is how thick an edge is, px of the frame. */
export function handlesOf(
  part: Part,
  isRoot: boolean,
  box: Rect,
  hatches: readonly Hatch[],
  grip: number,
  /** The columns of the grid that it stands in, where it does and they are named. */
  columns?: readonly StandingColumn[],
): Handle[] {
  const spans = columns && !part.rules.pin && part.rules.cell?.area === undefined;
  return [
    ...pinHandles(part, box),
    ...hatches.map((h) => (h.kind === 'padding' ? paddingHandle(part, h) : gapHandle(part, h))),
    ...lineHandles(part, box, grip),
    ...(isRoot ? [] : limitHandles(part, box, grip)),
    ...(isRoot
      ? []
      : [
          spans ? spanHandle(part, box, columns, grip) : sizeHandle(part, box, 'x', grip),
          sizeHandle(part, box, 'y', grip),
        ]),
  ];
}
