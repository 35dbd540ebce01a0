import type { Item } from '../../drawing/index.js';
import { FILL, FIT, fixed, right, round, type Part, type Rect, type Rules } from '../../model/index.js';
import { WORD_ROOM } from '../widths.js';
import type { Boxes } from '../standingPart.js';

type Items = ReadonlyMap<string, Item>;

/** The rules that say how a part sits in its parent's flow. */
export function seatRules({ pin, gapBefore, alignSelf, minWidth, maxWidth }: Rules): Rules {
  return {
    ...(pin && { pin }),
    ...(gapBefore !== undefined && { gapBefore }),
    ...(alignSelf && { alignSelf }),
    ...(minWidth !== undefined && { minWidth }),
    ...(maxWidth !== undefined && { maxWidth }),
  };
}

/** A child that hangs where it was drawn in the box of its parent. */
function hung(child: Part, own: Rect, targets: Boxes, items: Items): Part {
  const item = child.kind === 'text' ? items.get(child.source[0] ?? '') : undefined;
  const box = item?.box ?? targets.get(child.id) ?? own;
  const pin = { left: round(box.x - own.x, 2), top: round(box.y - own.y, 2) };
  const { clip, ...inner } = child.rules;
  const { pin: _p, gapBefore: _g, alignSelf: _a, newLine: _n, ...free } = inner;
  const { minWidth: _min, maxWidth: _max, ...rules } = free;
  const kept = { ...rules, ...(clip !== undefined && { clip }) };
  if (child.kind === 'text') {
    // One line needs no width to break at, and words put together from pieces may be a hair wider than drawn.
    const oneLine = item?.kind === 'text' && item.lines.length === 1;
    return {
      ...child,
      rules: { ...kept, pin, width: oneLine ? FIT : fixed(box.width + WORD_ROOM), height: FIT },
    };
  }
  const fills = rules.width?.kind === 'fill';
  const across = fills ? { right: round(right(own) - right(box), 2) } : {};
  return {
    ...child,
    rules: {
      ...kept,
      pin: { ...pin, ...across },
      width: fills ? FILL : fixed(box.width),
      height: fixed(box.height),
    },
  };
}

/** A container with some of its children hung where they were drawn. */
export function withPinned(part: Part, ids: ReadonlySet<string>, targets: Boxes, items: Items): Part {
  const own = targets.get(part.id);
  if (!own) return part;
  return {
    ...part,
    children: part.children.map((c) => (ids.has(c.id) ? hung(c, own, targets, items) : c)),
  };
}

/** A container whose flow cannot reproduce the drawing: its children hang where they were drawn. */
export function pinnedAsDrawn(part: Part, targets: Boxes, items: Items): Part {
  const own = targets.get(part.id);
  if (!own) return part;
  const { width, height } = part.rules;
  const rules: Rules = {
    ...seatRules(part.rules),
    flow: 'free',
    width: width === undefined || width.kind === 'fit' ? fixed(own.width) : width,
    height: height?.kind === 'fill' ? height : fixed(own.height),
  };
  return { ...part, rules, children: part.children.map((c) => hung(c, own, targets, items)) };
}
