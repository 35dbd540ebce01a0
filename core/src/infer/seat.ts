import type { Align, Rect, Rules } from '../model/index.js';
import type { Node } from './node.js';

/** How a child sits in its parent: the rules that its parent's flow gives it, and its box at the drawn width. */
export interface Seat {
  readonly node: Node;
  readonly rules: Rules;
  readonly box: Rect;
  /** Distances that only a wrapper with padding can keep, where the child is out of line. */
  readonly inset?: {
    readonly left?: number;
    readonly right?: number;
    readonly top?: number;
    readonly bottom?: number;
  };
  /** The padding at its foot where its height comes from what is beside it: the rest is room that is left, px. */
  readonly foot?: number;
  /** What the words inside are aligned to, where the flow says more than the words do. */
  readonly textAlign?: 'start' | 'centre' | 'end';
}

/** Whether a node is an unpainted group around one other. */
export const isWrapper = (node: Node): boolean =>
  !node.item && node.children.length === 1 && node.pins.length === 0;

/** The seat with what its parent's common rules leave to say. */
export function withRules(seat: Seat, parent: { align: Align; gapBefore: number | undefined }): Seat {
  const { alignSelf, ...rules } = seat.rules;
  return {
    ...seat,
    rules: {
      ...rules,
      ...(alignSelf && alignSelf !== parent.align && { alignSelf }),
      ...(parent.gapBefore !== undefined && { gapBefore: parent.gapBefore }),
    },
  };
}

/** The commonest of some words; the first of equals. */
export function usual<T>(values: readonly T[]): T | undefined {
  const counts = new Map<T, number>();
  for (const v of values) counts.set(v, (counts.get(v) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
}
