import { paintOrder } from '@tinfold/core/drawing';
import { alignOf, linesOf, type Paragraph } from './placedLines';
import { contentOf, fontOf, isClear, px, styleOf } from './asComputed';

/** An element that stands by itself at a fixed place. */
export interface Placed {
  readonly element: Element;
  /** The order of painting: what is positioned lies over what is not, by its z-index (CSS 2.2 appendix E). */
  readonly stack: readonly number[];
}

/** Where the items are measured from, and by how much they are enlarged there. */
export interface Origin {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

interface Around {
  readonly stack: readonly number[];
  readonly opacity: number;
  readonly clip: DOMRect | undefined;
}

const SKIPPED =
  /^(?:script|style|template|noscript|title|meta|link|iframe|object|embed|video|audio|br|wbr|option)$/;
/** A line of a field whose style says no height, in type sizes. */
const USUAL_LINE = 1.2;
const SIDES = ['top', 'right', 'bottom', 'left'] as const;

function paints(style: CSSStyleDeclaration): boolean {
  const hasBorder = SIDES.some(
    (side) =>
      parseFloat(style.getPropertyValue(`border-${side}-width`)) > 0 &&
      !/^(?:none|hidden)$/.test(style.getPropertyValue(`border-${side}-style`)) &&
      !isClear(style.getPropertyValue(`border-${side}-color`)),
  );
  return (
    hasBorder ||
    !isClear(style.backgroundColor) ||
    style.backgroundImage !== 'none' ||
    style.boxShadow !== 'none'
  );
}

const overlap = (a: DOMRect, b: DOMRect | undefined): DOMRect | undefined => {
  if (!b) return a;
  const [x, y] = [Math.max(a.x, b.x), Math.max(a.y, b.y)];
  const [right, bottom] = [Math.min(a.right, b.right), Math.min(a.bottom, b.bottom)];
  return right > x && bottom > y ? new DOMRect(x, y, right - x, bottom - y) : undefined;
};

/** Paint that an element and a drawing in it take from style sheets, which stay behind. */
const SVG_PAINT = [
  ...[
    'fill',
    'fill-opacity',
    'fill-rule',
    'stroke',
    'stroke-width',
    'stroke-opacity',
    'stroke-linecap',
    'stroke-linejoin',
  ],
  ...[
    'stroke-dasharray',
    'opacity',
    'font-family',
    'font-size',
    'font-weight',
    'text-anchor',
    'display',
    'visibility',
  ],
];

function drawingOf(svg: Element): Element {
  const copy = svg.cloneNode(true) as Element;
  const [own, copied] = [
    [svg, ...svg.querySelectorAll('*')],
    [copy, ...copy.querySelectorAll('*')],
  ];
  own.forEach((element, i) => {
    const style = getComputedStyle(element);
    const target = copied[i];
    target?.removeAttribute('class');
    target?.setAttribute(
      'style',
      SVG_PAINT.map((name) => `${name}:${style.getPropertyValue(name)}`).join(';'),
    );
  });
  return copy;
}

/** Walks over what is shown and gives each box, picture and paragraph by itself. */
class Walk {
  readonly #document: Document;
  readonly #origin: Origin;
  readonly #found: Placed[] = [];
  #positioned = 0;

  constructor(doc: Document, origin: Origin) {
    this.#document = doc;
    this.#origin = origin;
  }

  result(): Placed[] {
    return this.#found.toSorted((a, b) => paintOrder(a.stack, b.stack));
  }

  /** The place of a box from the origin. */
  #place({ x, y, width, height }: DOMRect): Record<string, string> {
    const { x: ox, y: oy, scale } = this.#origin;
    return {
      position: 'absolute',
      left: px((x - ox) / scale),
      top: px((y - oy) / scale),
      width: px(width / scale),
      height: px(height / scale),
    };
  }

