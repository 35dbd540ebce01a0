import { applyToPoint, compose, identity, rotateDEG, translate, type Matrix } from 'transformation-matrix';
import {
  overlap,
  union,
  type ArtPath,
  type Blend,
  type Fill,
  type Paint,
  type Rect,
} from '../model/index.js';
import { rawId, type CleanUpKind } from './cleanUp.js';
import { normalColour } from './colour.js';
import { blendOf, cssEffects, filterEffects, type Effects } from './effects.js';
import { foreignPage, type Foreign } from './foreign.js';
import type { HtmlPage } from './html/html.js';
import { DrawingError, type Note } from './items.js';
import { markerMatrix, vertices } from './markers.js';
import { pathOf } from './outlined/contours.js';
import { angleOf, outline, placedBox, scaleOf, type Outline } from './outline.js';
import { gradientFill, hrefOf, parseTransform, urlId } from './paintServers.js';
import { fitOf, pictureContent, seenPart } from './picture.js';
import { cascade, length, StyleSheet, TOO_MANY_RULES, type Declarations } from './styles.js';
import { boxesIn, type Box } from './takenApart.js';
import { textChunks } from './svgText.js';
import { shadowedBox, type Shadowed } from './shadowed.js';
import type { RawDrawing, RawItem, RawShape } from './raw.js';
import { firstImage, intersect, plainPaint, roundIfCircle, strokedBox } from './svgShapes.js';
import { parseViewBox, viewBoxMatrix } from './viewBox.js';
import { elementsOf, parseXml, textOf, type XmlElement } from './xml.js';

/** How often a file may use its symbols: converters do so for every letter. */
const MAX_COPIES = 40_000;
/** How often uses within uses within uses may do so; more is an expansion attack. */
const MAX_NESTED = 5_000;
const NESTED = 2;
/** More texts than this are left out: measuring them would keep the program busy. */
const MAX_TEXTS = 30_000;
/** More pieces than this are no icon. */
const MAX_PIECES = 400;
/** The largest side of a group that may be an icon. */
const ICON_MAX = 64;

/** Texts turned by less, in degrees, are taken for upright. */
const TURNED = 0.3;

/** Parts of a transform smaller than this neither turn nor squeeze. */
const TILT = 1e-3;

/** An opacity that no eye sees. */
const INVISIBLE = 0.004;

const SHAPES = new Set(['rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon', 'path']);
const SILENT = new Set([
  'defs',
  'symbol',
  'clipPath',
  'mask',
  'pattern',
  'linearGradient',
  'radialGradient',
  'filter',
  'style',
  'title',
  'desc',
  'metadata',
  'marker',
  'namedview',
]);

interface State {
  readonly matrix: Matrix;
  readonly style: Declarations;
  readonly opacity: number;
  readonly groups: readonly string[];
  readonly clip?: Rect;
  /** The outlines of the clip paths and masks around it, the innermost first. */
  readonly edges?: readonly Outline[];
  /** The picture by whose lightness it is seen. */
  readonly maskedBy?: string;
  readonly effects: Effects;
  readonly blend?: Blend;
  readonly uses: readonly XmlElement[];
  /** Why everything in here is not to be shown. */
  readonly leftOut?: CleanUpKind;
}

/** The corners that a picture takes over from what it is cut to. */
function radiusOfEdge(edges: readonly Outline[] | undefined, box: Rect): Paint['radius'] | undefined {
  const near = (a: number, b: number) => Math.abs(a - b) < 1;
  const same = (edges ?? []).filter(
    ({ bounds }) =>
      near(bounds.x, box.x) &&
      near(bounds.y, box.y) &&
      near(bounds.x + bounds.width, box.x + box.width) &&
      near(bounds.y + bounds.height, box.y + box.height),
  );
  if (same.some((e) => e.plain?.kind === 'ellipse')) return 'round';
  return same.map((e) => e.plain?.radius).find((r) => r !== undefined && r !== 0);
}

/** A frame that is a whole number of px but for what converters add when they round to points: 900.16 is 900. */
const wholePx = (n: number): number => (Math.abs(n - Math.round(n)) < CONVERTED ? Math.round(n) : n);
const CONVERTED = 0.34;

/** Reads HTML that stands within a drawing, in a frame so wide, px; throws a {@link DrawingError} where it cannot. */
export type PageReader = (source: string, name: string, width: number) => HtmlPage;

