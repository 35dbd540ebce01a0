import type { Drawing, Item } from '../drawing/index.js';
import {
  centreX,
  centreY,
  covers,
  FILL,
  FIT,
  fixed,
  round,
  type Content,
  type Paint,
  type Part,
  type PartKind,
  type Rect,
  type Rules,
  type Size,
} from '../model/index.js';
import { EXACT } from '../proof/index.js';
import type { TextMeasurer } from '../text/index.js';
import { Engine } from '../layout/index.js';
import { contentColumn, type Column } from './contentColumn.js';
import { columnChild, columnPadding, fillingShare, makesWidth } from './columns.js';
import { gridRules } from './grids.js';
import { isHolder, isLeaf, isText, near, type Node, type Tolerance } from './node.js';
import { pinRules } from './pins.js';
import { planRow } from './rows.js';
import { isWrapper, usual, withRules, type Seat } from './seat.js';
import { commonest, gapsOf, type Axis } from './stack.js';
import { fitsContent, WORD_ROOM } from './widths.js';

/** What is this near to a whole number of px was meant to be it. */
const WHOLE = 0.04;
/** A child that would stand this far from its drawn place gets a gap of its own, px. */
const DRIFT = 0.4;

/** Pictures whose sides differ by no more than this were given one size, px. */
const SAME_PICTURE = 2;

/** Turns the tree of nodes into parts with rules, from the frame inwards. */
export class Builder {
  readonly tolerance: Tolerance;
  readonly measurer: TextMeasurer;
  readonly engine: Engine;
  /** Where each part has to stand at the drawn width. */
  readonly targets = new Map<string, Rect>();
  /** The distance from the frame's sides that the most of what is drawn keeps; none where nothing tells it. */
  margin = 0;
  frameWidth = 0;
  /** The column in the middle of the screen that its content stands in, where it has one. */
  column: Column | undefined;
  #pictures: readonly Rect[] = [];
  readonly #prefix: string;
  readonly #taken: ReadonlySet<string>;
  #count = 0;

  /**
   * Ids of parts begin with `prefix` and are none of the `taken` ones, but for nodes that stand for a part already.
   */
  constructor(
    tolerance: Tolerance,
    measurer: TextMeasurer,
    prefix = 'p',
    taken: ReadonlySet<string> = new Set(),
  ) {
    this.tolerance = tolerance;
    this.#prefix = prefix;
    this.#taken = taken;
    this.measurer = measurer;
    this.engine = new Engine(measurer);
  }

  /** The frame: its width comes from outside. */
  root(drawing: Drawing, node: Node): Part {
    const box = { x: 0, y: 0, width: drawing.width, height: drawing.height };
    this.frameWidth = drawing.width;
    this.margin = marginOf(drawing, this.tolerance.same);
    this.column = contentColumn(drawing);
    this.#pictures = drawing.items.filter((i) => i.kind === 'picture').map((i) => i.box);
    const part = this.#container(node, box, { width: FILL }, true);
    const height = node.children.length === 0 ? fixed(drawing.height) : undefined;
    return {
      ...part,
      name: drawing.name || 'Screen',
      source: drawing.backgroundIds,
      paint: drawing.background,
      rules: { ...part.rules, ...(height && { height }) },
    };
  }

