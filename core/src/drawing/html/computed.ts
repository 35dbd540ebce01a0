import type { TextStyle } from '../../model/index.js';
import { normalColour } from '../colour.js';
import { cascade, length, type Declarations, type StyleSheet } from '../styles.js';
import type { XmlElement } from '../xml.js';
import { expand, parseLength, type Length } from './values.js';

export type Display = 'none' | 'block' | 'inline' | 'inline-block' | 'svg';

type Four<T> = readonly [top: T, right: T, bottom: T, left: T];

/** What an element's layout needs of its style; lengths are CSS px. */
export interface Computed {
  readonly display: Display;
  readonly position: 'static' | 'relative' | 'absolute';
  readonly borderBox: boolean;
  readonly width: Length | undefined;
  readonly height: Length | undefined;
  readonly minWidth: Length | undefined;
  readonly maxWidth: Length | undefined;
  readonly minHeight: Length | undefined;
  readonly maxHeight: Length | undefined;
  readonly margin: Four<Length>;
  readonly padding: Four<Length>;
  readonly border: Four<number>;
  readonly inset: Four<Length>;
  readonly z: number | undefined;
  readonly type: TextStyle;
  /** px, or what the font says. */
  readonly lineHeight: number | 'normal';
  readonly align: 'start' | 'centre' | 'end';
  readonly preserve: 'none' | 'lines' | 'all';
  /** No line breaks but those that are written. */
  readonly oneLine: boolean;
  /** Everything declared and inherited, for paint. */
  readonly all: Declarations;
}

/** An element with its style, its words and elements in order. */
export interface StyledNode {
  readonly el: XmlElement;
  readonly style: Computed;
  readonly children: readonly (StyledNode | string)[];
}

const BLOCKS =
  /^(?:html|body|div|p|section|article|header|footer|main|nav|aside|h[1-6]|ul|ol|li|dl|dt|dd|form|fieldset|figure|figcaption|blockquote|pre|hr|address|center|details|summary|legend|dialog|hgroup|menu|search|table|thead|tbody|tfoot|tr|td|th|caption)$/;
const HIDDEN =
  /^(?:head|script|style|template|noscript|title|meta|link|iframe|object|embed|video|audio|map|area|param|source|track|datalist|option|optgroup)$/;
const CONTROLS = /^(?:input|button|select|textarea)$/;

const HEADINGS: Readonly<Record<string, readonly [size: string, margin: string]>> = {
  h1: ['2em', '0.67em'],
  h2: ['1.5em', '0.83em'],
  h3: ['1.17em', '1em'],
  h4: ['1em', '1.33em'],
  h5: ['0.83em', '1.67em'],
  h6: ['0.67em', '2.33em'],
};

/** What browsers give an element before any sheet (WHATWG HTML §15.3), as far as drawings meet it. */
function browserStyle(el: XmlElement): Record<string, string> {
  const { name, attributes } = el;
  const heading = HEADINGS[name];
  if (heading) return { 'font-size': heading[0], 'font-weight': 'bold', margin: `${heading[1]} 0` };
  if (name === 'body') return { margin: '8px' };
  if (name === 'p' || name === 'dl' || name === 'pre')
    return { margin: '1em 0', ...(name === 'pre' && { 'white-space': 'pre', 'font-family': 'monospace' }) };
  if (name === 'ul' || name === 'ol' || name === 'menu') return { margin: '1em 0', 'padding-left': '40px' };
  if (name === 'blockquote' || name === 'figure') return { margin: '1em 40px' };
  if (name === 'dd') return { 'margin-left': '40px' };
  if (/^(?:b|strong|th)$/.test(name))
    return { 'font-weight': 'bold', ...(name === 'th' && { 'text-align': 'center', padding: '1px' }) };
  if (/^(?:i|em|cite|var|dfn|address)$/.test(name)) return { 'font-style': 'italic' };
  if (/^(?:code|kbd|samp|tt)$/.test(name)) return { 'font-family': 'monospace', 'font-size': '13px' };
  if (name === 'small') return { 'font-size': '0.8333em' };
  if (name === 'a' && attributes['href'] !== undefined) return { color: '#0000ee' };
  if (name === 'td') return { padding: '1px' };
  if (name === 'center') return { 'text-align': 'center' };
  if (name === 'hr') return { margin: '0.5em auto', border: '1px inset #808080' };
  if (name === 'button')
    return {
      padding: '1px 6px',
      border: '2px outset #000000',
      font: '13.333px Arial',
      'text-align': 'center',
      'background-color': '#efefef',
      'box-sizing': 'border-box',
      color: '#000000',
      'line-height': 'normal',
    };
  if (name === 'input' || name === 'textarea' || name === 'select')
    return {
      padding: '1px 2px',
      border: '2px inset #767676',
      font: '13.333px Arial',
      'background-color': '#ffffff',
      color: '#000000',
      'line-height': 'normal',
      'text-align': 'start',
      ...(name === 'select' && { 'box-sizing': 'border-box' }),
    };
  return {};
}

/** Old attributes that say what a style says. */
function attributeStyle({ name, attributes }: XmlElement): Record<string, string> {
  const found: Record<string, string> = {};
  const size = (value: string | undefined) => (value && /^\d+(\.\d+)?$/.test(value) ? `${value}px` : value);
  if (/^(?:img|table|td|th|hr|input|svg|canvas)$/.test(name)) {
    const [width, height] = [size(attributes['width']), size(attributes['height'])];
    if (width) found['width'] = width;
    if (height) found['height'] = height;
  }
  if (attributes['bgcolor']) found['background-color'] = attributes['bgcolor'];
  if (attributes['align'] && /^(?:left|right|center)$/.test(attributes['align']))
    found['text-align'] = attributes['align'];
  if (name === 'font') {
    if (attributes['color']) found['color'] = attributes['color'];
    if (attributes['face']) found['font-family'] = attributes['face'];
  }
  if (name === 'table' && attributes['border'] && attributes['border'] !== '0')
    found['border'] = `${size(attributes['border'])} outset #808080`;
  return found;
}

