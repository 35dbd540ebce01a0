import { type Rect, type TextRun } from '../../model/index.js';
import { maxContentWidth, minContentWidth, type TextMeasurer } from '../../text/index.js';
import { fitOf, pictureContent } from '../picture.js';
import type { RawItem } from '../raw.js';
import { CLEARS_FLOATS } from '../styles.js';
import { readSvgTree } from '../svg.js';
import type { Chunk } from '../svgText.js';
import { rawId } from '../cleanUp.js';
import type { Computed, StyledNode } from './computed.js';
import { Floats } from './floats.js';
import { inlines, lineHeightOf, strut, wordLines, wordPieces, type Inline, type Words } from './inline.js';
import { Page, type Around } from './page.js';
import { boxItems, opacityOf, PLACEHOLDER, showsBox, type BoxName } from './paintBox.js';
import { columnWidths, rowsOf } from './table.js';
import { pieces, px, type Length } from './values.js';

/** The nearest positioned element above, which absolute ones hang in; they wait until its size is known. */
interface Holder {
  readonly waiting: { node: StyledNode; at: { x: number; y: number }; around: Around }[];
}

/** What flowing children need to know. */
interface Context {
  readonly around: Around;
  readonly holder: Holder;
  readonly floats: Floats;
  /** The inner height of the element around them where it is declared, px. */
  readonly height: number | undefined;
}

/** A box that was laid out: its outer height without margins, and where its first line stands. */
interface Laid {
  readonly height: number;
  readonly baseline: number | undefined;
  /** The margin that goes on below it, its own and those of its last children. */
  readonly below: number;
}

/** What was found out before: without it, boxes in boxes would be laid out twice at every level. */
interface Known {
  /** The inner widths that content asks for. */
  readonly sizes: WeakMap<StyledNode, { min?: number; max?: number }>;
  /** Boxes laid out on trial, by their width and the height around them. */
  readonly trials: WeakMap<StyledNode, Map<string, Laid>>;
}

/** Two margins that touch are one (CSS 2.2 §8.3.1). */
const collapse = (a: number, b: number): number => Math.max(a, b, 0) + Math.min(a, b, 0);

const sum = (numbers: readonly number[]): number => numbers.reduce((s, n) => s + n, 0);

/** Padding and border of one axis: its start and its end, px. */
const edge = (style: Computed, axis: 'x' | 'y', avail: number): [number, number] => {
  const [start, end] = axis === 'x' ? [3, 1] : [0, 2];
  const at = (i: number) => Math.max(0, px(style.padding[i], avail) ?? 0) + (style.border[i] ?? 0);
  return [at(start), at(end)];
};

const clamp = (value: number, min: number | undefined, max: number | undefined): number =>
  Math.max(Math.min(value, max ?? Infinity), min ?? 0);

const isReplaced = ({ el, style }: StyledNode): boolean =>
  /^(?:img|canvas)$/.test(el.name) || style.display === 'svg';
const isControl = ({ el }: StyledNode): boolean => /^(?:input|select|textarea)$/.test(el.name);

/** Whether an element keeps its floats and its children's margins to itself (CSS 2.2 §9.4.1). */
const isOwnContext = (node: StyledNode): boolean =>
  node.style.float !== undefined ||
  node.style.position === 'absolute' ||
  /^(?:inline-block|table|cell)$/.test(node.style.display) ||
  /^(?:hidden|auto|scroll|clip)$/.test(node.style.all['overflow'] ?? '') ||
  /^(?:flow-root|flex|grid|inline-flex)$/.test(node.style.all['display'] ?? '');

const isBlockLevel = (node: StyledNode | string): node is StyledNode =>
  typeof node !== 'string' &&
  node.style.display !== 'none' &&
  !(
    /^(?:inline|inline-block)$/.test(node.style.display) ||
    (node.style.display === 'svg' && node.style.all['display'] !== 'block')
  );

const isOutOfFlow = (node: StyledNode | string): node is StyledNode =>
  typeof node !== 'string' && (node.style.position === 'absolute' || node.style.float !== undefined);

/** Lays a styled page out in block flow, with floats and positioned elements, and gives its items to the {@link Page}. */
export class PageLayout {
  readonly #page: Page;
  readonly #m: TextMeasurer;
  readonly #known: Known;

  constructor(page: Page, known: Known = { sizes: new WeakMap(), trials: new WeakMap() }) {
    this.#page = page;
    this.#m = page.measurer;
    this.#known = known;
  }

  /** Lays out the `body` in a window of this width; gives the height that the page takes. */
  layOut(body: StyledNode, width: number): number {
    const around: Around = { stack: [], opacity: 1, groups: [] };
    const holder: Holder = { waiting: [] };
    const floats = new Floats(0, width);
    const context: Context = { around, holder, floats, height: undefined };
    const { bottom } = this.#flow([body], 0, 0, width, context, false);
    const inFlow = Math.max(bottom, floats.bottom());
    return Math.max(inFlow, this.#positioned(holder, { x: 0, y: 0, width, height: inFlow }));
  }

  #name({ el }: StyledNode): string {
    return el.attributes['id'] ?? el.attributes['class']?.trim().split(/\s+/)[0] ?? el.name;
  }

