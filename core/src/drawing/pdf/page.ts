import { SVGPathData } from 'svg-pathdata';
import { encode } from 'fast-png';
import { fromUint8Array } from 'js-base64';
import { compose, type Matrix } from 'transformation-matrix';
import { fontNamed } from './fontName.js';
import type { PdfFont, PdfGlyph, PdfImage, PdfLibrary, PdfPage } from './pdfjs.js';
import { wordsIn, type SetGlyph } from './words.js';

const escaped = (text: string): string =>
  text.replaceAll(/[&<>"]/g, (ch) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[ch] ?? ch);
const n = (value: number): string => String(Math.round(value * 1e4) / 1e4);
const matrixOf = (m: readonly number[]): Matrix => ({
  a: m[0] ?? 1,
  b: m[1] ?? 0,
  c: m[2] ?? 0,
  d: m[3] ?? 1,
  e: m[4] ?? 0,
  f: m[5] ?? 0,
});
const written = ({ a, b, c, d, e, f }: Matrix): string =>
  `matrix(${[a, b, c, d, e, f].map((v) => String(Math.round(v * 1e9) / 1e9)).join(' ')})`;

/** What the operators of a page have set (ISO 32000-1 §8.4). */
interface State {
  ctm: Matrix;
  fill: string;
  stroke: string;
  fillOpacity: number;
  strokeOpacity: number;
  lineWidth: number;
  cap: number;
  join: number;
  dash: readonly number[];
  blend: string | undefined;
  font: PdfFont | undefined;
  fontSize: number;
  charSpacing: number;
  wordSpacing: number;
  scale: number;
  leading: number;
  rise: number;
  mode: number;
  /** How many groups were opened for clips since the state was saved. */
  clips: number;
}

/** No more operators of one page are read. */
const MOST_OPERATORS = 400_000;
const CAPS = ['butt', 'round', 'square'];
const JOINS = ['miter', 'round', 'bevel'];
/** Text that is not painted, but may be searched for (ISO 32000-1 §9.3.6). */
const INVISIBLE = 3;

/** Writes what a page of a PDF paints as SVG. */
export class PageWriter {
  readonly #page: PdfPage;
  readonly #names: ReadonlyMap<number, string>;
  readonly #out: string[] = [];
  readonly #defs: string[] = [];
  readonly #prefix: string;
  #state: State;
  readonly #saved: State[] = [];
  #text: Matrix = matrixOf([]);
  #line: Matrix = matrixOf([]);
  #path = '';
  #clip: 'nonzero' | 'evenodd' | undefined;
  #glyphs: SetGlyph[] = [];
  #count = 0;

  constructor(page: PdfPage, library: PdfLibrary, prefix: string, to: Matrix) {
    this.#page = page;
    this.#prefix = prefix;
    this.#names = new Map(Object.entries(library.OPS).map(([name, code]) => [code, name]));
    this.#state = {
      ctm: to,
      fill: '#000000',
      stroke: '#000000',
      fillOpacity: 1,
      strokeOpacity: 1,
      lineWidth: 1,
      cap: 0,
      join: 0,
      dash: [],
      blend: undefined,
      font: undefined,
      fontSize: 0,
      charSpacing: 0,
      wordSpacing: 0,
      scale: 1,
      leading: 0,
      rise: 0,
      mode: 0,
      clips: 0,
    };
  }

  /** The page's elements, its definitions first. */
  async write(): Promise<string> {
    const { fnArray, argsArray } = await this.#page.getOperatorList();
    const count = Math.min(fnArray.length, MOST_OPERATORS);
    for (let i = 0; i < count; i++) {
      const name = this.#names.get(fnArray[i] as number) ?? '';
      await this.#do(name, (argsArray[i] ?? []) as readonly unknown[]);
    }
    this.#flush();
    while (this.#saved.length > 0) this.#restore();
    this.#close(this.#state.clips);
    return `<defs>${this.#defs.join('')}</defs>${this.#out.join('')}`;
  }

  #save(): void {
    this.#saved.push(this.#state);
    this.#state = { ...this.#state, clips: 0 };
  }

  #restore(): void {
    const before = this.#saved.pop();
    if (!before) return;
    this.#flush();
    this.#close(this.#state.clips);
    this.#state = before;
  }

  #close(groups: number): void {
    for (let i = 0; i < groups; i++) this.#out.push('</g>');
  }

  #transform(m: readonly number[]): void {
    this.#state = { ...this.#state, ctm: compose(this.#state.ctm, matrixOf(m)) };
  }

  #set(change: Partial<State>): void {
    this.#state = { ...this.#state, ...change };
  }

  async #do(name: string, args: readonly unknown[]): Promise<void> {
    const num = (i: number) => (typeof args[i] === 'number' ? args[i] : 0);
    switch (name) {
      case 'save':
        this.#save();
        break;
      case 'restore':
        this.#restore();
        break;
      case 'transform':
        this.#transform(args as readonly number[]);
        break;
      case 'paintFormXObjectBegin': {
        this.#save();
        const [matrix, box] = args as [readonly number[] | null, readonly number[] | null];
        if (matrix) this.#transform(matrix);
        if (box) {
          const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = box;
          this.#clipTo(`M${n(x0)} ${n(y0)}H${n(x1)}V${n(y1)}H${n(x0)}Z`, 'nonzero');
        }
        break;
      }
      case 'paintFormXObjectEnd':
        this.#restore();
        break;
      case 'beginGroup':
        this.#save();
        break;
      case 'endGroup':
        this.#restore();
        break;
      case 'setLineWidth':
        this.#set({ lineWidth: num(0) });
        break;
      case 'setLineCap':
        this.#set({ cap: num(0) });
        break;
      case 'setLineJoin':
        this.#set({ join: num(0) });
        break;
      case 'setDash':
        this.#set({ dash: (args[0] as readonly number[] | undefined) ?? [] });
        break;
      case 'setGState':
        this.#graphicsState(args[0] as readonly (readonly [string, unknown])[]);
        break;
      case 'setFillRGBColor':
        this.#set({ fill: colourOf(args) });
        break;
      case 'setStrokeRGBColor':
        this.#set({ stroke: colourOf(args) });
        break;
      case 'setFillTransparent':
        this.#set({ fill: 'none' });
        break;
      case 'setStrokeTransparent':
        this.#set({ stroke: 'none' });
        break;
      case 'setFillColorN':
        this.#set({ fill: await this.#pattern(args, this.#state.fill) });
        break;
      case 'setStrokeColorN':
        this.#set({ stroke: await this.#pattern(args, this.#state.stroke) });
        break;
      case 'shadingFill':
        await this.#shade(args);
        break;
      case 'constructPath':
        this.#construct(args[0] as readonly number[], args[1] as readonly number[]);
        break;
      case 'clip':
        this.#clip = 'nonzero';
        break;
      case 'eoClip':
        this.#clip = 'evenodd';
        break;
      case 'fill':
      case 'eoFill':
      case 'stroke':
      case 'closeStroke':
      case 'fillStroke':
      case 'eoFillStroke':
      case 'closeFillStroke':
      case 'closeEOFillStroke':
      case 'endPath':
        this.#paint(name);
        break;
      case 'paintImageXObject':
        await this.#image(await this.#object(String(args[0])));
        break;
      case 'paintInlineImageXObject':
        await this.#image(args[0]);
        break;
      default:
        await this.#textOperator(name, args, num);
    }
  }

  #graphicsState(entries: readonly (readonly [string, unknown])[]): void {
    for (const [key, value] of entries) {
      if (key === 'ca') this.#set({ fillOpacity: Number(value) });
      else if (key === 'CA') this.#set({ strokeOpacity: Number(value) });
      else if (key === 'LW') this.#set({ lineWidth: Number(value) });
      else if (key === 'LC') this.#set({ cap: Number(value) });
      else if (key === 'LJ') this.#set({ join: Number(value) });
      else if (key === 'BM') this.#set({ blend: value === 'source-over' ? undefined : String(value) });
    }
  }

  #construct(operators: readonly number[], numbers: readonly number[]): void {
    let [at, x, y] = [0, 0, 0];
    const take = (count: number): number[] => {
      const taken = numbers.slice(at, at + count);
      at += count;
      [x, y] = [taken.at(-2) ?? x, taken.at(-1) ?? y];
      return taken;
    };
    for (const operator of operators) {
      const name = this.#names.get(operator);
      if (name === 'moveTo') this.#path += `M${take(2).map(n).join(' ')}`;
      else if (name === 'lineTo') this.#path += `L${take(2).map(n).join(' ')}`;
      else if (name === 'curveTo') this.#path += `C${take(6).map(n).join(' ')}`;
      else if (name === 'curveTo2') {
        const from = [x, y];
        this.#path += `C${[...from, ...take(4)].map(n).join(' ')}`;
      } else if (name === 'curveTo3') {
        const [x1 = 0, y1 = 0, ex = 0, ey = 0] = take(4);
        this.#path += `C${[x1, y1, ex, ey, ex, ey].map(n).join(' ')}`;
      } else if (name === 'rectangle') {
        const [rx = 0, ry = 0, w = 0, h = 0] = take(4);
        this.#path += `M${n(rx)} ${n(ry)}H${n(rx + w)}V${n(ry + h)}H${n(rx)}Z`;
      } else if (name === 'closePath') this.#path += 'Z';
    }
  }

  #paint(how: string): void {
    this.#flush();
    const { ctm, fill, stroke, fillOpacity, strokeOpacity, lineWidth, cap, join, dash, blend } = this.#state;
    const fills = /fill/i.test(how);
    const strokes = /stroke/i.test(how);
    const d = /close/i.test(how) ? `${this.#path}Z` : this.#path;
    if (d !== '' && (fills || strokes)) {
      const style = [
        fills ? `fill="${fill}"` : 'fill="none"',
        fills && fillOpacity < 1 ? `fill-opacity="${n(fillOpacity)}"` : '',
        /eo/i.test(how) ? 'fill-rule="evenodd"' : '',
        strokes
          ? `stroke="${stroke}" stroke-width="${n(lineWidth)}" stroke-linecap="${CAPS[cap] ?? 'butt'}" stroke-linejoin="${JOINS[join] ?? 'miter'}"`
          : '',
        strokes && strokeOpacity < 1 ? `stroke-opacity="${n(strokeOpacity)}"` : '',
        strokes && dash.length > 0 ? `stroke-dasharray="${dash.map(n).join(' ')}"` : '',
        blend === undefined ? '' : `style="mix-blend-mode:${escaped(blend)}"`,
      ];
      this.#out.push(
        `<path d="${d}" transform="${written(ctm)}" ${style.filter((s) => s !== '').join(' ')}/>`,
      );
    }
    if (this.#clip) this.#clipTo(this.#path, this.#clip);
    this.#clip = undefined;
    this.#path = '';
  }

  #id(): string {
    return `${this.#prefix}-${++this.#count}`;
  }

  #clipTo(d: string, rule: string): void {
    this.#flush();
    const id = this.#id();
    this.#defs.push(
      `<clipPath id="${id}"><path d="${d}" clip-rule="${rule}" transform="${written(this.#state.ctm)}"/></clipPath>`,
    );
    this.#out.push(`<g clip-path="url(#${id})">`);
    this.#state.clips++;
  }

  #object(name: string): Promise<unknown> {
    const { objs, commonObjs } = this.#page;
    return new Promise((resolve) => (name.startsWith('g_') ? commonObjs : objs).get(name, resolve));
  }

  /** A gradient as a definition; other patterns keep the colour before. */
  async #pattern(args: readonly unknown[], before: string): Promise<string> {
    if (args[0] !== 'Shading' || typeof args[1] !== 'string') return before;
    const id = this.#gradient(
      await this.#object(args[1]),
      (args[2] as readonly number[] | null) ?? undefined,
    );
    return id === undefined ? before : `url(#${id})`;
  }

  #gradient(shading: unknown, matrix?: readonly number[]): string | undefined {
    if (!Array.isArray(shading) || shading[0] !== 'RadialAxial') return undefined;
    const [, kind, , stops, from, to, r0, r1] = shading as [
      string,
      string,
      unknown,
      readonly (readonly [number, string])[],
      readonly number[],
      readonly number[],
      number,
      number,
    ];
    const id = this.#id();
    const inner = stops
      .map(([offset, colour]) => `<stop offset="${n(offset)}" stop-color="${escaped(colour)}"/>`)
      .join('');
    const transform = matrix ? ` gradientTransform="${written(matrixOf(matrix))}"` : '';
    const common = `id="${id}" gradientUnits="userSpaceOnUse"${transform}`;
    const [x0 = 0, y0 = 0] = from;
    const [x1 = 0, y1 = 0] = to;
    this.#defs.push(
      kind === 'axial'
        ? `<linearGradient ${common} x1="${n(x0)}" y1="${n(y0)}" x2="${n(x1)}" y2="${n(y1)}">${inner}</linearGradient>`
        : `<radialGradient ${common} fx="${n(x0)}" fy="${n(y0)}" fr="${n(r0)}" cx="${n(x1)}" cy="${n(y1)}" r="${n(r1)}">${inner}</radialGradient>`,
    );
    return id;
  }

  /** Fills what is clipped to with a gradient. */
  async #shade(args: readonly unknown[]): Promise<void> {
    const id = typeof args[0] === 'string' ? this.#gradient(await this.#object(args[0])) : undefined;
    if (id === undefined) return;
    const { ctm } = this.#state;
    this.#out.push(
      `<path d="M-9999 -9999H9999V9999H-9999Z" transform="${written(ctm)}" fill="url(#${id})"/>`,
    );
  }

  async #image(found: unknown): Promise<void> {
    this.#flush();
    const image = found as Partial<PdfImage> | null;
    // An image stands in the unit square, upside down.
    const place = written(compose(this.#state.ctm, matrixOf([1, 0, 0, -1, 0, 1])));
    const { fillOpacity } = this.#state;
    const faded = fillOpacity < 1 ? ` opacity="${n(fillOpacity)}"` : '';
    const href = image?.data ? ` href="${dataOf(image as PdfImage)}"` : '';
    this.#out.push(
      `<image width="1" height="1" preserveAspectRatio="none" transform="${place}"${faded}${href}/>`,
    );
    await Promise.resolve();
  }

  async #textOperator(name: string, args: readonly unknown[], num: (i: number) => number): Promise<void> {
    const next = (x: number, y: number) => {
      this.#line = compose(this.#line, matrixOf([1, 0, 0, 1, x, y]));
      this.#text = this.#line;
    };
    switch (name) {
      case 'beginText':
        this.#text = this.#line = matrixOf([]);
        break;
      case 'setCharSpacing':
        this.#set({ charSpacing: num(0) });
        break;
      case 'setWordSpacing':
        this.#set({ wordSpacing: num(0) });
        break;
      case 'setHScale':
        this.#set({ scale: num(0) / 100 });
        break;
      case 'setLeading':
        this.#set({ leading: -num(0) });
        break;
      case 'setTextRise':
        this.#set({ rise: num(0) });
        break;
      case 'setTextRenderingMode':
        this.#set({ mode: num(0) });
        break;
      case 'setFont':
        this.#set({ font: (await this.#object(String(args[0]))) as PdfFont, fontSize: num(1) });
        break;
      case 'moveText':
        next(num(0), num(1));
        break;
      case 'setLeadingMoveText':
        this.#set({ leading: num(1) });
        next(num(0), num(1));
        break;
      case 'setTextMatrix':
        this.#text = this.#line = matrixOf(args as readonly number[]);
        break;
      case 'nextLine':
        next(0, this.#state.leading);
        break;
      case 'showText':
      case 'showSpacedText':
        this.#show(args[0] as readonly (PdfGlyph | number)[]);
        break;
      default:
        break;
    }
  }

  #show(glyphs: readonly (PdfGlyph | number | null)[]): void {
    const { ctm, fontSize, charSpacing, wordSpacing, scale, rise, font, mode, fill, fillOpacity } =
      this.#state;
    const unit = font?.fontMatrix?.[0] ?? 0.001;
    if (!font) return;
    for (const glyph of glyphs) {
      if (glyph === null) continue;
      if (typeof glyph === 'number') {
        this.#advance((-glyph / 1000) * fontSize * scale);
        continue;
      }
      const m = compose(ctm, this.#text);
      const own = glyph.width * unit * fontSize * scale;
      const size = fontSize * Math.hypot(m.c, m.d);
      const along = Math.hypot(m.a, m.b);
      const angle = Math.atan2(m.b, m.a);
      const [px, py] = [m.c * rise + m.e, m.d * rise + m.f];
      // Along the line's own axis, so that turned lines are put together like others.
      const x = px * Math.cos(angle) + py * Math.sin(angle);
      const baseline = py * Math.cos(angle) - px * Math.sin(angle);
      if (mode !== INVISIBLE) {
        const { family, weight, italic, isHere } = fontNamed(font.name ?? '');
        const outline = isHere ? '' : this.#outlineOf(font, glyph, fontSize * scale * along, size);
        const style = [
          `font-family="${escaped(family)}" font-size="${n(typed(size))}" font-weight="${weight}"`,
          italic ? 'font-style="italic"' : '',
          `fill="${fill}"`,
          fillOpacity < 1 ? `fill-opacity="${n(fillOpacity)}"` : '',
          Math.abs(angle) > 1e-4 ? `transform="rotate(${n((angle * 180) / Math.PI)})"` : '',
        ];
        this.#glyphs.push({
          text: glyph.unicode,
          x,
          end: x + own * along,
          baseline,
          size,
          ...(outline !== '' && { outline }),
          style: style.filter((s) => s !== '').join(' '),
        });
      }
      this.#advance(own + (charSpacing + (glyph.isSpace ? wordSpacing : 0)) * scale);
    }
  }

  /** The outline of a glyph at its size along and across its line, px downwards; empty where the file has none. */
  #outlineOf(
    { loadedName = '' }: PdfFont,
    { fontChar = '' }: PdfGlyph,
    along: number,
    across: number,
  ): string {
    const name = `${loadedName}_path_${fontChar}`;
    if (!this.#page.commonObjs.has(name)) return '';
    const path = this.#page.commonObjs.get(name);
    if (typeof path !== 'string' || path === '') return '';
    return new SVGPathData(path).scale(along, -across).round(100).encode();
  }

  #advance(by: number): void {
    this.#text = compose(this.#text, matrixOf([1, 0, 0, 1, by, 0]));
  }

  /** Writes the words that were shown since something else was painted. */
  #flush(): void {
    for (const { text, x, baseline, span, last, style, drawn } of wordsIn(this.#glyphs)) {
      const attributes = [
        `x="${n(x)}" y="${n(baseline)}" data-span="${n(span)}"`,
        ...(last.length > 1 ? [`data-last="${escaped(last)}"`] : []),
        ...(drawn
          ? [
              `data-places="${drawn.map((w) => `${n(w.from)} ${n(w.to)}`).join(' ')}"`,
              `data-outlines="${drawn.map((w) => w.d).join('|')}"`,
            ]
          : []),
        style,
      ];
      this.#out.push(`<text ${attributes.join(' ')}>${escaped(text)}</text>`);
    }
    this.#glyphs = [];
  }
}

