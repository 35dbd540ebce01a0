import {
  FILL,
  NO_PADDING,
  round,
  ruleOf,
  withChange,
  type Align,
  type Part,
  type Rect,
} from '../../model/index.js';
import { axisOf } from './along.js';
import { MAX_SNAP, type Standing } from './misplaced.js';

/** What a container is called that only holds another at its distance; in another drawing one may be held twice. */
function holderOf(id: string, taken: ReadonlyMap<string, Rect>): string {
  const holder = `${id}-seat`;
  return taken.has(holder) ? holderOf(holder, taken) : holder;
}

/** How a child across its container's flow stands, told by its drawn edges; undefined where no word says it. */
function alignOf(from: number, to: number, room: { from: number; to: number }): Align | undefined {
  const [before, after] = [from - room.from, room.to - to];
  if (Math.abs(before) <= MAX_SNAP) return 'start';
  if (Math.abs(after) <= MAX_SNAP) return 'end';
  return Math.abs(before - after) <= 2 * MAX_SNAP ? 'centre' : undefined;
}

/**
 * A row or column whose children stand across it as drawn: by a word where one says it, else at a distance that a container
 * around the child keeps. What is added gets its place in `targets`.
 */
export function withDrawnAligns(
  part: Part,
  standing: readonly Standing[],
  own: Rect,
  targets: Map<string, Rect>,
): Part | undefined {
  const axis = axisOf(part);
  if (!axis) return undefined;
  const isColumn = axis.at === 'y';
  const [at, size] = isColumn ? (['x', 'width'] as const) : (['y', 'height'] as const);
  const { padding = NO_PADDING } = part.rules;
  const room = isColumn
    ? { from: padding.left, to: own.width - padding.right }
    : { from: padding.top, to: own.height - padding.bottom };
  const usual = ruleOf(part.rules, 'align');
  const children = part.children.map((child): Part => {
    const found = standing.find((s) => s.child === child);
    if (!found || child.rules.pin || Math.abs(found.box[at] - found.meant[at]) <= MAX_SNAP) return child;
    const from = found.meant[at];
    const word = alignOf(from, from + found.meant[size], room);
    if (word)
      return { ...child, rules: withChange(child.rules, { alignSelf: word === usual ? null : word }) };
    return heldAt(child, found.meant, Math.max(0, from - room.from), isColumn, own, targets);
  });
  return children.every((c, i) => c === part.children[i]) ? undefined : { ...part, children };
}

/** A child in a container that keeps its distance from the start across the flow. */
function heldAt(
  child: Part,
  meant: Rect,
  distance: number,
  isColumn: boolean,
  own: Rect,
  targets: Map<string, Rect>,
): Part {
  const { gapBefore, alignSelf: _self, maxWidth, ...rules } = child.rules;
  const id = holderOf(child.id, targets);
  const px = round(distance, 1);
  const box = isColumn
    ? { ...meant, x: meant.x - px, width: meant.width + px }
    : { ...meant, y: meant.y - px, height: meant.height + px };
  targets.set(id, { ...box, x: box.x + own.x, y: box.y + own.y });
  const fills = rules.width?.kind === 'fill';
  return {
    id,
    name: id,
    kind: 'container',
    source: [],
    rules: {
      flow: 'column',
      padding: { ...NO_PADDING, ...(isColumn ? { left: px } : { top: px }) },
      ...(fills && { width: FILL }),
      ...(typeof maxWidth === 'number' && { maxWidth: maxWidth + (isColumn ? px : 0) }),
      ...(gapBefore !== undefined && { gapBefore }),
      alignSelf: 'start',
    },
    children: [{ ...child, rules }],
  };
}