class SvgReader {
  readonly items: RawItem[] = [];
  readonly #readPage: PageReader | undefined;
  readonly #sheet = new StyleSheet();
  readonly #styles: string[] = [];
  readonly #foreign = new Map<string, Foreign>();
  readonly #byId = new Map<string, XmlElement>();
  readonly #taken = new Set<string>();
  /** The next number for another item of a name. */
  readonly #copiesOf = new Map<string, number>();
  readonly #notes = new Map<string, { kind: Note['kind']; items: string[] }>();
  #size = { width: 0, height: 0 };
  #copies = 0;
  #nested = 0;
  #texts = 0;

  constructor(readPage: PageReader | undefined) {
    this.#readPage = readPage;
  }

  /** Reads all, or what stands in `frame` alone, whose corner becomes the origin. */
  read(root: XmlElement, frame?: Rect): Omit<RawDrawing, 'name' | 'items'> {
    this.#sheet.index(root);
    this.#index(root);
    const view = parseViewBox(root.attributes['viewBox']);
    const width = length(root.attributes['width'], view?.[2]) ?? view?.[2] ?? 0;
    const height = length(root.attributes['height'], view?.[3]) ?? view?.[3] ?? 0;
    if (!(width > 0 && height > 0))
      throw new DrawingError(
        'The drawing has no size: give its svg element a width and a height, or a viewBox.',
      );
    this.#size = { width: wholePx(width), height: wholePx(height) };
    const whole = view
      ? viewBoxMatrix(view, width, height, root.attributes['preserveAspectRatio'])
      : identity();
    const matrix = frame ? compose(translate(-frame.x, -frame.y), whole) : whole;
    if (frame) this.#size = { width: frame.width, height: frame.height };
    const style = cascade({}, this.#sheet.own(root));
    const state: State = { matrix, style, opacity: 1, groups: [], uses: [], effects: {} };
    for (const child of root.children) if (typeof child !== 'string') this.#element(child, state);
    if (this.#sheet.exhausted) this.#note('not understood', TOO_MANY_RULES);
    for (const selector of this.#sheet.skipped)
      this.#note(
        'not understood',
        `The selector “${selector.slice(0, 60)}” in a style block was passed over.`,
      );
    return {
      ...this.#wholeSize(width, height, frame !== undefined),
      notes: [...this.#notes].map(([text, n]) => ({ text, ...n })),
      ...(this.#foreign.size > 0 && { foreign: this.#foreign }),
    };
  }

  /** The frame's size; what printing added to make whole points of it is known by the ground that ends before. */
  #wholeSize(width: number, height: number, isPart: boolean): { width: number; height: number } {
    const ground = this.items.find((i) => i.leftOut === undefined);
    const isWhole = Number.isInteger(width) && Number.isInteger(height);
    if (isPart || isWhole || ground?.kind !== 'shape' || ground.item.paint.fill === undefined)
      return this.#size;
    const { x, y, width: w, height: h } = ground.item.box;
    const side = (from: number, length: number, all: number) =>
      Math.abs(from) < 0.5 && all - length > 0 && all - length < 1 ? Math.round(length) : Math.round(all);
    return Math.abs(x) < 0.5 && Math.abs(y) < 0.5 && width - w < 1 && height - h < 1
      ? { width: side(x, w, width), height: side(y, h, height) }
      : this.#size;
  }

  #index(el: XmlElement): void {
    const id = el.attributes['id'];
    if (id !== undefined && !this.#byId.has(id)) this.#byId.set(id, el);
    if (el.name === 'style') {
      this.#sheet.add(textOf(el));
      this.#styles.push(textOf(el));
    }
    for (const child of el.children) if (typeof child !== 'string') this.#index(child);
  }

  #note(kind: Note['kind'], text: string, item?: string): void {
    const note = this.#notes.get(text) ?? { kind, items: [] };
    if (item !== undefined) note.items.push(item);
    this.#notes.set(text, note);
  }

  /** The element's own id if no other item took it, else a new one. */
  #id(el: XmlElement): string {
    const wanted = el.attributes['id'] ?? `item-${this.#taken.size + 1}`;
    let id = wanted;
    let n = this.#copiesOf.get(wanted) ?? 2;
    for (; this.#taken.has(id); n++) id = `${wanted}-${n}`;
    this.#copiesOf.set(wanted, n);
    this.#taken.add(id);
    return id;
  }

  #element(el: XmlElement, parent: State): void {
    if (SILENT.has(el.name)) return;
    const style = cascade(parent.style, this.#sheet.own(el));
    const entered = this.#enter(el, parent, style);
    const why =
      entered.leftOut ??
      (style['display'] === 'none' ? 'hidden' : entered.opacity <= INVISIBLE ? 'transparent' : undefined);
    const state = why ? { ...entered, leftOut: why, opacity: entered.opacity || 1 } : entered;
    if (SHAPES.has(el.name)) this.#shape(el, state);
    else if (el.name === 'text') this.#text(el, state);
    else if (el.name === 'image') this.#image(el, state);
    else if (el.name === 'use') this.#use(el, state);
    else if (el.name === 'g' || el.name === 'a') this.#group(el, state);
    else if (el.name === 'svg') this.#viewport(el, el, state);
    else if (el.name === 'switch') this.#switch(el, state);
    else if (el.name === 'pageSet') this.#pages(el, state);
    else if (el.name === 'foreignObject') this.#foreignObject(el, state);
    else
      this.#note('not understood', `The element “${el.name.slice(0, 40)}” is not read.`, el.attributes['id']);
  }

  #enter(el: XmlElement, parent: State, style: Declarations): State {
    const transform = el.attributes['transform'];
    let matrix = parent.matrix;
    if (transform) {
      try {
        matrix = compose(matrix, parseTransform(transform));
      } catch {
        this.#note(
          'not understood',
          `The transform “${transform.slice(0, 60)}” was passed over.`,
          el.attributes['id'],
        );
      }
    }
    if (el.name === 'svg' || el.name === 'use') {
      const [x, y] = [length(el.attributes['x']) ?? 0, length(el.attributes['y']) ?? 0];
      matrix = compose(matrix, translate(x, y));
    }
    const outlines = [style['clip-path'], style['mask']].flatMap((v) => this.#edge(v, matrix) ?? []);
    const edges = outlines.map((o) => o.bounds);
    const edgesAround = [...outlines, ...(parent.edges ?? [])];
    const maskImage = this.#imageIn(this.#byId.get(urlId(style['mask']) ?? ''));
    const maskedBy = (maskImage && hrefOf(maskImage)) ?? parent.maskedBy;
    const filter = this.#byId.get(urlId(style['filter']) ?? '');
    const own = filter ? filterEffects(filter) : cssEffects(style['filter'] ?? '');
    const clip = [...edges, ...(parent.clip ? [parent.clip] : [])].reduce<Rect | undefined>(
      (all, edge) => (all ? intersect(all, edge) : edge),
      undefined,
    );
    const blend = blendOf(style['mix-blend-mode']) ?? parent.blend;
    return {
      matrix,
      style,
      opacity: parent.opacity * Math.min(1, Math.max(0, length(style['opacity'], 1) ?? 1)),
      groups: parent.groups,
      uses: parent.uses,
      ...(clip && { clip }),
      ...(edgesAround.length > 0 && { edges: edgesAround }),
      ...(maskedBy !== undefined && { maskedBy }),
      effects: { ...parent.effects, ...own },
      ...(blend && { blend }),
      ...(parent.leftOut && { leftOut: parent.leftOut }),
    };
  }

  /**
   * The outline of a clip path or a mask, frame px: that of its one shape, with the corners that a picture takes over,
   * or the box around several. A mask's shades are not read.
   */
  #edge(value: string | undefined, matrix: Matrix): Outline | undefined {
    const clip = this.#byId.get(urlId(value) ?? '');
    const outlines = clip ? this.#edgeShapes(clip, matrix, 0) : [];
    const [only] = outlines;
    return outlines.length < 2 ? only : { d: '', lines: [], bounds: union(outlines.map((o) => o.bounds)) };
  }