  /** The name of a box, taken before its words take it. */
  #boxName(node: StyledNode): BoxName {
    const name = this.#name(node);
    const taken = showsBox(node.style) && !isReplaced(node);
    return {
      name,
      named: node.el.attributes['id'] !== undefined,
      id: taken ? this.#page.id(name) : undefined,
    };
  }

  #inside(node: StyledNode, around: Around): Around {
    const { all, position, z } = node.style;
    const id = node.el.attributes['id'];
    const hidden = all['visibility'] === 'hidden' || all['visibility'] === 'collapse';
    const faint = opacityOf(all) * around.opacity;
    return {
      ...around,
      stack: position === 'static' ? around.stack : [...around.stack, z ?? 0, this.#page.next()],
      opacity: faint,
      groups: id === undefined ? around.groups : [...around.groups, id],
      ...(hidden && { leftOut: 'hidden' as const }),
      ...(faint <= 0.004 && { leftOut: 'transparent' as const, opacity: 1 }),
    };
  }

  /** What cannot be laid out without a browser, said once for each kind. */
  #doubts(node: StyledNode): void {
    const { all } = node.style;
    const id = this.#name(node);
    if (/flex|grid/.test(all['display'] ?? ''))
      this.#page.note(`“display: ${all['display']}” was laid out as plain blocks, one below the other.`, id);
    if (all['transform'] && all['transform'] !== 'none' && !/^translate/.test(all['transform']))
      this.#page.note('Transforms other than translate were passed over.', id);
    if (all['columns'] ?? all['column-count'])
      this.#page.note('Text columns were laid out as one column.', id);
    if (
      ['width', 'height', 'left', 'top', 'margin-left', 'padding-left'].some((name) =>
        /calc\(|\dv[wh]\b|clamp\(/.test(all[name] ?? ''),
      )
    )
      this.#page.note(
        'Lengths that depend on the window or on a sum (calc, vw, vh) were taken as not given.',
        id,
      );
  }

  /** The border-box width of a block in `avail` px. */
  #width(node: StyledNode, avail: number, shrinks: boolean): number {
    const { style } = node;
    const edges = sum(edge(style, 'x', avail));
    const outer = (value: Length | undefined) => {
      const n = px(value, avail);
      return n === undefined ? undefined : style.borderBox ? Math.max(n, edges) : n + edges;
    };
    const margins = (px(style.margin[1], avail) ?? 0) + (px(style.margin[3], avail) ?? 0);
    let width = outer(style.width);
    if (width === undefined && (isReplaced(node) || isControl(node)))
      width = this.#naturalSize(node).width + edges;
    if (width === undefined && shrinks)
      width = Math.min(
        Math.max(this.#content(node, 'min') + edges, avail - margins),
        this.#content(node, 'max') + edges,
      );
    width ??= avail - margins;
    return Math.max(edges, clamp(width, outer(style.minWidth), outer(style.maxWidth)));
  }

  /** The inner width that an element's content asks for at most, or at least (CSS Sizing 3 §5). */
  #content(node: StyledNode, which: 'min' | 'max'): number {
    const known = this.#known.sizes.get(node) ?? {};
    this.#known.sizes.set(node, known);
    return (known[which] ??= this.#findContent(node, which));
  }

  #findContent(node: StyledNode, which: 'min' | 'max'): number {
    if (isReplaced(node) || isControl(node)) return this.#naturalSize(node).width;
    if (node.style.display === 'table' || node.style.display === 'rows') {
      const widths = columnWidths(rowsOf(node), which === 'max' ? Infinity : 0, (cell, kind) =>
        this.#outer(cell, kind),
      );
      return sum(widths);
    }
    const kids = node.children;
    if (!kids.some(isBlockLevel)) {
      let [widest, line] = [0, 0];
      const end = () => {
        widest = Math.max(widest, line);
        line = 0;
      };
      for (const item of inlines(
        kids.filter((k) => !isOutOfFlow(k)),
        node.style,
      )) {
        if (item.kind === 'atom') {
          if (which === 'min') end();
          line += this.#outer(item.node, which);
          continue;
        }
        const content = {
          kind: 'text' as const,
          runs: [{ text: item.text.replaceAll('\u2028', '\n'), style: item.style.type }],
          lineHeight: 1,
          align: 'start' as const,
        };
        const nowrap = item.style.oneLine;
        const width =
          which === 'max' || nowrap ? maxContentWidth(content, this.#m) : minContentWidth(content, this.#m);
        if (item.text.includes('\u2028') || which === 'min') {
          end();
          line = width;
          end();
        } else line += width;
      }
      end();
      const floats = kids.filter((k): k is StyledNode => isOutOfFlow(k) && k.style.position !== 'absolute');
      const floated = floats.map((f) => this.#outer(f, which));
      return which === 'max' ? widest + sum(floated) : Math.max(widest, ...floated);
    }
    let [widest, floated] = [0, 0];
    for (const kid of kids) {
      if (typeof kid === 'string' || kid.style.display === 'none' || kid.style.position === 'absolute')
        continue;
      const outer = this.#outer(kid, which);
      if (kid.style.float && which === 'max') floated += outer;
      else widest = Math.max(widest, outer);
    }
    return Math.max(widest, floated);
  }

  #outer(node: StyledNode, which: 'min' | 'max'): number {
    const { style } = node;
    const margins = (px(style.margin[1], 0) ?? 0) + (px(style.margin[3], 0) ?? 0);
    const edges = sum(edge(style, 'x', 0));
    const declared =
      typeof style.width === 'number' ? style.width + (style.borderBox ? 0 : edges) : undefined;
    const limit = (v: Length | undefined) =>
      typeof v === 'number' ? v + (style.borderBox ? 0 : edges) : undefined;
    return (
      margins +
      clamp(declared ?? this.#content(node, which) + edges, limit(style.minWidth), limit(style.maxWidth))
    );
  }

  /** The inner size of a picture or a control before its style is asked. */
  #naturalSize({ el, style }: StyledNode): { width: number; height: number } {
    const declared = {
      width: typeof style.width === 'number' ? style.width : undefined,
      height: typeof style.height === 'number' ? style.height : undefined,
    };
    if (el.name === 'img' || style.display === 'svg' || el.name === 'canvas') {
      const natural =
        el.name === 'img' ? pictureContent(el.attributes['src'], 'fill').content.natural : undefined;
      const view = el.attributes['viewbox'] ?? el.attributes['viewBox'];
      const [, , vw = 0, vh = 0] = (view ?? '')
        .trim()
        .split(/[\s,]+/)
        .map(Number);
      const own = natural ?? (vw > 0 && vh > 0 ? { width: vw, height: vh } : undefined);
      const fallback = el.name === 'img' ? { width: 0, height: 0 } : { width: 300, height: 150 };
      const width =
        declared.width ??
        (own && declared.height
          ? (declared.height * own.width) / own.height
          : (own?.width ?? fallback.width));
      const height = declared.height ?? (own ? (width * own.height) / own.width : fallback.height);
      return { width, height };
    }
    const line = lineHeightOf(style, this.#m);
    if (/^(?:checkbox|radio)$/.test(el.attributes['type'] ?? '')) return { width: 13, height: 13 };
    if (el.name === 'textarea') return { width: 182, height: 36 };
    const words = el.name === 'select' ? 0.62 * 12 : 0.55 * 20;
    const width = /^(?:submit|button|reset)$/.test(el.attributes['type'] ?? '')
      ? this.#m.width(el.attributes['value'] ?? '', style.type)
      : words * style.type.size;
    return { width, height: line };
  }

  /** Lays a box out with its border box at (x, y) and `width` px wide, and gives its items to the page. */
  #box(node: StyledNode, x: number, y: number, width: number, context: Context, given?: number): Laid {
    const { style } = node;
    const moved = /^translate(?:3d|X|Y)?\(([^)]*)\)/.exec(style.all['transform'] ?? '');
    if (moved) [x, y] = this.#translated(moved[0], moved[1] ?? '', x, y, width, style);
    if (style.position === 'relative') {
      const [top, right, bottom, left] = style.inset;
      x += px(left, width) ?? -(px(right, width) ?? 0);
      y += px(top, 0) ?? -(px(bottom, 0) ?? 0);
    }
    this.#doubts(node);
    const around = this.#inside(node, context.around);
    const put = this.#page.reserve(around);
    const named = this.#boxName(node);
    const [left, right] = edge(style, 'x', width);
    const [top, bottom] = edge(style, 'y', width);
    const holds = style.position !== 'static' || style.all['transform'] !== undefined;
    const holder = holds ? { waiting: [] } : context.holder;
    const inner = { x: x + left, y: y + top, width: Math.max(0, width - left - right) };
    const own = isOwnContext(node);
    const floats = own ? new Floats(inner.x, inner.x + inner.width) : context.floats;
    const edges = top + bottom;
    const declared = given ?? this.#height(style.height, context.height, edges, style);
    const limits = [style.minHeight, style.maxHeight].map((v) =>
      this.#height(v, context.height, edges, style),
    );
    const innerHeight = declared === undefined ? undefined : Math.max(0, declared - edges);
    const clips = /^(?:hidden|clip)$/.test(style.all['overflow'] ?? '') && declared !== undefined;
    const clip = clips ? { clip: { x, y, width, height: declared } } : {};
    const below: Around = { ...around, ...clip };
    const next: Context = { around: below, holder, floats, height: innerHeight };
    const laid = this.#inner(node, inner, next, edges);
    const cleared =
      own || style.all[CLEARS_FLOATS] !== undefined ? Math.max(laid.bottom, floats.bottom()) : laid.bottom;
    const natural = cleared - inner.y + edges;
    const height = Math.max(edges, clamp(declared ?? natural, limits[0], limits[1]));
    const box: Rect = { x, y, width, height };
    put(
      isReplaced(node)
        ? this.#replaced(node, { ...inner, height: height - edges }, box, around)
        : boxItems(style, box, named, around, this.#page),
    );
    if (holds)
      this.#positioned(holder, {
        x: x + style.border[3],
        y: y + style.border[0],
        width: width - style.border[1] - style.border[3],
        height: height - style.border[0] - style.border[2],
      });
    const ownBelow = px(style.margin[2], width) ?? 0;
    const through = declared === undefined && bottom === 0 && !own;
    return { height, baseline: laid.baseline, below: through ? collapse(ownBelow, laid.margin) : ownBelow };
  }

  #translated(
    whole: string,
    values: string,
    x: number,
    y: number,
    width: number,
    style: Computed,
  ): [number, number] {
    const [a, b] = values.split(',').map((v) => v.trim());
    const size = style.type.size;
    const height = typeof style.height === 'number' ? style.height : 0;
    const by = (text: string | undefined, of: number) => {
      const percent = /^(-?[\d.]+)%$/.exec(text ?? '');
      return percent
        ? (Number(percent[1]) / 100) * of
        : Number.parseFloat(text ?? '0') * (text?.endsWith('em') ? size : 1) || 0;
    };
    if (whole.startsWith('translateX')) return [x + by(a, width), y];
    if (whole.startsWith('translateY')) return [x, y + by(a, height)];
    return [x + by(a, width), y + by(b, height)];
  }

  #height(
    value: Length | undefined,
    of: number | undefined,
    edges: number,
    style: Computed,
  ): number | undefined {
    if (value === undefined || value === 'auto' || (typeof value === 'object' && of === undefined))
      return undefined;
    const n = px(value, of ?? 0) ?? 0;
    return style.borderBox ? Math.max(n, edges) : n + edges;
  }

  /** The inside of a box; gives where it ends and the margin that goes on below its last child. */
  #inner(
    node: StyledNode,
    inner: { x: number; y: number; width: number },
    context: Context,
    edges: number,
  ): { bottom: number; margin: number; baseline: number | undefined } {
    const { style } = node;
    const { x, y, width } = inner;
    if (isReplaced(node)) {
      const natural = this.#naturalSize(node);
      const ratio = natural.width > 0 ? natural.height / natural.width : 0;
      const height = style.height === undefined || style.height === 'auto' ? width * ratio : natural.height;
      return { bottom: y + height, margin: 0, baseline: undefined };
    }
    if (isControl(node)) return this.#control(node, inner, context);
    if (style.display === 'table') return this.#table(node, x, y, width, context);
    const collapsing = edges === 0 || !isOwnContext(node);
    if (node.el.name !== 'button' || context.height === undefined)
      return this.#flow(node.children, x, y, width, context, collapsing, node);
    // A button's words stand in its middle.
    const dry: Context = { ...context, floats: new Floats(x, x + width), holder: { waiting: [] } };
    const trial = new PageLayout(new Page(this.#m), this.#known).#flow(
      node.children,
      x,
      y,
      width,
      dry,
      collapsing,
      node,
    );
    const shift = Math.max(0, context.height - (trial.bottom - y)) / 2;
    return this.#flow(node.children, x, y + shift, width, context, collapsing, node);
  }

  /** The margin above a block and what collapses into it. */
  #above(node: StyledNode, avail: number): number {
    const own = px(node.style.margin[0], avail) ?? 0;
    if (edge(node.style, 'y', avail)[0] > 0 || isOwnContext(node) || node.style.display !== 'block')
      return own;
    for (const kid of node.children) {
      if (typeof kid === 'string' ? kid.trim() === '' : kid.style.display === 'none' || isOutOfFlow(kid))
        continue;
      return isBlockLevel(kid) ? collapse(own, this.#above(kid, avail)) : own;
    }
    return own;
  }

  #flow(
    children: readonly (StyledNode | string)[],
    x: number,
    y: number,
    width: number,
    context: Context,
    collapsing: boolean,
    parent?: StyledNode,
  ): { bottom: number; margin: number; baseline: number | undefined } {
    const state = { y, margin: 0, first: true, baseline: undefined as number | undefined };
    const topOpen =
      collapsing && parent !== undefined && edge(parent.style, 'y', width)[0] === 0 && !isOwnContext(parent);
    let run: (StyledNode | string)[] = [];
    const endRun = () => {
      if (run.length === 0 || !parent) return;
      const items = inlines(run, parent.style);
      run = [];
      if (items.length === 0) return;
      state.y += state.margin;
      state.margin = 0;
      const laid = this.#lines(items, parent, x, state.y, width, context);
      state.y = laid.bottom;
      state.baseline ??= laid.baseline;
      state.first = false;
    };
    for (const child of children) {
      if (typeof child !== 'string' && child.style.display === 'none') continue;
      if (isOutOfFlow(child)) {
        if (child.style.position === 'absolute') {
          context.holder.waiting.push({
            node: child,
            at: { x, y: state.y + state.margin },
            around: context.around,
          });
          continue;
        }
        endRun();
        this.#float(child, x, state.y + (state.first && topOpen ? 0 : state.margin), width, context);
        continue;
      }
      if (!isBlockLevel(child)) {
        run.push(child);
        continue;
      }
      endRun();
      const { style } = child;
      const above = this.#above(child, width);
      const gap = state.first && topOpen ? 0 : collapse(state.margin, above);
      let top = state.y + gap;
      if (style.clear) top = Math.max(top, context.floats.clear(style.clear, top));
      let [left, room] = [x, width];
      if (isOwnContext(child) || child.style.display === 'table' || isReplaced(child)) {
        const band = context.floats.band(top, x, x + width);
        [left, room] = [band.left, band.right - band.left];
      }
      const outer = this.#width(child, room, style.display === 'table');
      const [autoLeft, autoRight] = [style.margin[3] === 'auto', style.margin[1] === 'auto'];
      const free = room - outer - (px(style.margin[3], room) ?? 0) - (px(style.margin[1], room) ?? 0);
      const shift = autoLeft && free > 0 ? (autoRight ? free / 2 : free) : (px(style.margin[3], room) ?? 0);
      const laid = this.#box(child, left + shift, top, outer, context);
      state.y = top + laid.height;
      state.margin = laid.below;
      state.baseline ??= laid.baseline;
      if (laid.height > 0 || laid.below !== 0) state.first = false;
    }
    endRun();
    const bottomOpen =
      parent !== undefined &&
      edge(parent.style, 'y', width)[1] === 0 &&
      !isOwnContext(parent) &&
      context.height === undefined;
    return bottomOpen
      ? { bottom: state.y, margin: state.margin, baseline: state.baseline }
      : { bottom: state.y + state.margin, margin: 0, baseline: state.baseline };
  }

  #float(node: StyledNode, x: number, y: number, avail: number, context: Context): void {
    const { style } = node;
    const width = this.#width(node, avail, true);
    const [mt, mr, mb, ml] = style.margin.map((v) => px(v, avail) ?? 0) as [number, number, number, number];
    const outer = width + ml + mr;
    const from = style.clear ? context.floats.clear(style.clear, y) : y;
    const place = context.floats.place(style.float ?? 'left', from, outer, x, x + avail);
    const laid = this.#box(node, place.x + ml, place.y + mt, width, context);
    context.floats.add(style.float ?? 'left', {
      x: place.x,
      y: place.y,
      width: outer,
      height: laid.height + mt + mb,
    });
  }

  /** Absolute elements, once the size of what they hang in is known; gives the lowest end of them. */
  #positioned(holder: Holder, area: Rect): number {
    let lowest = 0;
    for (let i = 0; i < holder.waiting.length; i++) {
      const { node, at, around } = holder.waiting[i] as Holder['waiting'][number];
      const { style } = node;
      const [top, right, bottom, left] = style.inset.map((v, side) =>
        px(v, side % 2 === 0 ? area.height : area.width),
      );
      const margin = style.margin.map((v) => px(v, area.width) ?? 0) as [number, number, number, number];
      const fixedWidth = style.width !== undefined && style.width !== 'auto';
      const stretched = left !== undefined && right !== undefined && !fixedWidth && !isReplaced(node);
      const width = stretched
        ? Math.max(0, area.width - left - right - margin[1] - margin[3])
        : this.#width(node, area.width, true);
      const x =
        left !== undefined
          ? area.x + left + margin[3]
          : right !== undefined
            ? area.x + area.width - right - width - margin[1]
            : at.x + margin[3];
      const tall =
        top !== undefined && bottom !== undefined && (style.height === undefined || style.height === 'auto');
      const given =
        tall && !isReplaced(node)
          ? Math.max(0, area.height - top - bottom - margin[0] - margin[2])
          : undefined;
      const context: Context = {
        around,
        holder: { waiting: [] },
        floats: new Floats(x, x + width),
        height: area.height,
      };
      let y = top !== undefined ? area.y + top + margin[0] : at.y + margin[0];
      if (top === undefined && bottom !== undefined) {
        const height = this.#dry(node, width, context);
        y = area.y + area.height - bottom - height - margin[2];
      }
      const laid = this.#box(node, x, y, width, context, given);
      lowest = Math.max(lowest, y + laid.height);
    }
    return lowest;
  }

  /** The height that a box will have, found without giving its items to the page. */
  #dry(node: StyledNode, width: number, context: Context): number {
    const declared = this.#height(
      node.style.height,
      context.height,
      sum(edge(node.style, 'y', width)),
      node.style,
    );
    if (declared !== undefined) return declared;
    return this.#trial(node, width, context).height;
  }

  /** A box as it will be laid out, without giving its items to the page. */
  #trial(node: StyledNode, width: number, context: Context): Laid {
    const trials = this.#known.trials.get(node) ?? new Map<string, Laid>();
    this.#known.trials.set(node, trials);
    const key = `${width} ${context.height}`;
    const known = trials.get(key);
    if (known) return known;
    const around: Around = { stack: [], opacity: 1, groups: [] };
    const dry: Context = { ...context, around, holder: { waiting: [] }, floats: new Floats(0, width) };
    const laid = new PageLayout(new Page(this.#m), this.#known).#box(node, 0, 0, width, dry);
    trials.set(key, laid);
    return laid;
  }

  #replaced(node: StyledNode, inner: Rect, box: Rect, around: Around): RawItem[] {
    const { el, style } = node;
    const painted = boxItems(
      style,
      box,
      { name: `${this.#name(node)}-box`, named: false },
      around,
      this.#page,
    );
    if (inner.width <= 0 || inner.height <= 0) return painted;
    const named = el.attributes['id'] !== undefined;
    if (style.display === 'svg') {
      const attributes = { ...el.attributes, width: String(inner.width), height: String(inner.height) };
      // The page's own corner is where the drawing's frame begins.
      const shift = {
        x: -inner.x,
        y: -inner.y,
        width: inner.x + inner.width + 1,
        height: inner.y + inner.height + 1,
      };
      const drawn = readSvgTree({ ...el, attributes }, 'svg', { frame: shift });
      const items = drawn.items.map((item): RawItem => {
        const id = this.#page.id(rawId(item));
        return item.kind === 'text' ? { ...item, id } : ({ ...item, item: { ...item.item, id } } as RawItem);
      });
      return [...painted, ...this.#asIcon(items, this.#name(node), inner)];
    }
    const fit = style.all['object-fit'];
    const { content, kept } = pictureContent(
      el.attributes['src'],
      fit === 'cover' || fit === 'contain' ? fit : fitOf('none'),
    );
    const id = this.#page.id(this.#name(node));
    if (!kept) this.#page.note(PLACEHOLDER, id);
    const [shape] = painted.flatMap((p) => (p.kind === 'shape' ? [p.item.paint] : []));
    const radius = shape?.radius;
    const clip = around.clip;
    const leftOut = this.#page.leftOut(inner, around);
    const shown = clip && !leftOut ? clipped(inner, clip) : inner;
    const [own] = pieces(style.all['border-radius'] ?? '');
    const round = own?.endsWith('%') ? ('round' as const) : radius;
    return [
      ...painted,
      {
        kind: 'picture',
        named,
        ...(leftOut && { leftOut }),
        item: {
          kind: 'picture',
          id,
          box: shown,
          groups: around.groups,
          content,
          paint: {
            ...(around.opacity < 1 && { opacity: around.opacity }),
            ...(round !== undefined && { radius: round }),
          },
        },
      },
    ];
  }

  /** The pieces of a small drawing in the page are one icon. */
  #asIcon(items: readonly RawItem[], name: string, { width, height }: Rect): RawItem[] {
    if (Math.max(width, height) > 64 || !items.every((i) => i.kind === 'shape' || i.kind === 'art'))
      return [...items];
    const icon = this.#page.id(name);
    return items.map((i) => ({ ...i, icon }) as RawItem);
  }

  #control(node: StyledNode, { x, y, width }: { x: number; y: number; width: number }, context: Context) {
    const { el, style } = node;
    const natural = this.#naturalSize(node);
    const edges = sum(edge(style, 'y', width));
    const height =
      context.height ??
      Math.max(
        natural.height,
        typeof style.height === 'number' ? style.height - (style.borderBox ? edges : 0) : 0,
      );
    const text = el.name === 'textarea' ? '' : (el.attributes['value'] ?? el.attributes['placeholder'] ?? '');
    const line = strut(style, this.#m);
    const top = el.name === 'textarea' ? y : y + (height - line.ascent - line.descent) / 2;
    const words: Words[] = text.trim() === '' ? [] : [{ kind: 'words', text: text.trim(), style }];
    if (words.length > 0 && !/^(?:checkbox|radio|range|color|file)$/.test(el.attributes['type'] ?? ''))
      this.#lines(words, node, x, top, width, { ...context, floats: new Floats(x, x + width) });
    return { bottom: y + height, margin: 0, baseline: top + line.ascent };
  }

  #table(node: StyledNode, x: number, y: number, width: number, context: Context) {
    const rows = rowsOf(node);
    const widths = columnWidths(rows, width, (cell, kind) => this.#outer(cell, kind));
    const apart =
      (node.style.all['border-collapse'] ?? '') !== 'collapse' && node.el.attributes['cellspacing'] !== '0';
    const spacing = apart
      ? Number.parseFloat(node.el.attributes['cellspacing'] ?? node.style.all['border-spacing'] ?? '2') || 0
      : 0;
    const scale = sum(widths) > 0 ? (width - spacing * (widths.length + 1)) / sum(widths) : 1;
    let top = y + spacing;
    for (const row of rows) {
      const put = this.#page.reserve(context.around);
      const cells = row.cells.map((cell) => {
        const from = widths.slice(0, cell.column);
        const own = widths.slice(cell.column, cell.column + cell.span);
        return {
          node: cell.node,
          x: x + spacing + sum(from) * scale + spacing * from.length,
          width: sum(own) * scale + spacing * (own.length - 1),
        };
      });
      const inRow: Context = { ...context, height: undefined };
      const heights = cells.map((c) => this.#dry(c.node, c.width, inRow));
      const declared = row.node
        ? this.#height(row.node.style.height, undefined, 0, row.node.style)
        : undefined;
      const height = Math.max(0, ...heights, declared ?? 0);
      if (row.node)
        put(
          boxItems(
            row.node.style,
            { x: x + spacing, y: top, width: width - 2 * spacing, height },
            this.#boxName(row.node),
            context.around,
            this.#page,
          ),
        );
      cells.forEach((c, i) => {
        const how = c.node.style.verticalAlign;
        const free = height - (heights[i] ?? 0);
        const shift = how === 'top' ? 0 : how === 'bottom' ? free : free / 2;
        // The cell's box is as high as its row; its content stands where vertical-align says.
        const [before, after] = [shift, free - shift];
        const padded = {
          ...c.node,
          style: { ...c.node.style, padding: lifted(c.node.style, before, after) },
        };
        this.#box(padded, c.x, top, c.width, inRow, height);
      });
      top += height + spacing;
    }
    return { bottom: rows.length === 0 ? y : top, margin: 0, baseline: undefined };
  }

  #lines(
    items: readonly Inline[],
    parent: StyledNode,
    x: number,
    y: number,
    width: number,
    context: Context,
  ) {
    const words = items.filter((i): i is Words => i.kind === 'words');
    return words.length === items.length
      ? this.#paragraph(words, parent, x, y, width, context)
      : this.#mixed(items, parent, x, y, width, context);
  }

  #text(name: string, chunks: readonly Chunk[], lineHeight: number, around: Around): void {
    const [first] = chunks;
    if (!first) return;
    const faded = around.opacity < 1;
    const runs = (c: Chunk): Chunk => ({
      ...c,
      runs: c.runs.map((r) =>
        faded
          ? {
              ...r,
              style: {
                ...r.style,
                colour: `color-mix(in srgb, ${r.style.colour} ${Math.round(around.opacity * 1000) / 10}%, transparent)`,
              },
            }
          : r,
      ),
    });
    const leftOut = this.#page.leftOut({ x: first.x, y: first.y, width: 1, height: 1 }, around);
    this.#page.add(
      {
        kind: 'text',
        id: this.#page.id(name),
        groups: around.groups,
        chunks: chunks.map(runs),
        lineHeight,
        ...(leftOut && { leftOut }),
      },
      around,
    );
  }

  #chunk(runs: readonly TextRun[], align: Computed['align'], x: number, y: number, room: number): Chunk {
    const at = align === 'centre' ? x + room / 2 : align === 'end' ? x + room : x;
    const anchor = align === 'centre' ? 'middle' : align;
    return { x: at, y, anchor, runs: runs.map((r) => ({ text: r.text, style: r.style })) };
  }

  #paragraph(
    words: readonly Words[],
    parent: StyledNode,
    x: number,
    y: number,
    width: number,
    context: Context,
  ) {
    const { style } = parent;
    const band = context.floats.band(y, x, x + width);
    const room = band.right - band.left;
    const lines = wordLines(words, style, room, this.#m);
    let top = y;
    let baseline: number | undefined;
    const chunks: Chunk[] = [];
    for (const line of lines) {
      baseline ??= top + line.ascent;
      if (line.runs.some((r) => r.text.trim() !== ''))
        chunks.push(this.#chunk(line.runs, style.align, band.left, top + line.ascent, room));
      top += line.ascent + line.descent;
    }
    const wraps = context.floats.bottomOf(y) < top && room < width;
    if (wraps) this.#page.note('Text that flows on below a float was kept at one width.', this.#name(parent));
    this.#text(this.#name(parent), chunks, (top - y) / Math.max(1, lines.length), context.around);
    return { bottom: top, baseline };
  }

  /** Words and atoms in lines, each line as high as its highest piece. */
  #mixed(
    items: readonly Inline[],
    parent: StyledNode,
    x: number,
    y: number,
    width: number,
    context: Context,
  ) {
    const { style } = parent;
    const band = context.floats.band(y, x, x + width);
    const room = band.right - band.left;
    interface Piece {
      readonly item: Inline;
      readonly text: string;
      readonly width: number;
    }
    const lines: Piece[][] = [[]];
    let used = 0;
    const add = (piece: Piece, breaks: boolean) => {
      const line = lines.at(-1) as Piece[];
      const bare =
        piece.item.kind === 'words'
          ? this.#m.width(piece.text.trimEnd(), piece.item.style.type)
          : piece.width;
      if (breaks && line.length > 0 && !style.oneLine && used + bare > room + 1 / 64) {
        lines.push([]);
        used = 0;
        if (piece.text.trim() === '' && piece.item.kind === 'words') return;
      }
      lines.at(-1)?.push(piece);
      used += piece.width;
    };
    for (const item of items) {
      if (item.kind === 'atom') {
        const outer = this.#width(item.node, room, true);
        const [, mr, , ml] = item.node.style.margin.map((v) => px(v, room) ?? 0) as [
          number,
          number,
          number,
          number,
        ];
        add({ item, text: '', width: outer + ml + mr }, true);
        continue;
      }
      item.text.split('\u2028').forEach((part, i) => {
        if (i > 0) {
          lines.push([]);
          used = 0;
        }
        for (const text of part === '' ? [] : wordPieces(part))
          add({ item, text, width: this.#m.width(text, item.style.type) }, true);
      });
    }
    let top = y;
    let baseline: number | undefined;
    for (const line of lines) {
      const base = strut(style, this.#m);
      const heights = line.map((p) =>
        p.item.kind === 'atom'
          ? this.#atomHeights(p.item.node, room, context, base)
          : strut(p.item.style, this.#m),
      );
      const ascent = Math.max(base.ascent, ...heights.map((h) => h.ascent));
      const descent = Math.max(base.descent, ...heights.map((h) => h.descent));
      const total = sum(line.map((p) => p.width)) - this.#hanging(line.at(-1));
      let at =
        band.left +
        (style.align === 'centre' ? (room - total) / 2 : style.align === 'end' ? room - total : 0);
      let words: { runs: TextRun[]; x: number } | undefined;
      const endWords = () => {
        if (words && words.runs.some((r) => r.text.trim() !== ''))
          this.#text(
            this.#name(parent),
            [this.#chunk(trimmed(words.runs), 'start', words.x + this.#leading(words.runs), top + ascent, 0)],
            base.ascent + base.descent,
            context.around,
          );
        words = undefined;
      };
      line.forEach((piece, i) => {
        if (piece.item.kind === 'words') {
          words ??= { runs: [], x: at };
          words.runs.push({ text: piece.text, style: piece.item.style.type });
        } else {
          endWords();
          const { node } = piece.item;
          const [mt, , , ml] = node.style.margin.map((v) => px(v, room) ?? 0) as [
            number,
            number,
            number,
            number,
          ];
          const own = heights[i] as { ascent: number; descent: number };
          const boxTop =
            node.style.display === 'inline' ? top + ascent - own.ascent : top + ascent - own.ascent + mt;
          this.#atom(node, at + ml, boxTop, this.#width(node, room, true), context);
        }
        at += piece.width;
      });
      endWords();
      if (line.length > 0) baseline ??= top + ascent;
      top += ascent + descent;
    }
    return { bottom: top, baseline };
  }

  #hanging(
    last: { readonly item: Inline; readonly text: string; readonly width: number } | undefined,
  ): number {
    return last?.item.kind === 'words'
      ? last.width - this.#m.width(last.text.trimEnd(), last.item.style.type)
      : 0;
  }

  #leading(runs: readonly TextRun[]): number {
    const [first] = runs;
    const space = /^\s+/.exec(first?.text ?? '')?.[0];
    return first && space !== undefined ? this.#m.width(space, first.style) : 0;
  }

  /** How far an atom reaches over and under its line's baseline (CSS 2.2 §10.8). */
  #atomHeights(node: StyledNode, room: number, context: Context, base: { ascent: number; descent: number }) {
    const { style } = node;
    if (style.display === 'inline') return strut(style, this.#m);
    const width = this.#width(node, room, true);
    const laid = this.#trial(node, width, context);
    const [mt, , mb] = style.margin.map((v) => px(v, room) ?? 0) as [number, number, number, number];
    const whole = laid.height + mt + mb;
    const how = style.verticalAlign;
    if (how === 'middle') {
      const middle = whole / 2 + style.type.size * 0.25;
      return { ascent: middle, descent: whole - middle };
    }
    if (how === 'top' || how === 'text-top') return { ascent: base.ascent, descent: whole - base.ascent };
    const ascent = isReplaced(node) || laid.baseline === undefined ? whole : mt + laid.baseline;
    return { ascent, descent: whole - ascent };
  }

  #atom(node: StyledNode, x: number, y: number, width: number, context: Context): void {
    const { style } = node;
    if (style.display !== 'inline') {
      this.#box(node, x, y, width, { ...context, floats: new Floats(x, x + width) });
      return;
    }
    // An inline box grows over its line by its padding without making the line higher.
    const { ascent, descent } = this.#m.metrics(style.type);
    const line = strut(style, this.#m);
    const top = y + line.ascent - ascent;
    const [before, after] = edge(style, 'y', width);
    const around = this.#inside(node, context.around);
    const box: Rect = { x, y: top - before, width, height: ascent + descent + before + after };
    this.#page.reserve(around)(boxItems(style, box, this.#boxName(node), around, this.#page));
    const [left, right] = edge(style, 'x', width);
    const inner = inlines(node.children, style);
    this.#lines(inner, { ...node, style: { ...style, oneLine: true } }, x + left, y, width - left - right, {
      ...context,
      around,
      floats: new Floats(x, x + width),
    });
  }
}

const trimmed = (runs: readonly TextRun[]): TextRun[] =>
  runs.map((r, i) => ({
    ...r,
    text: (i === 0 ? r.text.trimStart() : r.text).replace(i === runs.length - 1 ? /\s+$/ : /$^/, ''),
  }));

const clipped = (a: Rect, b: Rect): Rect => {
  const [x, y] = [Math.max(a.x, b.x), Math.max(a.y, b.y)];
  return {
    x,
    y,
    width: Math.min(a.x + a.width, b.x + b.width) - x,
    height: Math.min(a.y + a.height, b.y + b.height) - y,
  };
};

const lifted = (style: Computed, before: number, after: number): Computed['padding'] => {
  const [top, right, bottom, left] = style.padding;
  return [(px(top, 0) ?? 0) + before, right, (px(bottom, 0) ?? 0) + after, left];
};
