import type { Engine } from '../layout/index.js';
import { gapPx, inFlow, reflow } from '../layout/index.js';
import { bottom, FILL, ruleOf, updatePart, walk, type Part } from '../model/index.js';
import { roomLeftAt } from './roomLeft.js';
import { spread } from './stack.js';
import type { Boxes } from './standingPart.js';

/** Feet of cards that stand within this of one line are on it, px. */
const LEVEL = 1.5;
/** What the spaces above the feet differ by at least, before they are more than a slip of the hand, px. */
const UNEVEN = 4;

const isCard = (part: Part): boolean =>
  part.kind === 'container' &&
  ruleOf(part.rules, 'flow') === 'column' &&
  part.rules.height?.kind === 'fill' &&
  inFlow(part).length >= 2;

/** The space above a card's last child, px. */
const spaceAbove = (card: Part): number => card.children.at(-1)?.rules.gapBefore ?? gapPx(card);

/** Cards beside each other whose last children stand on one line although what is above them differs in height. */
function cardsWithFeet(row: Part, boxes: Boxes): readonly Part[] {
  const flow = ruleOf(row.rules, 'flow');
  if (flow !== 'grid' && flow !== 'row') return [];
  const cards = inFlow(row);
  if (cards.length < 2 || !cards.every(isCard) || cards.some((c) => c.children.at(-1)?.rules.pin)) return [];
  const [first, ...rest] = cards.map((c) => boxes.get(c.children.at(-1)?.id ?? ''));
  if (!first || rest.some((b) => !b || Math.abs(bottom(b) - bottom(first)) > LEVEL)) return [];
  return spread(cards.map(spaceAbove)) > UNEVEN ? cards : [];
}

/** The room that is left closes to this, px. */
const CLOSES_TO = 24;

const sharesHeight = (row: Part): boolean => ['grid', 'row'].includes(ruleOf(row.rules, 'flow'));

/** The card with a spacer that pushes its last child to its lower edge, and never brings it nearer than `least` px. */
const pushed = (card: Part, least: number): Part =>
  withSpacer(card, card.children.length - 1, gapPx(card), least);

/** The card with a spacer before the child at an index, never less than `least` px between it and the one above. */
function withSpacer(card: Part, at: number, gap: number, least: number): Part {
  const below = card.children[at];
  if (!below) return card;
  const { gapBefore: _gap, ...rules } = below.rules;
  const min = Math.max(0, least - 2 * gap);
  const spacer: Part = {
    id: `${card.id}s`,
    name: 'Spacer',
    kind: 'shape',
    source: [],
    children: [],
    // Where less space is wanted than two gaps, the spacer takes one of them back.
    rules: {
      width: FILL,
      height: FILL,
      ...(min > 0 && { minHeight: min }),
      ...(least < gap * 2 && { gapBefore: least - gap }),
    },
  };
  const { children } = card;
  return {
    ...card,
    rules: { ...card.rules, gap },
    children: [...children.slice(0, at), spacer, { ...below, rules }, ...children.slice(at + 1)],
  };
}

/** Whether what a card holds reaches its foot: else room is left there. */
function isFull(card: Part, boxes: Boxes): boolean {
  const [own, last] = [boxes.get(card.id), boxes.get(card.children.at(-1)?.id ?? '')];
  const below = own && last ? bottom(own) - bottom(last) : NaN;
  return Math.abs(below - (card.rules.padding?.bottom ?? 0)) <= LEVEL;
}

/** A stretched card with the widest of its spaces as a spacer, where that is room that was left; else as it is. */
function withRoom(card: Part, boxes: Boxes): Part {
  if (!isCard(card) || card.children.some((c) => c.rules.pin) || !isFull(card, boxes)) return card;
  const spaces = card.children.slice(1).map((c) => c.rules.gapBefore ?? gapPx(card));
  const at = roomLeftAt(spaces);
  if (at === undefined) return card;
  const others = spaces.filter((_, i) => i !== at);
  const gap = Math.max(0, Math.round(Math.min(...others, others.length > 0 ? Infinity : 0)));
  const children = card.children.map((c, i): Part => {
    const space = spaces[i - 1];
    return space === undefined || space === gap ? c : { ...c, rules: { ...c.rules, gapBefore: space } };
  });
  return withSpacer({ ...card, children }, at + 1, gap, CLOSES_TO);
}

/**
 * The cards of a row with their room as a spacer, by id, as far as they would stay as high as they are without it: their
 * row has a height, or another card or what stands beside them gives it one.
 */
function withRoomIn(row: Part, boxes: Boxes): ReadonlyMap<string, Part> {
  const cards = inFlow(row).map((card) => ({ card, changed: withRoom(card, boxes) }));
  const roomy = cards.filter(({ card, changed }) => changed !== card);
  if (roomy.length === 0) return new Map();
  const footOf = (part: Part): number => {
    const box = boxes.get(part.id);
    return box ? bottom(box) : NaN;
  };
  const isHeld = ({ card, changed }: (typeof cards)[number]): boolean =>
    changed === card && (isCard(card) ? isFull(card, boxes) : card.rules.height?.kind !== 'fill');
  const held = cards.filter(isHeld);
  const feet = [...new Set(held.map(({ card }) => footOf(card)))];
  const keeps = ({ card }: { readonly card: Part }): boolean =>
    row.rules.autoRows !== undefined || feet.some((foot) => Math.abs(foot - footOf(card)) <= LEVEL);
  return new Map(roomy.filter(keeps).map(({ card, changed }) => [card.id, changed]));
}

/**
 * Where cards of equal height have their last parts on one line, what differs in height between them is a space that fills:
 * on a phone, where each is as high as its content, it closes.
 */
export function pushFeetDown(root: Part, drawnWidth: number, engine: Engine): Part {
  const boxes = reflow(root, drawnWidth, engine).parts;
  let result = root;
  for (const row of walk(root)) {
    const cards = cardsWithFeet(row, boxes);
    const least = Math.min(...cards.map(spaceAbove));
    for (const card of cards) result = updatePart(result, card.id, (c) => pushed(c, least));
    if (cards.length > 0 || !sharesHeight(row)) continue;
    for (const [id, card] of withRoomIn(row, boxes)) result = updatePart(result, id, () => card);
  }
  return result;
}
