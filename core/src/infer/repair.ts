import type { Drawing, Item } from '../drawing/index.js';
import {
  FILL,
  FIT,
  fixed,
  pathTo,
  plainText,
  right,
  round,
  union,
  updatePart,
  walk,
  type Part,
  type Rect,
  type Rules,
  type Size,
} from '../model/index.js';
import { itemBoxes, reflow, type Engine } from '../layout/index.js';
import { distance } from '../proof/index.js';
import { WORD_ROOM } from './widths.js';

/** The largest shift of a child, px, that may pass as a snap; beyond it the place is pinned as drawn. */
const MAX_SNAP = 1.5;
/** What an item may be off by before its surroundings are flattened, px. */
const MAX_OFF = 2.5;
/** More repairs than this and the drawing is no screen. */
const MAX_REPAIRS = 400;
/** Letters may be set this much closer to keep the drawn line breaks, px a letter: no eye sees it. */
const CLOSER = 0.08;

type Boxes = ReadonlyMap<string, Rect>;
type Items = ReadonlyMap<string, Item>;

const byId = (drawing: Drawing): Items => new Map(drawing.items.map((i) => [i.id, i]));

/**
 * Makes the tree stand where it was drawn: while containers misplace a child by more than may be called a snap, the
 * innermost such containers are pinned as drawn. `targets` are the boxes that parts were meant to have.
 */
export function settle(draft: Part, targets: Boxes, drawing: Drawing, engine: Engine): Part {
  let root = draft;
  const items = byId(drawing);
  for (let guard = 0; guard < MAX_REPAIRS; guard++) {
    const wrong = misplacing(root, reflow(root, drawing.width, engine).parts, targets);
    if (wrong.size === 0) break;
    const repaired = (part: Part): Part => {
      const children = part.children.map(repaired);
      const own = children.every((c, i) => c === part.children[i]) ? part : { ...part, children };
      return wrong.has(part.id) ? pinnedAsDrawn(own, targets, items) : own;
    };
    root = repaired(root);
  }
  return root;
}

/** The containers that misplace a child while nothing in them does, by their ids. */
function misplacing(root: Part, placed: Boxes, targets: Boxes): ReadonlySet<string> {
  const found = new Set<string>();
  const isWrong = (part: Part): boolean => {
    const [own, meant] = [placed.get(part.id), targets.get(part.id)];
    if (!own || !meant || part.kind !== 'container' || part.rules.flow === 'free') return false;
    return part.children.some((child) => {
      const [box, target] = [placed.get(child.id), targets.get(child.id)];
      if (!box || !target) return true;
      const moved = Math.max(
        Math.abs(box.x - own.x + meant.x - target.x),
        Math.abs(box.y - own.y + meant.y - target.y),
      );
      const resized = Math.max(Math.abs(box.width - target.width), Math.abs(box.height - target.height));
      return moved > MAX_SNAP || resized > MAX_SNAP * 2;
    });
  };
  /** Whether the part, or anything in it, misplaces something. */
  const visit = (part: Part): boolean => {
    const inside = part.children.map(visit).includes(true);
    if (inside || !isWrong(part)) return inside;
    found.add(part.id);
    return true;
  };
  visit(root);
  return found;
}

/** The rules that say how a part sits in its parent's flow. */
function seatRules({ pin, gapBefore, alignSelf, minWidth, maxWidth }: Rules): Rules {
  return {
    ...(pin && { pin }),
    ...(gapBefore !== undefined && { gapBefore }),
    ...(alignSelf && { alignSelf }),
    ...(minWidth !== undefined && { minWidth }),
    ...(maxWidth !== undefined && { maxWidth }),
  };
}

/** A container whose flow cannot reproduce the drawing: its children hang where they were drawn. */
function pinnedAsDrawn(part: Part, targets: Boxes, items: Items): Part {
  const own = targets.get(part.id);
  if (!own) return part;
  const children = part.children.map((child): Part => {
    const item = child.kind === 'text' ? items.get(child.source[0] ?? '') : undefined;
    const box = item?.box ?? targets.get(child.id) ?? own;
    const pin = { left: box.x - own.x, top: box.y - own.y };
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
    const across = fills ? { right: right(own) - right(box) } : {};
    return {
      ...child,
      rules: {
        ...kept,
        pin: { ...pin, ...across },
        width: fills ? FILL : fixed(box.width),
        height: fixed(box.height),
      },
    };
  });
  const { width, height } = part.rules;
  const rules: Rules = {
    ...seatRules(part.rules),
    flow: 'free',
    width: width === undefined || width.kind === 'fit' ? fixed(own.width) : width,
    height: height?.kind === 'fill' ? height : fixed(own.height),
  };
  return { ...part, rules, children };
}