  #edgeShapes(el: XmlElement, matrix: Matrix, depth: number): Outline[] {
    if (depth > 8) return [];
    return elementsOf(el).flatMap((child) => {
      const transform = child.attributes['transform'];
      let own = matrix;
      try {
        if (transform) own = compose(matrix, parseTransform(transform));
      } catch {
        // A malformed transform counts as none, as everywhere.
      }
      if (SHAPES.has(child.name)) return this.#outline(child, own) ?? [];
      if (child.name === 'g') return this.#edgeShapes(child, own, depth + 1);
      const target =
        child.name === 'use' ? this.#byId.get(hrefOf(child)?.replace(/^#/, '') ?? '') : undefined;
      if (!target) return [];
      const at = (name: string) => length(child.attributes[name]) ?? 0;
      const copy: XmlElement = { name: 'g', attributes: {}, children: [target] };
      return this.#edgeShapes(copy, compose(own, translate(at('x'), at('y'))), depth + 1);
    });
  }

  /** The parts of a paint that come from outside a shape's own fill and stroke. */
  #surroundings({ effects, blend }: State): Paint {
    return { ...effects, ...(blend && { blend }) };
  }

  #outline(el: XmlElement, matrix: Matrix): Outline | undefined {
    try {
      return outline(el, matrix, this.#size);
    } catch {
      this.#note('not understood', 'Path data that is malformed was left out.', el.attributes['id']);
      return undefined;
    }
  }

  #group(el: XmlElement, state: State): void {
    const id = el.attributes['id'];
    const first = this.items.length;
    const inside: State = id === undefined ? state : { ...state, groups: [...state.groups, id] };
    for (const child of el.children) if (typeof child !== 'string') this.#element(child, inside);
    if (el.name === 'g') this.#joinIcon(el, first);
  }

  /** Puts the pieces of an icon together: a group of bare shapes that has a name itself, or is small. */
  #joinIcon(group: XmlElement, first: number): void {
    if (this.items.length - first > MAX_PIECES) return;
    const pieces = this.items.slice(first);
    if (pieces.length < 2 || !pieces.every((p): p is RawShape => p.kind === 'shape' || p.kind === 'art'))
      return;
    if (pieces.some((p) => p.named || p.icon !== undefined || p.leftOut)) return;
    const box = union(pieces.map((p) => p.item.box));
    const small = Math.max(box.width, box.height) <= ICON_MAX;
    const backdrop = pieces[0]?.kind === 'shape' && pieces[0].item.paint.fill !== undefined;
    if (!small && (group.attributes['id'] === undefined || backdrop)) return;
    if (group.attributes['id'] === undefined && !pieces.some((p) => p.kind === 'art')) return;
    const icon = group.attributes['id'] === undefined ? (pieces[0]?.item.id ?? '') : this.#id(group);
    this.items.splice(first, pieces.length, ...pieces.map((p) => ({ ...p, icon })));
  }

  /** The first of the pages that some converters write into one file (SVG 1.2 §10). */
  #pages(el: XmlElement, state: State): void {
    const pages = elementsOf(el).filter((c) => c.name === 'page');
    const [first] = pages;
    if (first) this.#group({ ...first, name: 'g', attributes: {} }, state);
    if (pages.length > 1)
      this.#note('left out', `The file holds ${pages.length} pages: the first of them is read.`);
  }

  /** HTML is laid out once its fonts are there; until then an empty shape stands for it. */
  #foreignObject(el: XmlElement, state: State): void {
    const at = (name: string) => length(el.attributes[name]) ?? 0;
    const size = { width: at('width'), height: at('height') };
    const box = placedBox({ x: at('x'), y: at('y'), ...size }, state.matrix);
    const leftOut = this.#leftOut(box, state);
    const readPage = this.#readPage;
    if (!readPage || leftOut || size.width <= 0 || size.height <= 0) return;
    const page = foreignPage(el, size, state.style, this.#styles);
    try {
      const id = this.#id(el);
      const { a, b, c, d } = state.matrix;
      if (Math.abs(b) + Math.abs(c) > TILT || Math.abs(a - d) > TILT)
        this.#note('not understood', 'HTML in the drawing that is turned or squeezed is read upright.', id);
      this.#foreign.set(id, {
        page: readPage(page, id, size.width),
        x: box.x,
        y: box.y,
        scale: scaleOf(state.matrix),
      });
      const item = { kind: 'shape' as const, id, box, groups: state.groups, paint: {} };
      this.items.push({ kind: 'shape', named: false, item, art: { d: '' } });
    } catch (error) {
      if (!(error instanceof DrawingError)) throw error;
      this.#note('not understood', error.message, el.attributes['id']);
    }
  }

  /** The first child that this program can show (SVG 2 §5.6); its conditions are taken to be for another one. */
  #switch(el: XmlElement, state: State): void {
    const children = el.children.filter((c) => typeof c !== 'string');
    const chosen = children.find((c) => c.attributes['requiredExtensions'] === undefined);
    if (chosen) this.#element(chosen, state);
  }

  /** A nested svg or a symbol: its viewBox is fitted into its viewport, which clips it. */
  #viewport(el: XmlElement, content: XmlElement, state: State): void {
    const view = parseViewBox(content.attributes['viewBox']);
    const size = (name: 'width' | 'height', of: number, own: number) =>
      length(el.attributes[name] ?? content.attributes[name], of) ?? own;
    const width = size('width', this.#size.width, view?.[2] ?? this.#size.width);
    const height = size('height', this.#size.height, view?.[3] ?? this.#size.height);
    if (width <= 0 || height <= 0) return;
    const fitted = view
      ? viewBoxMatrix(view, width, height, content.attributes['preserveAspectRatio'])
      : identity();
    const clip = placedBox({ x: 0, y: 0, width, height }, state.matrix);
    const overflow = this.#sheet.own(content)['overflow'] ?? content.attributes['overflow'];
    const cut = state.clip ? intersect(clip, state.clip) : clip;
    const inside: State = {
      ...state,
      matrix: compose(state.matrix, fitted),
      ...(overflow !== 'visible' && overflow !== 'auto' && { clip: cut }),
    };
    const name = content.name === 'symbol' ? {} : content.attributes;
    this.#group({ ...content, name: 'g', attributes: name }, inside);
  }

  #use(el: XmlElement, state: State): void {
    const target = this.#byId.get(hrefOf(el)?.replace(/^#/, '') ?? '');
    if (!target) {
      this.#note(
        'not understood',
        'A use of something that is not in the file was left out.',
        el.attributes['id'],
      );
      return;
    }
    const isTooMany =
      ++this.#copies > MAX_COPIES || (state.uses.length > NESTED && ++this.#nested > MAX_NESTED);
    if (state.uses.includes(target) || isTooMany) {
      const why = state.uses.includes(target)
        ? 'A use that contains itself was left out.'
        : 'The file uses its symbols too often: further uses were left out.';
      this.#note('not understood', why, el.attributes['id']);
      return;
    }
    const inside: State = { ...state, uses: [...state.uses, target] };
    const first = this.items.length;
    if (target.name === 'symbol' || target.name === 'svg')
      this.#viewport(el, target, { ...inside, style: cascade(inside.style, this.#sheet.own(target)) });
    else this.#element(target, inside);
    this.#joinIcon(el, first);
    this.#nameCopy(el, first);
  }

  /** A copy is named by the element that uses it: the same name twice would say that both are one item. */
  #nameCopy(use: XmlElement, first: number): void {
    if (use.attributes['id'] === undefined || this.items.length - first > MAX_PIECES) return;
    const copied = this.items.slice(first);
    const [only] = copied;
    const icon = only && 'icon' in only ? only.icon : undefined;
    if (
      icon !== undefined &&
      icon !== use.attributes['id'] &&
      copied.every((c) => 'icon' in c && c.icon === icon)
    ) {
      const id = this.#id(use);
      this.items.splice(first, copied.length, ...copied.map((c) => ({ ...c, icon: id })));
    } else if (
      copied.length === 1 &&
      only &&
      only.kind !== 'text' &&
      icon === undefined &&
      only.item.id !== use.attributes['id']
    )
      this.items[first] = { ...only, named: true, item: { ...only.item, id: this.#id(use) } } as RawItem;
  }

  #paintColour(value: string | undefined, style: Declarations, opacity: number): string | undefined {
    return normalColour(
      value === 'currentColor' ? (style['color'] ?? '#000000') : (value ?? 'none'),
      opacity,
    );
  }

  #fill({ style, matrix }: State, box: Rect): Fill | undefined {
    const value = style['fill'] ?? '#000000';
    const opacity = length(style['fill-opacity'], 1) ?? 1;
    const server = this.#byId.get(urlId(value) ?? '');
    if (server?.name.endsWith('Gradient'))
      return gradientFill(server, {
        find: (id) => this.#byId.get(id),
        sheet: this.#sheet,
        style,
        box,
        matrix,
        opacity,
      });
    const colour = this.#paintColour(
      urlId(value) ? value.replace(/^url\([^)]*\)\s*/, '') : value,
      style,
      opacity,
    );
    return colour === undefined ? undefined : { kind: 'solid', colour };
  }

  #shape(el: XmlElement, state: State): void {
    const { style } = state;
    const pattern = this.#byId.get(urlId(style['fill']) ?? '');
    if (pattern?.name === 'pattern' && this.#patternPicture(el, pattern, state)) return;
    const line = this.#outline(el, state.matrix);
    if (!line) return;
    const fill = line.plain?.kind === 'line' ? undefined : this.#fill(state, line.bounds);
    const stroke = this.#paintColour(style['stroke'], style, length(style['stroke-opacity'], 1) ?? 1);
    const strokeWidth = stroke ? (length(style['stroke-width'], 0) ?? 1) * scaleOf(state.matrix) : 0;
    const boxes = !line.plain && fill && strokeWidth === 0 ? boxesIn(line) : undefined;
    if (fill && boxes) {
      this.#boxes(el, boxes, fill, state);
      return;
    }
    const unpainted = !fill && !(stroke && strokeWidth > 0);
    const whole = strokedBox(line, strokeWidth);
    const box =
      line.plain && state.clip && !this.#outside(whole, state) ? intersect(whole, state.clip) : whole;
    const leftOut = this.#leftOut(box, state) ?? (unpainted ? 'unpainted' : undefined);
    const solid = fill?.kind === 'solid' ? fill.colour : fill?.stops[0]?.colour;
    const art: ArtPath = {
      get d() {
        return line.d;
      },
      ...(solid && { fill: solid }),
      ...(style['fill-rule'] === 'evenodd' && { fillRule: 'evenodd' as const }),
      ...(stroke && { stroke, strokeWidth }),
      ...(style['stroke-linecap'] === 'round' && { cap: 'round' as const }),
      ...(style['stroke-linejoin'] === 'round' && { join: 'round' as const }),
      ...(state.opacity < 1 && { opacity: state.opacity }),
    };
    const base = { id: this.#id(el), box, groups: state.groups };
    const named = el.attributes['id'] !== undefined;
    const around = this.#surroundings(state);
    const angle = line.plain ? 0 : angleOf(state.matrix);
    if (line.plain) {
      const paint = plainPaint(line.plain, fill, stroke, strokeWidth, style, state.opacity);
      this.items.push({
        kind: 'shape',
        ...(leftOut && { leftOut }),
        named,
        item: { ...base, kind: 'shape', paint: { ...paint, ...around } },
        art,
        lines: line.lines,
      });
    } else {
      const content = {
        kind: 'art' as const,
        view: [box.x, box.y, box.width, box.height] as const,
        paths: [art],
      };
      this.items.push({
        kind: 'art',
        ...(leftOut && { leftOut }),
        named,
        item: { ...base, kind: 'art', paint: around, content, ...(angle !== 0 && { angle }) },
        art,
        lines: line.lines,
      });
    }
    this.#markers(el, line, strokeWidth, state);
  }

  /** Boxes that one path draws, each for itself; the first keeps the path's name. */
  #boxes(el: XmlElement, boxes: readonly Box[], fill: Fill, state: State): void {
    const id = this.#id(el);
    const colour = fill.kind === 'solid' ? fill.colour : fill.stops[0]?.colour;
    const faded = state.opacity < 1 ? { opacity: state.opacity } : {};
    boxes.forEach(({ bounds, radius, line, border }, n) => {
      const box = state.clip && !this.#outside(bounds, state) ? intersect(bounds, state.clip) : bounds;
      const leftOut = this.#leftOut(box, state);
      const isRound = typeof radius === 'number' && roundIfCircle(radius, bounds) === 'round';
      const paint: Paint = {
        ...(border === undefined
          ? { fill }
          : { stroke: { colour: colour ?? '#000000', width: Math.round(border * 100) / 100 } }),
        ...(isRound ? { radius: 'round' as const } : radius !== 0 && { radius }),
        ...faded,
        ...this.#surroundings(state),
      };
      const own = n === 0 ? id : this.#id({ ...el, attributes: { id: `${id}-${n + 1}` } });
      const d = pathOf({ curves: line });
      this.items.push({
        kind: 'shape',
        ...(leftOut && { leftOut }),
        named: n === 0 && el.attributes['id'] !== undefined,
        item: { kind: 'shape', id: own, box, groups: state.groups, paint },
        art: { d, ...(border === undefined && colour !== undefined && { fill: colour }) },
        lines: [line],
      });
    });
  }

  /** The markers on a line's vertices are pieces of one picture with the line. */
  #markers(el: XmlElement, line: Outline, strokeWidth: number, state: State): void {
    const roles = (['marker-start', 'marker-mid', 'marker-end'] as const).flatMap((role) => {
      const marker = this.#byId.get(urlId(state.style[role] ?? state.style['marker']) ?? '');
      return marker?.name === 'marker' ? [{ role, marker }] : [];
    });
    const drawn = this.items.length - 1;
    const piece = this.items[drawn];
    if (roles.length === 0 || piece === undefined || piece.kind === 'text' || piece.kind === 'picture')
      return;
    const points = vertices(line.d).slice(0, MAX_PIECES);
    for (const { role, marker } of roles) {
      const places =
        role === 'marker-start'
          ? points.slice(0, 1)
          : role === 'marker-end'
            ? points.slice(-1)
            : points.slice(1, -1);
      for (const place of places) {
        const matrix = markerMatrix(marker, place, role, strokeWidth);
        const { clip: _clip, ...free } = state;
        const style = cascade({}, this.#sheet.own(marker));
        const inside: State = { ...free, matrix, style, uses: [...state.uses, marker] };
        if (!state.uses.includes(marker))
          for (const child of elementsOf(marker)) this.#element(child, inside);
      }
    }
    const pieces = this.items.slice(drawn);
    if (pieces.length < 2 || !pieces.every((p) => p.kind === 'shape' || p.kind === 'art')) return;
    const icon = el.attributes['id'] === undefined ? rawId(piece) : this.#id(el);
    this.items.splice(drawn, pieces.length, ...pieces.map((p) => ({ ...p, icon })));
  }

  #outside(box: Rect, state: State): boolean {
    const frame = { x: 0, y: 0, ...this.#size };
    return ![frame, ...(state.clip ? [state.clip] : [])].every((r) =>
      overlap(box, r).every((n) => n > -0.01),
    );
  }

  /** Why an item at this place is not to be shown. */
  #leftOut(box: Rect, state: State): CleanUpKind | undefined {
    if (state.leftOut) return state.leftOut;
    if (state.style['visibility'] === 'hidden' || state.style['visibility'] === 'collapse') return 'hidden';
    return this.#outside(box, state) ? 'off the frame' : undefined;
  }

  #picture(
    el: XmlElement,
    box: Rect,
    href: string | undefined,
    preserve: string | undefined,
    radius: Paint['radius'],
    state: State,
  ): void {
    const leftOut = this.#leftOut(box, state);
    const { content, kept } = pictureContent(href, fitOf(preserve));
    const id = this.#id(el);
    if (!kept)
      this.#note(
        'not understood',
        'Pictures that are not in the file as PNG, JPEG, GIF or WebP are shown as placeholders.',
        id,
      );
    const paint: Paint = {
      ...(radius !== undefined && radius !== 0 && { radius }),
      ...(state.opacity < 1 && { opacity: state.opacity }),
      ...this.#surroundings(state),
    };
    const named = el.attributes['id'] !== undefined;
    this.items.push({
      kind: 'picture',
      ...(leftOut && { leftOut }),
      named,
      item: { kind: 'picture', id, box, groups: state.groups, paint, content },
    });
  }

  #image(el: XmlElement, state: State): void {
    const at = (name: string) => length(el.attributes[name]) ?? 0;
    const drawn = placedBox(
      { x: at('x'), y: at('y'), width: at('width'), height: at('height') },
      state.matrix,
    );
    const box = state.clip ? intersect(drawn, state.clip) : drawn;
    if (box.width <= 0 || box.height <= 0) return;
    const shadowed = shadowedBox(hrefOf(el), state.maskedBy, drawn);
    if (shadowed) {
      this.#shadowed(el, shadowed, state);
      return;
    }
    const radius = radiusOfEdge(state.edges, box);
    const preserve = el.attributes['preserveAspectRatio'] ?? 'xMidYMid';
    const href = seenPart(hrefOf(el), drawn, box, preserve);
    // A part that was cut out fills its box; where the middle is seen, so does the whole.
    const fit = box.width < drawn.width - 1 || box.height < drawn.height - 1 ? 'xMidYMid slice' : preserve;
    this.#picture(el, box, href, fit, roundIfCircle(radius, box), state);
  }

  /** The picture in a mask, which may stand in it by a use. */
  #imageIn(mask: XmlElement | undefined): XmlElement | undefined {
    return mask?.name === 'mask' ? firstImage(mask, (id) => this.#byId.get(id)) : undefined;
  }

  /** A plain box with a shadow, which was printed as a picture, as the box that it was. */
  #shadowed(el: XmlElement, { box, paint }: Shadowed, state: State): void {
    const fill = paint.fill?.kind === 'solid' ? paint.fill.colour : undefined;
    const id = this.#id(el);
    const leftOut = this.#leftOut(box, state);
    const faded = state.opacity < 1 ? { opacity: state.opacity } : {};
    this.items.push({
      kind: 'shape',
      ...(leftOut && { leftOut }),
      named: el.attributes['id'] !== undefined,
      item: { kind: 'shape', id, box, groups: state.groups, paint: { ...paint, ...faded } },
      art: {
        d: `M${box.x} ${box.y}h${box.width}v${box.height}h${-box.width}z`,
        ...(fill !== undefined && { fill }),
      },
    });
  }

  /** A shape filled with a pattern that holds one picture is that picture, cropped to the shape. */
  #patternPicture(el: XmlElement, pattern: XmlElement, state: State): boolean {
    const image = firstImage(pattern, (id) => this.#byId.get(id));
    const line = image && this.#outline(el, state.matrix);
    if (!line) return false;
    const tile = this.#tileOf(pattern, state.matrix);
    const box = [tile, state.clip].reduce<Rect>((all, r) => (r ? intersect(all, r) : all), line.bounds);
    if (box.width <= 0 || box.height <= 0) return true;
    const own = line.plain?.kind === 'ellipse' ? 'round' : line.plain?.radius;
    const radius = own || radiusOfEdge(state.edges, box);
    this.#picture(
      el,
      box,
      hrefOf(image),
      image.attributes['preserveAspectRatio'] ?? 'slice',
      roundIfCircle(radius, box),
      state,
    );
    return true;
  }

  /** The one tile of a pattern that is placed on the page itself; converters paint pictures so. */
  #tileOf(pattern: XmlElement, matrix: Matrix): Rect | undefined {
    const { patternUnits, patternTransform, x, y, width, height } = pattern.attributes;
    const [w, h] = [length(width) ?? 0, length(height) ?? 0];
    if (patternUnits !== 'userSpaceOnUse' || !(w > 0 && h > 0)) return undefined;
    try {
      const own = patternTransform ? compose(matrix, parseTransform(patternTransform)) : matrix;
      return placedBox({ x: length(x) ?? 0, y: length(y) ?? 0, width: w, height: h }, own);
    } catch {
      return undefined;
    }
  }

  #text(el: XmlElement, state: State): void {
    if (++this.#texts > MAX_TEXTS) {
      this.#note('not understood', `The file has more than ${MAX_TEXTS} texts: the rest were left out.`);
      return;
    }
    const angle = angleOf(state.matrix);
    const turned = Math.abs(angle) >= TURNED;
    const upright = turned ? compose(rotateDEG(-angle), state.matrix) : state.matrix;
    const chunks = textChunks(
      el,
      // What is hidden is read too, so that leaving it out can be taken back.
      { ...state.style, opacity: String(state.opacity), visibility: 'visible', display: 'inline' },
      this.#sheet,
      upright,
    );
    if (chunks.length === 0) {
      this.#note('left out', 'Empty texts were left out.', el.attributes['id']);
      return;
    }
    const [first] = chunks;
    const start = applyToPoint(rotateDEG(turned ? angle : 0), { x: first?.x ?? 0, y: first?.y ?? 0 });
    const at: Rect = { ...start, width: 0, height: 0 };
    const leftOut = this.#leftOut(at, state);
    // Only where it is said in px: as a number exporters write it whatever the distance of the lines.
    const said = state.style['line-height'] ?? '';
    const lineHeight = said.endsWith('px') ? length(said) : undefined;
    this.items.push({
      kind: 'text',
      id: this.#id(el),
      groups: state.groups,
      chunks,
      ...(lineHeight !== undefined && { lineHeight: lineHeight * scaleOf(upright) }),
      ...(turned && { angle }),
      ...(leftOut && { leftOut }),
    });
  }
}

/** The outermost element of an SVG file; throws a {@link DrawingError} for a file that holds none. */
export function parseSvg(text: string): XmlElement {
  if (!/<(?:[\w-]+:)?svg[\s>/]/i.test(text.slice(0, 100_000)))
    throw new DrawingError('The file is not an SVG drawing: export the screen as SVG and choose that file.');
  const root = parseXml(text);
  if (root.name !== 'svg')
    throw new DrawingError(
      `The file's outermost element is “${root.name.slice(0, 40)}”, not svg: export the screen as SVG.`,
    );
  return root;
}

/**
 * Reads an SVG tree to items with absolute boxes; texts are still to be measured. With a `frame`, the box of one of
 * several screens in the file, only what stands in it is read. What is not understood is listed in the notes.
 */
export function readSvgTree(
  root: XmlElement,
  name: string,
  { frame, readPage }: { readonly frame?: Rect | undefined; readonly readPage?: PageReader } = {},
): RawDrawing {
  const reader = new SvgReader(readPage);
  const read = reader.read(root, frame);
  // What stands beside the frame belongs to another screen: nothing was cleaned up there.
  const items = frame ? reader.items.filter((i) => i.leftOut !== 'off the frame') : reader.items;
  return { name, ...read, items };
}