/** Sizes as a designer types them, where printing has rounded. */
const typed = (size: number): number =>
  Math.abs(size - Math.round(size * 2) / 2) < 0.02 ? Math.round(size * 2) / 2 : size;

function colourOf(args: readonly unknown[]): string {
  if (typeof args[0] === 'string') return args[0];
  const [r = 0, g = 0, b = 0] = (
    args.length >= 3 ? args : Array.from(args[0] as ArrayLike<number>)
  ) as readonly number[];
  return `#${[r, g, b].map((v) => Math.round(v).toString(16).padStart(2, '0')).join('')}`;
}

/** An image as a PNG in the file itself. */
function dataOf({ width, height, kind, data }: PdfImage): string {
  const channels = kind === 3 ? 4 : 3;
  const pixels = kind === 1 ? unpacked(data, width, height) : data.slice(0, width * height * channels);
  const png = encode({
    width,
    height,
    data: new Uint8Array(pixels),
    channels: kind === 1 ? 1 : channels,
    depth: 8,
  });
  return `data:image/png;base64,${fromUint8Array(png)}`;
}

/** Bits, each row from a byte of its own, as grey. */
function unpacked(bits: Uint8Array | Uint8ClampedArray, width: number, height: number): Uint8Array {
  const row = (width + 7) >> 3;
  return Uint8Array.from({ length: width * height }, (_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    return ((bits[y * row + (x >> 3)] ?? 0) >> (7 - (x & 7))) & 1 ? 255 : 0;
  });
}
