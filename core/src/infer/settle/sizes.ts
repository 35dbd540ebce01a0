import { fixed, withChange, type Part, type Rect, type RuleChange, type Size } from '../../model/index.js';
import { WORD_ROOM } from '../widths.js';
import { MAX_RESIZE, type Standing } from './misplaced.js';

/** The width rule of a child that gets another width than was drawn. */
function widthOf(child: Part, meant: Rect, box: Rect): RuleChange {
  const { width } = child.rules;
  // What fills stays elastic below the width that it was drawn with.
  if (width?.kind === 'fill' && box.width > meant.width) return { maxWidth: meant.width };
  return {
    width: fixed(meant.width + (child.kind === 'text' ? WORD_ROOM : 0)),
    maxWidth: null,
    minWidth: null,
  };
}

const isElastic = (size: Size | undefined): boolean => size?.kind === 'fill' || size?.kind === 'share';

/** The height rule of a child that gets another height than was drawn. */
function heightOf(child: Part, meant: Rect, box: Rect): RuleChange {
  const grows = child.children.length > 0 && box.height < meant.height && !isElastic(child.rules.height);
  return grows ? { minHeight: meant.height } : { height: fixed(meant.height), minHeight: null };
}

/** A container whose children say the widths, and where these agree the heights, that they were drawn with. */
export function withDrawnSizes(part: Part, standing: readonly Standing[]): Part | undefined {
  const changes = new Map<Part, RuleChange>();
  for (const { child, meant, box } of standing) {
    if (Math.abs(box.width - meant.width) > MAX_RESIZE) changes.set(child, widthOf(child, meant, box));
    else if (Math.abs(box.height - meant.height) > MAX_RESIZE && child.kind !== 'text')
      changes.set(child, heightOf(child, meant, box));
  }
  if (changes.size === 0) return undefined;
  const children = part.children.map((child) => {
    const change = changes.get(child);
    return change ? { ...child, rules: withChange(child.rules, change) } : child;
  });
  return { ...part, children };
}
