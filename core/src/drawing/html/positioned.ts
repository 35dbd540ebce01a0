import type { Rect, TextRun } from '../../model/index.js';
import { maxContentWidth } from '../../text/index.js';
import { DrawingError } from '../items.js';
import type { Computed, StyledNode } from './computed.js';
import { inlines, lineHeightOf, wordLines, type Words } from './inline.js';
import type { Around, Page } from './page.js';
import { boxItems, opacityOf, showsBox, type BoxName } from './paintBox.js';
import { controlWords, isControl, isReplaced, naturalSize, replacedItems } from './replaced.js';
import { px, type Length } from './values.js';

/** Where a box stands and what flows in it may know. */
interface Area extends Rect {
  readonly around: Around;
}

/** The nearest positioned element above: absolute ones hang in its padding box, once its size is known. */
interface Holder {
  readonly waiting: { readonly node: StyledNode; readonly at: Rect; readonly around: Around }[];
}

const sum = (numbers: readonly number[]): number => numbers.reduce((s, n) => s + n, 0);

/** Padding and border of one axis: its start and its end, px. */
const edge = (style: Computed, axis: 'x' | 'y', avail: number): [number, number] => {
  const [start, end] = axis === 'x' ? [3, 1] : [0, 2];
  const at = (i: number) => Math.max(0, px(style.padding[i], avail) ?? 0) + (style.border[i] ?? 0);
  return [at(start), at(end)];
};

const clamp = (value: number, min: number | undefined, max: number | undefined): number =>
  Math.max(Math.min(value, max ?? Infinity), min ?? 0);

const isBlock = ({ style }: StyledNode): boolean =>
  !/^(?:inline|inline-block)$/.test(style.display) &&
  !(style.display === 'svg' && style.all['display'] !== 'block');

const isBlank = (child: StyledNode | string): boolean =>
  typeof child === 'string' ? child.trim() === '' : child.style.display === 'none';

const PLACED = ['width', 'height', 'left', 'top', 'right', 'bottom', 'margin-left', 'margin-top'] as const;