  #id(box: Rect, node?: Node): string {
    const id = node?.of ?? this.#freshId();
    this.targets.set(id, box);
    return id;
  }

  #freshId(): string {
    for (;;) {
      const id = `${this.#prefix}${++this.#count}`;
      if (!this.#taken.has(id)) return id;
    }
  }

  /** A number as it goes into a rule: whole where the drawing meant a whole one. */
  px(value: number): number {
    const whole = Math.round(value);
    return near(value, whole, WHOLE) ? whole : round(value, 3);
  }

  seat(seat: Seat): Part {
    const { inset } = seat;
    if (!inset) return this.#seated(seat);
    // Lines are a guess where they stand alone: one that reaches out of its place by a hair stays in it.
    const side = (distance = 0) => Math.max(0, distance);
    const padding = {
      top: side(inset.top),
      right: side(inset.right),
      bottom: side(inset.bottom),
      left: side(inset.left),
    };
    const box = {
      x: seat.box.x - padding.left,
      y: seat.box.y - padding.top,
      width: seat.box.width + padding.left + padding.right,
      height: seat.box.height + padding.top + padding.bottom,
    };
    // A wrapper of another reading has its padding for this.
    if (seat.node.of !== undefined && isWrapper(seat.node)) {
      const { width, maxWidth, ...rules } = seat.rules;
      const wider: Rules = {
        ...rules,
        ...(width && { width: width.kind === 'fixed' ? FIT : width }),
        ...(typeof maxWidth === 'number' && { maxWidth: maxWidth + padding.left + padding.right }),
      };
      return this.#seated({ node: seat.node, box, rules: wider });
    }
    const id = this.#id(box);
    const child = this.#seated(seat);
    const { alignSelf, gapBefore, width, maxWidth, minWidth, ...own } = child.rules;
    const outer: Rules = {
      ...(width && { width: width.kind === 'fixed' ? FIT : width }),
      ...(typeof maxWidth === 'number' && { maxWidth: maxWidth + padding.left + padding.right }),
      ...(alignSelf && { alignSelf }),
      ...(gapBefore !== undefined && { gapBefore }),
      ...(own.height?.kind === 'fill' && { height: own.height }),
    };
    return {
      id,
      name: id,
      kind: 'container',
      source: [],
      rules: { flow: 'column', padding, ...outer },
      children: [
        { ...child, rules: { ...own, ...(width && { width }), ...(minWidth !== undefined && { minWidth }) } },
      ],
    };
  }

  #seated(seat: Seat): Part {
    const { node, rules, box } = seat;
    if (!isLeaf(node)) return this.#container(node, box, rules, false, seat.foot);
    const { item } = node;
    if (!item) throw new RangeError('A leaf of the reading has no item.');
    if (item.kind === 'art' && isBoxed(node)) return this.#icon(seat, item);
    const id = this.#id(box, node);
    const { kind, paint, content } = leafOf(item, seat.textAlign);
    return {
      id,
      name: id,
      kind,
      source: [item.id],
      rules: this.rounded(withRoomForWords(rules, item)),
      children: [],
      ...(paint && { paint }),
      ...(content && { content }),
    };
  }

  /** An icon in the box that it was drawn in: its ink stands in the middle, or keeps its distance from the sides of the box. */
  #icon({ node, rules, box }: Seat, item: Item): Part {
    const id = this.#id(box, node);
    const ink = item.box;
    // Off the grid, ink may reach out of its box by a hair.
    const beside = Math.max(0, ink.x - node.box.x);
    const above = Math.max(0, ink.y - node.box.y);
    const across = near(centreX(ink), centreX(node.box), EXACT);
    const upright = near(centreY(ink), centreY(node.box), EXACT);
    const padding = {
      top: upright ? 0 : above,
      right: 0,
      bottom: 0,
      left: across ? 0 : beside,
    };
    const { paint, content } = leafOf(item);
    this.targets.set(inkOf(id), ink);
    return {
      id,
      name: id,
      kind: 'container',
      source: [],
      rules: this.rounded({
        flow: 'column',
        ...((!across || !upright) && { padding }),
        ...(across && { align: 'centre' }),
        ...(upright && { justify: 'centre' }),
        ...rules,
      }),
      children: [
        {
          id: inkOf(id),
          name: inkOf(id),
          kind: 'picture',
          source: [item.id],
          rules: this.rounded({ width: fixed(ink.width), height: fixed(ink.height) }),
          children: [],
          ...(paint && { paint }),
          ...(content && { content }),
        },
      ],
    };
  }

  /** Rules with their numbers as they go into the document. */
  rounded(rules: Rules): Rules {
    const tidy = (value: unknown): unknown => {
      if (typeof value === 'number') return this.px(value);
      if (typeof value === 'object' && value !== null)
        return Object.fromEntries(Object.entries(value).map(([k, x]) => [k, tidy(x)]));
      return value;
    };
    return tidy(rules) as Rules;
  }

  #container(node: Node, box: Rect, outer: Rules, isRoot: boolean, foot?: number): Part {
    const id = this.#id(box, node);
    const content = this.#content(node, box, isRoot, outer.width?.kind === 'fit');
    const { seats } = content;
    const rules = foot === undefined ? content.rules : withFoot(content.rules, foot);
    const children = evenOut(
      seats.map((s) => this.seat(s)),
      seats,
      rules,
    );
    const pinned = inPaintOrder(node.pins).map((pin) => {
      const part = this.seat({ node: pin, ...pinRules(pin, box, this) });
      return { part, under: node.children.some((c) => liesOver(c, pin)) };
    });
    const under = pinned.filter((p) => p.under).map((p) => p.part);
    const over = pinned.filter((p) => !p.under).map((p) => p.part);
    const { item } = node;
    const picture = item?.kind === 'picture' || item?.kind === 'art' ? leafOf(item).content : undefined;
    const part: Part = {
      id,
      name: id,
      kind: 'container',
      source: item ? [item.id] : [],
      rules: { ...this.rounded(rules), ...this.rounded(outer) },
      children: [...under, ...children, ...over],
      ...(item && { paint: item.paint }),
      ...(picture && { content: picture }),
    };
    return part;
  }

  #content(node: Node, box: Rect, isRoot: boolean, fits: boolean): { rules: Rules; seats: Seat[] } {
    if (node.children.length === 0) return { rules: { flow: 'column' }, seats: [] };
    switch (node.flow) {
      case 'row':
        return planRow(node, box, this, fits);
      case 'grid':
      case 'wrap':
        return gridRules(node, box, this);
      case 'free':
        return this.#free(node, box);
      default:
        return this.#column(node, box, isRoot, fits);
    }
  }

  #free(node: Node, box: Rect): { rules: Rules; seats: Seat[] } {
    const seats = node.children.map((child): Seat => ({ node: child, ...pinRules(child, box, this) }));
    return { rules: { flow: 'free', height: fixed(box.height) }, seats };
  }

  #column(node: Node, box: Rect, isRoot: boolean, fits: boolean): { rules: Rules; seats: Seat[] } {
    const padding = columnPadding(node, box, this, isRoot);
    const inner = {
      x: box.x + padding.left,
      y: box.y + padding.top,
      width: box.width - padding.left - padding.right,
      height: box.height - padding.top - padding.bottom,
    };
    const edge = Math.min(...node.children.map((c) => c.box.x)) - box.x;
    const limited = padding.left < edge - this.tolerance.same;
    const filling = fillingShare(node, box, this.tolerance);
    if (filling) return { rules: { flow: 'column', height: fixed(box.height) }, seats: [filling] };
    const seats = node.children.map((c) =>
      columnChild(c, inner, this, { fits, limited, widest: fits && makesWidth(c, node, inner, this) }),
    );
    const { gap, before } = this.gaps(node.children, 'column');
    const align = usual(seats.map((s) => s.rules.alignSelf).filter((a) => a !== undefined)) ?? 'start';
    const rules: Rules = {
      flow: 'column',
      ...(node.children.length > 1 && { gap }),
      padding,
      ...(align !== 'start' && { align }),
    };
    return { rules, seats: seats.map((s, i) => withRules(s, { align, gapBefore: before[i] })) };
  }

  /**
   * The gap that most consecutive children share, and the odd ones by child. Small differences may pass, but their
   * sum may not: a child that would drift from its place gets the gap that puts it there.
   */
  gaps(
    children: readonly Node[],
    axis: Axis,
    boxes?: readonly Rect[],
  ): { gap: number; before: (number | undefined)[] } {
    const placed = boxes ? children.map((c, i) => ({ ...c, box: boxes[i] ?? c.box })) : children;
    const gaps = gapsOf(placed, axis);
    const common = commonest(gaps, this.tolerance.same).value;
    const whole = Math.round(common);
    const gap =
      near(common, whole, 0.5) && gaps.filter((g) => near(g, whole, DRIFT)).length * 2 >= gaps.length
        ? whole
        : this.px(common);
    let drift = 0;
    const before = gaps.map((g): number | undefined => {
      if (Math.abs(drift + gap - g) <= DRIFT) {
        drift += gap - g;
        return undefined;
      }
      const exact = this.px(g - drift);
      drift += exact - g;
      return exact;
    });
    return { gap, before: [undefined, ...before] };
  }

  fits(node: Node): boolean {
    return fitsContent(node, this.tolerance);
  }

  /** The size that pictures about as large as this have: what one has, all have, however a drawing is rounded. */
  #usualPicture(box: Rect): Rect {
    const alike = this.#pictures.filter(
      (p) => near(p.width, box.width, SAME_PICTURE) && near(p.height, box.height, SAME_PICTURE),
    );
    const middle = (of: (p: Rect) => number) => alike.map(of).sort((a, b) => a - b)[alike.length >> 1];
    return {
      ...box,
      width: middle((p) => p.width) ?? box.width,
      height: middle((p) => p.height) ?? box.height,
    };
  }

  /** The height rule of a child that is `box` large: holders are as high as their content. */
  heightRule(node: Node, box: Rect, width: Size): Size {
    if (isText(node) || (isHolder(node) && node.children.length > 0)) return FIT;
    const picture = node.item?.kind === 'picture' && box.height > 40;
    if (picture && width.kind !== 'fixed' && !keepsHeight(this.#usualPicture(box)))
      return { kind: 'ratio', width: this.px(box.width), height: this.px(box.height) };
    return fixed(box.height);
  }
}

/** Whether a node is an icon in a box that is larger than its ink. */
const isBoxed = ({ box, item }: Node): boolean =>
  item !== undefined && (box.width > item.box.width || box.height > item.box.height);

/** The id of the ink in an icon's box. */
export const inkOf = (icon: string): string => `${icon}-ink`;

/** The rules with the padding at the foot of a column no larger than `foot`. */
function withFoot(rules: Rules, foot: number): Rules {
  const { flow, padding } = rules;
  return flow === 'column' && padding && padding.bottom > foot
    ? { ...rules, padding: { ...padding, bottom: foot } }
    : rules;
}

/** Whether anything in a node was painted after a pin and covers some of it. */
const liesOver = (node: Node, pin: Node): boolean =>
  (node.item !== undefined && node.order > pin.order && covers(node.box, pin.box, 0)) ||
  node.children.some((c) => liesOver(c, pin)) ||
  node.pins.some((c) => liesOver(c, pin));

/** What lies over each other in the order of its paint; else by place, which no exporter's order changes. */
function inPaintOrder(pins: readonly Node[]): readonly Node[] {
  const lieOver = pins.some((p, i) => pins.slice(i + 1).some((q) => covers(p.box, q.box, 0)));
  return lieOver
    ? pins
    : pins.toSorted((a, b) => a.box.y - b.box.y || a.box.x - b.box.x || a.order - b.order);
}

/** The ratios that pictures are cut to. */
const RATIOS = [1, 5 / 4, 4 / 3, 7 / 5, 3 / 2, 16 / 10, 16 / 9, 2, 21 / 9, 3, 4 / 5, 3 / 4, 2 / 3, 9 / 16];

/** Whether a picture was given a height, a round one, and not one of the usual ratios. */
function keepsHeight({ width, height }: Rect): boolean {
  if (RATIOS.some((r) => near(width, height * r, Math.max(1, width * 0.006)))) return false;
  return near(height, Math.round(height / 10) * 10, 0.35) || near(height, Math.round(height / 16) * 16, 0.35);
}

/** A screen's content keeps at least and at most so far from its sides, px. */
const MARGIN = { least: 8, most: 48 };

/** The left edge that most items of a screen share, where several do. */
function marginOf(drawing: Drawing, by: number): number {
  const lefts = drawing.items.map((i) => i.box.x).filter((x) => x >= MARGIN.least && x <= MARGIN.most);
  const { value, count } = commonest(lefts, by);
  return count > 2 ? Math.round(value) : 0;
}

/**
 * Weights share the room that paddings leave, as in CSS. Children that share a row by weight and have unlike paddings
 * get the weights that give them their drawn widths.
 */
function evenOut(children: readonly Part[], seats: readonly Seat[], rules: Rules): readonly Part[] {
  if (rules.flow !== 'row') return children;
  const fills = children.flatMap((c, i) => {
    const { width, padding } = c.rules;
    const sides = (padding?.left ?? 0) + (padding?.right ?? 0);
    return width?.kind === 'fill'
      ? [{ c, weight: width.weight, free: (seats[i]?.box.width ?? 0) - sides }]
      : [];
  });
  const total = fills.reduce((s, f) => s + f.free, 0);
  const sum = fills.reduce((s, f) => s + f.weight, 0);
  if (fills.length < 2 || fills.every((f) => near((f.weight / sum) * total, f.free, 0.3))) return children;
  const most = Math.max(...fills.map((f) => f.free));
  const weights = new Map(fills.map((f) => [f.c, round(Math.max(0.01, f.free / most), 4)]));
  return children.map((c) => {
    const weight = weights.get(c);
    return weight === undefined ? c : { ...c, rules: { ...c.rules, width: { kind: 'fill', weight } } };
  });
}

function leafOf(
  item: Item,
  textAlign?: Seat['textAlign'],
): { kind: PartKind; paint?: Paint; content?: Content } {
  switch (item.kind) {
    case 'text': {
      const align = textAlign ?? item.content.align;
      return { kind: 'text', content: { ...item.content, align } };
    }
    case 'picture':
      return { kind: 'picture', paint: item.paint, content: item.content };
    case 'art':
      return { kind: 'picture', paint: item.paint, content: item.content };
    case 'shape':
      return { kind: 'shape', paint: item.paint };
  }
}

/** A line that has a width of its own has room for its words, however its place was rounded: else it would break. */
function withRoomForWords(rules: Rules, item: Item): Rules {
  const isNarrow = item.kind === 'text' && item.lines.length === 1 && rules.width?.kind === 'fixed';
  return isNarrow && rules.width.px < item.box.width + WORD_ROOM
    ? { ...rules, width: fixed(Math.ceil(item.box.width + WORD_ROOM)) }
    : rules;
}