  #put(element: Element, from: Element, style: string, { stack }: Around): void {
    for (const name of ['id', 'class']) {
      const value = from.getAttribute(name);
      if (value !== null) element.setAttribute(name, value);
    }
    element.setAttribute('style', style);
    this.#found.push({ element, stack });
  }

  /** The words that are an element's own. */
  words(element: Element, around: Around): void {
    for (const paragraph of linesOf(element, this.#document)) this.#paragraph(element, paragraph, around);
  }

  visit(element: Element, around: Around): void {
    if (SKIPPED.test(element.localName)) return;
    const style = getComputedStyle(element);
    if (style.display === 'none') return;
    const isHidden = style.visibility !== 'visible';
    const stack =
      style.position === 'static'
        ? around.stack
        : [...around.stack, Number.parseInt(style.zIndex, 10) || 0, ++this.#positioned];
    const own: Around = { ...around, stack, opacity: around.opacity * Number(style.opacity) };
    const isDrawing = element.localName === 'svg';
    if (!isHidden && own.opacity > 0.004) {
      const boxes =
        style.display === 'inline' && !isDrawing && element.localName !== 'img'
          ? [...element.getClientRects()]
          : [element.getBoundingClientRect()];
      if (paints(style) && style.display !== 'contents')
        for (const box of boxes) this.#box(element, style, box, own);
      if (isDrawing || element.localName === 'img') this.#picture(element, style, own);
      if (/^(?:input|textarea|select)$/.test(element.localName)) this.#field(element, style, own);
    }
    if (isDrawing || /^(?:input|textarea|select|img|canvas)$/.test(element.localName)) return;
    const clips = /^(?:hidden|clip|auto|scroll)$/.test(style.overflowX);
    const inner = clips
      ? { ...own, clip: overlap(element.getBoundingClientRect(), own.clip) ?? new DOMRect() }
      : own;
    if (!isHidden && own.opacity > 0.004) this.words(element, inner);
    for (const child of element.children) this.visit(child, inner);
  }

  #box(from: Element, style: CSSStyleDeclaration, whole: DOMRect, around: Around): void {
    const box = overlap(whole, around.clip);
    if (!box || box.width <= 0 || box.height <= 0) return;
    const borders = SIDES.flatMap((side) =>
      ['width', 'style', 'color'].map((what): [string, string] => {
        const name = `border-${side}-${what}`;
        return [name, style.getPropertyValue(name)];
      }),
    );
    const isSet = style.backgroundImage !== 'none';
    const rules = styleOf({
      ...this.#place(box),
      'box-sizing': 'border-box',
      'background-color': isClear(style.backgroundColor) ? undefined : style.backgroundColor,
      'background-image': isSet ? style.backgroundImage : undefined,
      'background-size': isSet ? style.backgroundSize : undefined,
      ...(borders.some(([name, value]) => name.endsWith('width') && parseFloat(value) > 0) &&
        Object.fromEntries(borders)),
      'border-radius': style.borderRadius === '0px' ? undefined : style.borderRadius,
      'box-shadow': style.boxShadow === 'none' ? undefined : style.boxShadow,
      'mix-blend-mode': style.mixBlendMode === 'normal' ? undefined : style.mixBlendMode,
      filter: style.filter === 'none' ? undefined : style.filter,
      opacity: around.opacity < 1 ? String(around.opacity) : undefined,
    });
    this.#put(this.#document.createElement('div'), from, rules, around);
  }

  #picture(from: Element, style: CSSStyleDeclaration, around: Around): void {
    const inner = contentOf(from, style);
    const box = from.localName === 'svg' ? inner : overlap(inner, around.clip);
    if (!box || box.width <= 0 || box.height <= 0 || !overlap(inner, around.clip)) return;
    const copy = from.localName === 'svg' ? drawingOf(from) : this.#document.createElement('img');
    if (from.localName === 'img') copy.setAttribute('src', from.getAttribute('src') ?? '');
    const rules = styleOf({
      ...this.#place(box),
      display: 'block',
      'object-fit': from.localName === 'img' ? style.objectFit : undefined,
      'border-radius': style.borderRadius === '0px' ? undefined : style.borderRadius,
      opacity: around.opacity < 1 ? String(around.opacity) : undefined,
    });
    const painted = copy.getAttribute('style');
    this.#put(copy, from, painted === null ? rules : `${painted};${rules}`, around);
  }

  /** What a field shows, in its middle; a text of several lines at its top. */
  #field(from: Element, style: CSSStyleDeclaration, around: Around): void {
    const { value = '', placeholder = '', type = '' } = from as Partial<HTMLInputElement>;
    const said =
      from instanceof (this.#document.defaultView ?? window).HTMLSelectElement
        ? (from.selectedOptions[0]?.text ?? '')
        : value || placeholder;
    if (said.trim() === '' || /^(?:checkbox|radio|range|color|file|hidden)$/.test(type)) return;
    const inner = contentOf(from, style);
    const isLong = from.localName === 'textarea';
    const line = parseFloat(style.lineHeight);
    const lineHeight = !isLong
      ? inner.height
      : Number.isNaN(line)
        ? parseFloat(style.fontSize) * USUAL_LINE
        : line;
    this.#words(from, { box: inner, lineHeight, lines: [[said]], style, align: alignOf(style) }, around);
  }

  #paragraph(from: Element, paragraph: Paragraph, around: Around): void {
    if (overlap(paragraph.box, around.clip)) this.#words(from, paragraph, around);
  }

  #words(from: Element, { box, lineHeight, lines, style, align }: Paragraph, around: Around): void {
    const { scale } = this.#origin;
    const paragraph = this.#document.createElement('div');
    for (const [i, line] of lines.entries()) {
      if (i > 0) paragraph.append(this.#document.createElement('br'));
      paragraph.append(...line);
    }
    this.#put(
      paragraph,
      from,
      styleOf({
        ...this.#place(box),
        'white-space': 'pre',
        'text-align': align,
        ...fontOf(style),
        'line-height': px(lineHeight / scale),
        opacity: around.opacity < 1 ? String(around.opacity) : undefined,
      }),
      around,
    );
  }
}

/** All that is shown in an element, each at its place, in the order of painting. */
export function itemsOf(root: Element, origin: Origin = { x: 0, y: 0, scale: 1 }): Placed[] {
  const doc = root.ownerDocument;
  const walk = new Walk(doc, origin);
  const around: Around = { stack: [], opacity: 1, clip: undefined };
  walk.words(root, around);
  for (const child of root.children) walk.visit(child, around);
  return walk.result();
}
