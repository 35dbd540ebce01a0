import type { Drawing, Item } from '../drawing/index.js';
import {
  FILL,
  FIT,
  fixed,
  pathTo,
  plainText,
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
import { seatRules } from './settle/pinned.js';
import { WORD_ROOM } from './widths.js';

/** What an item may be off by before its surroundings are flattened, px. */
const MAX_OFF = 2.5;
/** More repairs than this and the drawing is no screen. */
const MAX_REPAIRS = 400;
/** Letters may be set this much closer to keep the drawn line breaks, px a letter: no eye sees it. */
export const CLOSER = 0.08;

type Items = ReadonlyMap<string, Item>;

const byId = (drawing: Drawing): Items => new Map(drawing.items.map((i) => [i.id, i]));

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
 * gives up its nesting and pins all it holds where it was drawn. An item that this does not put in its place, as words that begin
 * in the middle of their first line, is left as it is: its surroundings keep their nesting.
 */
export function flattenRest(start: Part, drawing: Drawing, engine: Engine): Part {
  let root = start;
  const items = byId(drawing);
  const flattened = new Set<string>();
  const left = new Set<string>();
  const offIn = (tree: Part): ReadonlyMap<string, number> => {
    const placed = itemBoxes(tree, reflow(tree, drawing.width, engine));
    return new Map(drawing.items.map((i) => [i.id, distance(placed.get(i.id) ?? NOWHERE, i.box)]));
  };
  /** Whether an item does not stand where it was drawn even when it hangs there alone. */
  const isBeyondHelp = (item: Item, owner: Part): boolean => {
    const alone = flat(
      { ...root, children: [{ ...owner, children: [], source: [item.id] }] },
      items,
      drawing,
    );
    return !((offIn(alone).get(item.id) ?? NaN) <= MAX_OFF);
  };
  for (let guard = 0; guard < MAX_REPAIRS; guard++) {
    const off = offIn(root);
    const owners = new Map([...walk(root)].flatMap((p) => p.source.map((id) => [id, p] as const)));
    const astray = drawing.items.find((i) => !((off.get(i.id) ?? NaN) <= MAX_OFF) && !left.has(i.id));
    if (!astray) break;
    const owner = owners.get(astray.id);
    const path = owner && !isBeyondHelp(astray, owner) ? pathTo(root, owner.id) : [];
    const around = path.findLast((p) => p.kind === 'container' && !flattened.has(p.id));
    if (!around) {
      left.add(astray.id);
      continue;
    }
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