/** Whether a box stands by the window's size or by a sum, which no number in the page says. */
const dependsOnWindow = ({ all }: Computed): boolean =>
  PLACED.some((name) => /calc\(|clamp\(|m(?:in|ax)\(|\d[sld]?v[wh]\b/.test(all[name] ?? ''));

/** What keeps a page from being read without a browser. */
const laysItselfOut = (name: string): DrawingError =>
  new DrawingError(
    `The page lays itself out at “${name}”: open it in the program, where a browser does that, or export it with every item at a fixed position.`,
  );

/**
 * Reads a page whose items stand where numbers say (CSS Positioned Layout 3): absolute boxes in one another, words in them, a single box
 * in another. Nothing that would push something else is laid out: a page that does it is refused with a {@link DrawingError}.
 */
export class PositionedPage {
  readonly #page: Page;

  constructor(page: Page) {
    this.#page = page;
  }

  /** Gives the items of the `body` in a window of this width to the page; the height that they take, px. */
  read(body: StyledNode, width: number): number {
    const holder: Holder = { waiting: [] };
    const around: Around = { stack: [], opacity: 1, groups: [] };
    const bottom = this.#block(body, { x: 0, y: 0, width, height: 0, around }, holder);
    return Math.max(bottom, this.#hang(holder, { x: 0, y: 0, width, height: bottom }));
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

  /** A box that flows alone in an area; gives where it ends with its margin, px. */
  #block(node: StyledNode, area: Area, holder: Holder): number {
    const margin = node.style.margin.map((v) => px(v, area.width) ?? 0) as [number, number, number, number];
    const width = this.#width(node, area.width, node.style.display === 'inline-block');
    const free = area.width - width - margin[1] - margin[3];
    const [, right, , left] = node.style.margin;
    const shift = left === 'auto' && free > 0 ? (right === 'auto' ? free / 2 : free) : margin[3];
    const y = area.y + margin[0];
    return y + this.#box(node, { ...area, x: area.x + shift, y, width }, holder, area.height) + margin[2];
  }

  /** Lays a box out with its border box at a place; gives its height, px. `of` is the inner height of what is around it. */
  #box(node: StyledNode, at: Area, holder: Holder, of: number, given?: number): number {
    const { style } = node;
    if (dependsOnWindow(style)) throw laysItselfOut(this.#name(node));
    if ((style.all['transform'] ?? 'none') !== 'none')
      this.#page.note('Transforms were passed over.', this.#name(node));
    const [top, right, bottom, left] =
      style.position === 'relative' ? style.inset.map((v) => px(v, at.width)) : [];
    const x = at.x + (left ?? -(right ?? 0));
    const y = at.y + (top ?? -(bottom ?? 0));
    const around = this.#inside(node, at.around);
    const put = this.#page.reserve(around);
    const named = this.#boxName(node);
    const [before, after] = edge(style, 'x', at.width);
    const [above, below] = edge(style, 'y', at.width);
    const inner = { x: x + before, y: y + above, width: Math.max(0, at.width - before - after) };
    const declared = given ?? this.#height(style.height, of, above + below, style);
    const innerHeight = declared === undefined ? 0 : Math.max(0, declared - above - below);
    const holds = style.position !== 'static' || style.all['transform'] !== undefined;
    const own: Holder = holds ? { waiting: [] } : holder;
    const clips = /^(?:hidden|clip)$/.test(style.all['overflow'] ?? '') && declared !== undefined;
    const inside: Around = clips ? { ...around, clip: { x, y, width: at.width, height: declared } } : around;
    const natural =
      this.#inner(node, { ...inner, height: innerHeight, around: inside }, own, declared !== undefined) -
      inner.y;
    const limits = [style.minHeight, style.maxHeight].map((v) => this.#height(v, of, above + below, style));
    const height = Math.max(above + below, clamp(declared ?? natural + above + below, limits[0], limits[1]));
    const box: Rect = { x, y, width: at.width, height };
    put(
      isReplaced(node)
        ? replacedItems(
            node,
            this.#name(node),
            { ...inner, height: height - above - below },
            box,
            around,
            this.#page,
          )
        : boxItems(style, box, named, around, this.#page),
    );
    if (holds) {
      const [bt, br, bb, bl] = style.border;
      const padding = { x: x + bl, y: y + bt, width: at.width - bl - br, height: height - bt - bb };
      this.#hang(own, padding);
    }
    return height;
  }

  /** What is in a box; gives where it ends, px. */
  #inner(node: StyledNode, area: Area, holder: Holder, isDeclared: boolean): number {
    if (isReplaced(node)) {
      const natural = naturalSize(node);
      const ratio = natural.width > 0 ? natural.height / natural.width : 0;
      const { height } = node.style;
      return area.y + (height === undefined || height === 'auto' ? area.width * ratio : natural.height);
    }
    const { style } = node;
    const shown = node.children.filter((c) => !isBlank(c));
    const flowing = shown.filter((c) => typeof c === 'string' || c.style.position !== 'absolute');
    for (const child of shown)
      if (typeof child !== 'string' && child.style.position === 'absolute')
        holder.waiting.push({ node: child, at: area, around: area.around });
    const words = isControl(node)
      ? controlWords(node)
      : inlines(
          node.children.filter((c) => !isBlank(c) || typeof c === 'string'),
          style,
        ).filter((i) => i.kind !== 'atom' || i.node.style.position !== 'absolute');
    const [only] = flowing;
    if (
      flowing.length === 1 &&
      only !== undefined &&
      typeof only !== 'string' &&
      (isBlock(only) || words[0]?.kind === 'atom')
    )
      return this.#block(only, area, holder);
    const isSpread = flowing.length > 1 && /flex|grid/.test(style.all['display'] ?? '');
    const pushes =
      flowing.some((c) => typeof c !== 'string' && isBlock(c)) || words.some((w) => w.kind === 'atom');
    if (isSpread || pushes) throw laysItselfOut(this.#name(node));
    return this.#paragraph(node, words as Words[], area, isDeclared);
  }

  /** Absolute boxes, once the size of what they hang in is known; gives the lowest end of them, px. */
  #hang({ waiting }: Holder, area: Rect): number {
    let lowest = 0;
    for (const { node, at, around } of waiting) {
      const { style } = node;
      const [top, right, bottom, left] = style.inset.map((v, side) =>
        px(v, side % 2 === 0 ? area.height : area.width),
      );
      const [mt, mr, mb, ml] = style.margin.map((v) => px(v, area.width) ?? 0) as [
        number,
        number,
        number,
        number,
      ];
      const isWide = style.width !== undefined && style.width !== 'auto';
      const stretches = left !== undefined && right !== undefined && !isWide && !isReplaced(node);
      const width = stretches
        ? Math.max(0, area.width - left - right - mr - ml)
        : this.#width(node, area.width, true);
      const x =
        left !== undefined
          ? area.x + left + ml
          : right !== undefined
            ? area.x + area.width - right - width - mr
            : at.x + ml;
      const isTall = style.height !== undefined && style.height !== 'auto';
      const tall =
        top !== undefined && bottom !== undefined && !isTall && !isReplaced(node)
          ? Math.max(0, area.height - top - bottom - mt - mb)
          : undefined;
      const known = tall ?? this.#height(style.height, area.height, sum(edge(style, 'y', width)), style);
      if (top === undefined && bottom !== undefined && known === undefined && !isReplaced(node))
        throw laysItselfOut(this.#name(node));
      const y =
        top !== undefined
          ? area.y + top + mt
          : bottom !== undefined
            ? area.y + area.height - bottom - (known ?? naturalSize(node).height) - mb
            : at.y + mt;
      const own: Holder = { waiting: [] };
      const height = this.#box(node, { x, y, width, height: 0, around }, own, area.height, tall);
      lowest = Math.max(lowest, y + height);
    }
    return lowest;
  }

  /** The border-box width of a box in `avail` px. */
  #width(node: StyledNode, avail: number, shrinks: boolean): number {
    const { style } = node;
    const edges = sum(edge(style, 'x', avail));
    const outer = (value: Length | undefined) => {
      const n = px(value, avail);
      return n === undefined ? undefined : style.borderBox ? Math.max(n, edges) : n + edges;
    };
    const margins = (px(style.margin[1], avail) ?? 0) + (px(style.margin[3], avail) ?? 0);
    let width = outer(style.width);
    if (width === undefined && isReplaced(node)) width = naturalSize(node).width + edges;
    if (width === undefined && shrinks) width = Math.min(avail - margins, this.#content(node) + edges);
    return Math.max(edges, clamp(width ?? avail - margins, outer(style.minWidth), outer(style.maxWidth)));
  }

  /** The inner width that the words in a box ask for (CSS Sizing 3 §5, max-content). */
  #content(node: StyledNode): number {
    const widths = node.children.map((child): number => {
      if (typeof child === 'string' || isBlank(child) || child.style.position === 'absolute') return 0;
      return isBlock(child) ? this.#width(child, Infinity, true) : 0;
    });
    const words = inlines(node.children, node.style).filter((i): i is Words => i.kind === 'words');
    const runs = words.map((w) => ({ text: w.text.replaceAll('\u2028', '\n'), style: w.style.type }));
    const said = maxContentWidth({ kind: 'text', runs, lineHeight: 1, align: 'start' }, this.#page.measurer);
    return Math.max(said, ...widths);
  }

  #height(value: Length | undefined, of: number, edges: number, style: Computed): number | undefined {
    if (value === undefined || value === 'auto') return undefined;
    const n = px(value, of) ?? 0;
    return style.borderBox ? Math.max(n, edges) : n + edges;
  }

  /** Words in a box, from its top or, in a button or a field, in its middle; gives where they end, px. */
  #paragraph(node: StyledNode, words: readonly Words[], area: Area, isDeclared: boolean): number {
    if (words.length === 0) return area.y;
    const { style } = node;
    const lines = wordLines(words, style, area.width, this.#page.measurer);
    const tall = sum(lines.map((l) => l.ascent + l.descent));
    const isMiddle = isDeclared && (node.el.name === 'button' || isControl(node));
    let y = area.y + (isMiddle ? Math.max(0, area.height - tall) / 2 : 0);
    const chunks = lines.flatMap((line) => {
      const at = y + line.ascent;
      y += line.ascent + line.descent;
      return line.runs.some((r) => r.text.trim() !== '') ? [chunk(line.runs, style.align, area, at)] : [];
    });
    const [first] = chunks;
    if (!first) return y;
    const leftOut = this.#page.leftOut({ x: first.x, y: first.y, width: 1, height: 1 }, area.around);
    this.#page.add(
      {
        kind: 'text',
        id: this.#page.id(this.#name(node)),
        groups: area.around.groups,
        chunks: chunks.map((c) => ({ ...c, runs: c.runs.map((r) => faded(r, area.around.opacity)) })),
        lineHeight: lines.length > 0 ? tall / lines.length : lineHeightOf(style, this.#page.measurer),
        ...(leftOut && { leftOut }),
      },
      area.around,
    );
    return y;
  }
}

const chunk = (runs: readonly TextRun[], align: Computed['align'], { x, width }: Rect, y: number) => ({
  x: align === 'centre' ? x + width / 2 : align === 'end' ? x + width : x,
  y,
  anchor: align === 'centre' ? ('middle' as const) : align,
  runs: runs.map(({ text, style }) => ({ text, style })),
});

const faded = (run: TextRun, opacity: number): TextRun =>
  opacity >= 1
    ? run
    : {
        ...run,
        style: {
          ...run.style,
          colour: `color-mix(in srgb, ${run.style.colour} ${Math.round(opacity * 1000) / 10}%, transparent)`,
        },
      };