/**
 * Rounding and snapping may leave a paragraph a hair less room than its widest line takes, so that it would break
 * otherwise than drawn: its letters are set closer by as much.
 */
export function fitWords(root: Part, drawing: Drawing, engine: Engine): Part {
  const { lines, parts } = reflow(root, drawing.width, engine);
  const items = byId(drawing);
  const fit = (part: Part): Part => {
    const children = part.children.map(fit);
    const next = children.every((c, i) => c === part.children[i]) ? part : { ...part, children };
    const item = items.get(part.source[0] ?? '');
    const { content } = part;
    const laid = lines.get(part.id);
    if (content?.kind !== 'text' || item?.kind !== 'text' || !laid) return next;
    const widest = Math.max(...item.lines.map((l) => l.width));
    const asDrawn =
      laid.length === item.lines.length && Math.abs(Math.max(...laid.map((l) => l.width)) - widest) < 1;
    if (asDrawn) return next;
    const letters = Math.max(1, (plainText(content).length / item.lines.length) * 0.8);
    const closer = (widest - (parts.get(part.id)?.width ?? 0) + 0.1) / letters;
    if (closer <= 0 || closer > CLOSER) return next;
    const runs = content.runs.map((r) => ({
      ...r,
      style: { ...r.style, letterSpacing: round(r.style.letterSpacing - closer, 3) },
    }));
    return { ...next, content: { ...content, runs } };
  };
  return fit(root);
}

/**
 * The last resort: while an item still stands off its place, the nearest container around it that is not flat yet
 * gives up its nesting and pins all it holds where it was drawn.
 */
export function flattenRest(start: Part, drawing: Drawing, engine: Engine): Part {
  let root = start;
  const items = byId(drawing);
  const flattened = new Set<string>();
  for (let guard = 0; guard < MAX_REPAIRS; guard++) {
    const placed = itemBoxes(root, reflow(root, drawing.width, engine));
    const owners = new Map([...walk(root)].flatMap((p) => p.source.map((id) => [id, p.id] as const)));
    const path = drawing.items
      .filter((i) => !(distance(placed.get(i.id) ?? NOWHERE, i.box) <= MAX_OFF))
      .map((i) => pathTo(root, owners.get(i.id) ?? ''))
      .find((p) => p.some((part) => part.kind === 'container' && !flattened.has(part.id)));
    const around = path?.findLast((p) => p.kind === 'container' && !flattened.has(p.id));
    if (!around) break;
    flattened.add(around.id);
    const frame = around === root ? drawing : undefined;
    root = updatePart(root, around.id, (part) => flat(part, items, frame));
  }
  return root;
}

const NOWHERE: Rect = { x: NaN, y: NaN, width: NaN, height: NaN };

/** A part with everything in it pinned side by side as drawn, holders before what they hold. */
function flat(part: Part, items: Items, frame: { width: number; height: number } | undefined): Part {
  const inside = [...walk(part)].slice(1).flatMap((p) =>
    p.source.flatMap((id) => {
      const item = items.get(id);
      return item ? [{ p, item }] : [];
    }),
  );
  const drawn = inside.map(({ item }) => item.box);
  const own = frame ? { x: 0, y: 0, ...frame } : (items.get(part.source[0] ?? '')?.box ?? union(drawn));
  const children = inside.map(({ p, item: { kind: itemKind, box } }): Part => {
    const kind = p.kind !== 'container' ? p.kind : p.content ? 'picture' : 'shape';
    const text = itemKind === 'text';
    const rules: Rules = {
      pin: { left: box.x - own.x, top: box.y - own.y },
      width: fixed(box.width + (text ? WORD_ROOM : 0)),
      height: text ? FIT : fixed(box.height),
    };
    return { ...p, kind, children: [], rules };
  });
  const width: Size = frame ? FILL : fixed(own.width);
  const { minWidth: _min, maxWidth: _max, ...seat } = seatRules(part.rules);
  return { ...part, rules: { ...seat, flow: 'free', width, height: fixed(own.height) }, children };
}