const SIZES: Readonly<Record<string, number>> = {
  'xx-small': 9,
  'x-small': 10,
  small: 13,
  medium: 16,
  large: 18,
  'x-large': 24,
  'xx-large': 32,
};

function displayOf(el: XmlElement, all: Declarations, blockified: boolean): Display {
  if (HIDDEN.test(el.name)) return 'none';
  if (el.name === 'svg') return 'svg';
  if (el.name === 'input' && el.attributes['type'] === 'hidden') return 'none';
  const declared = all['display']?.trim();
  if (declared === 'none') return 'none';
  const isBoxInLine = CONTROLS.test(el.name) || el.name === 'img' || el.name === 'canvas';
  const inLine: Display = isBoxInLine ? 'inline-block' : 'inline';
  const display: Display =
    declared === undefined
      ? BLOCKS.test(el.name)
        ? 'block'
        : inLine
      : declared === 'inline'
        ? inLine
        : declared.startsWith('inline-')
          ? 'inline-block'
          : 'block';
  return blockified ? 'block' : display;
}

const four = <T>(of: (side: string) => T): Four<T> => [of('top'), of('right'), of('bottom'), of('left')];

function compute(el: XmlElement, all: Declarations, parent: Computed | undefined): Computed {
  const above = parent?.type.size ?? 16;
  const wanted = all['font-size'];
  const relative = wanted === 'smaller' ? above / 1.2 : wanted === 'larger' ? above * 1.2 : undefined;
  const size = Math.max(0, relative ?? SIZES[wanted ?? ''] ?? length(wanted, above, above) ?? above);
  const len = (name: string) => parseLength(all[name], size);
  const weight = all['font-weight'] ?? '400';
  const position = /^(?:absolute|fixed)$/.test(all['position'] ?? '')
    ? 'absolute'
    : /^(?:relative|sticky)$/.test(all['position'] ?? '')
      ? 'relative'
      : 'static';
  const spacing = length(all['letter-spacing'], 0, size) ?? 0;
  const space = all['white-space'] ?? 'normal';
  const align = all['text-align'] ?? 'start';
  const declaredLine = all['line-height'];
  const factor = /^[\d.]+$/.test(declaredLine ?? '') ? Number(declaredLine) : undefined;
  const line =
    declaredLine === undefined || declaredLine === 'normal'
      ? 'normal'
      : factor !== undefined
        ? factor * size
        : (length(declaredLine, size, size) ?? 'normal');
  return {
    display: displayOf(el, all, position === 'absolute' || /^(?:left|right)$/.test(all['float'] ?? '')),
    position,
    borderBox: all['box-sizing'] === 'border-box',
    width: len('width'),
    height: len('height'),
    minWidth: len('min-width'),
    maxWidth: len('max-width'),
    minHeight: len('min-height'),
    maxHeight: len('max-height'),
    margin: four((side) => len(`margin-${side}`) ?? 0),
    padding: four((side) => {
      const value = len(`padding-${side}`) ?? 0;
      return value === 'auto' ? 0 : value;
    }),
    border: four((side) => {
      const style = all[`border-${side}-style`] ?? 'none';
      return style === 'none' || style === 'hidden'
        ? 0
        : Math.max(0, length(all[`border-${side}-width`]) ?? 3);
    }),
    inset: four((side) => len(side) ?? 'auto'),
    z: /^-?\d+$/.test(all['z-index'] ?? '') ? Number(all['z-index']) : undefined,
    type: {
      family: all['font-family'] ?? 'serif',
      size,
      weight:
        weight === 'bold' || weight === 'bolder' ? 700 : weight === 'normal' ? 400 : Number(weight) || 400,
      italic: /italic|oblique/.test(all['font-style'] ?? ''),
      letterSpacing: spacing,
      colour: normalColour(all['color'] ?? '#000000') ?? 'transparent',
    },
    lineHeight: line,
    align: align === 'center' ? 'centre' : align === 'right' || align === 'end' ? 'end' : 'start',
    preserve: space.startsWith('pre') ? (space === 'pre-line' ? 'lines' : 'all') : 'none',
    oneLine: space === 'nowrap' || space === 'pre',
    // What is inherited is inherited as computed: a child's em is not its parent's.
    all: {
      ...all,
      'font-size': `${size}px`,
      ...(line !== 'normal' && factor === undefined && { 'line-height': `${line}px` }),
      ...(spacing !== 0 && { 'letter-spacing': `${spacing}px` }),
    },
  };
}

const variables = (all: Declarations): Record<string, string> =>
  Object.fromEntries(Object.entries(all).filter(([name]) => name.startsWith('--')));

/** Gives every element below `el` its style. */
export function styled(el: XmlElement, sheet: StyleSheet, parent?: Computed): StyledNode {
  const scope = parent ? variables(parent.all) : {};
  const raw = { ...browserStyle(el), ...attributeStyle(el), ...sheet.own(el) };
  const inner = { ...scope, ...variables(raw) };
  const all = { ...cascade(parent?.all ?? {}, expand(raw, inner)), ...inner };
  const style = compute(el, all, parent);
  const children =
    style.display === 'none' || style.display === 'svg'
      ? []
      : el.children.map((c) => (typeof c === 'string' ? c : styled(c, sheet, style)));
  return { el, style, children };
}
