import { generate, parse, walk, type Atrule, type CssNode, type Rule } from 'css-tree';
import { SelectorMatcher } from './selectors.js';
import type { XmlElement } from './xml.js';

/** Property names to values; presentation attributes and CSS alike. */
export type Declarations = Readonly<Record<string, string>>;

interface SheetRule {
  readonly matches: (el: XmlElement) => boolean;
  readonly specificity: number;
  /** The place in the sheet: later ones win. */
  readonly order: number;
  readonly declarations: Declarations;
  readonly important: Declarations;
}

/** The properties that an element takes over from its parent (SVG 2 §6.6, CSS Text, CSS Fonts). */
export const INHERITED: ReadonlySet<string> = new Set([
  'color',
  'fill',
  'fill-opacity',
  'fill-rule',
  'font-family',
  'font-size',
  'font-style',
  'font-weight',
  'letter-spacing',
  'stroke',
  'stroke-dasharray',
  'stroke-linecap',
  'stroke-linejoin',
  'stroke-opacity',
  'stroke-width',
  'text-anchor',
  'visibility',
  'xml:space',
  'white-space',
  'line-height',
  'text-align',
  'text-transform',
  'list-style',
  'list-style-type',
  'direction',
]);

const PRESENTATION: ReadonlySet<string> = new Set([
  ...INHERITED,
  'opacity',
  'display',
  'clip-path',
  'mask',
  'filter',
  'stop-color',
  'stop-opacity',
  'flood-color',
  'flood-opacity',
  'mix-blend-mode',
  'marker-start',
  'marker-mid',
  'marker-end',
]);

/** The specificity of a parsed selector (Selectors 4 §17); `:where()` counts nothing, other lists by all they hold. */
function specificityOf(selector: CssNode): number {
  let [ids, classes, types] = [0, 0, 0];
  walk(selector, (node) => {
    if (node.type === 'IdSelector') ids++;
    else if (node.type === 'ClassSelector' || node.type === 'AttributeSelector') classes++;
    else if (node.type === 'PseudoClassSelector' && !['where', 'is', 'not'].includes(node.name)) classes++;
    else if (node.type === 'TypeSelector' && node.name !== '*') types++;
  });
  return ids * 1e6 + Math.min(classes, 999) * 1e3 + Math.min(types, 999);
}

/** What the last compound of a selector asks for, by which its rule is found: an id, a class or a type. */
function keyOf(selector: CssNode): string {
  let key = '*';
  if (selector.type !== 'Selector') return key;
  const parts = selector.children.toArray();
  const last = parts.slice(parts.findLastIndex((p) => p.type === 'Combinator') + 1);
  for (const part of last) {
    if (part.type === 'IdSelector') return `#${part.name}`;
    if (part.type === 'ClassSelector') key = `.${part.name}`;
    else if (part.type === 'TypeSelector' && key === '*' && part.name !== '*') key = part.name.toLowerCase();
  }
  return key;
}

/** The width that media queries are asked about, px: that of the frame when it is known. */
const holdsAt = (query: string, width: number): boolean =>
  query
    .toLowerCase()
    .split(',')
    .some((part) => {
      if (/\b(?:print|speech|not)\b|prefers-|orientation|hover|pointer|resolution|height/.test(part))
        return false;
      return [...part.matchAll(/\(\s*(min|max)-width\s*:\s*([^)]+)\)/g)].every(([, side, value]) => {
        const limit = length(value) ?? Number.NaN;
        return side === 'min' ? width >= limit : width <= limit;
      });
    });

/** What is said when {@link StyleSheet.exhausted}. */
export const TOO_MANY_RULES =
  'The style blocks hold more rules than a screen needs: some were passed over. Leave out those that are not used.';

/** More rules than this are passed over. */
const MAX_RULES = 10_000;

export class StyleSheet {
  readonly #rules = new Map<string, SheetRule[]>();
  readonly #matcher = new SelectorMatcher();
  #count = 0;
  /** Selectors that were passed over, as written. */
  readonly skipped: string[] = [];

  /** Makes the elements of a tree known, so that selectors can look at parents and siblings. */
  index(root: XmlElement): void {
    this.#matcher.add(root);
  }

  /** Adds a `<style>` block. Broken parts are passed over, as CSS says; imports are never followed. */
  add(css: string, frameWidth = 1280): void {
    const ast = parse(css, { parseValue: false, parseCustomProperty: false });
    const outside: Atrule[] = [];
    walk(ast, {
      enter: (node: CssNode) => {
        if (node.type === 'Atrule') {
          const query = node.prelude ? generate(node.prelude) : '';
          const holds = node.name === 'media' ? holdsAt(query, frameWidth) : node.name === 'supports';
          if (!holds) outside.push(node);
        } else if (node.type === 'Rule' && outside.length === 0) this.#addRule(node);
      },
      leave: (node: CssNode) => {
        if (outside.at(-1) === node) outside.pop();
      },
    });
  }

  #addRule(rule: Rule): void {
    const declarations: Record<string, string> = {};
    const important: Record<string, string> = {};
    rule.block.children.forEach((node) => {
      if (node.type !== 'Declaration') return;
      const into = node.important ? important : declarations;
      into[node.property.toLowerCase()] = generate(node.value).trim();
    });
    if (rule.prelude.type !== 'SelectorList') return;
    rule.prelude.children.forEach((selector) => {
      const whole = generate(selector);
      if (/::?(?:after|before)$/.test(whole)) return;
      const matches = this.#count < MAX_RULES ? this.#matcher.compile(whole) : undefined;
      if (!matches) {
        this.skipped.push(whole);
        return;
      }
      const key = keyOf(selector);
      const bucket = this.#rules.get(key) ?? [];
      bucket.push({
        matches,
        specificity: specificityOf(selector),
        order: this.#count++,
        declarations,
        important,
      });
      this.#rules.set(key, bucket);
    });
  }

  /** Whether the sheets ask for more work than any screen needs, so that some rules were passed over. */
  get exhausted(): boolean {
    return this.#matcher.exhausted;
  }

  #matching(element: XmlElement): SheetRule[] {
    if (this.#count === 0 || this.exhausted) return [];
    const id = element.attributes['id'];
    const classes = (element.attributes['class'] ?? '').split(/\s+/).slice(0, 60);
    const keys = ['*', element.name.toLowerCase(), ...classes.map((c) => `.${c}`), ...(id ? [`#${id}`] : [])];
    return keys
      .flatMap((key) => this.#rules.get(key) ?? [])
      .filter((rule) => rule.matches(element))
      .sort((a, b) => a.specificity - b.specificity || a.order - b.order);
  }

  /** The element's own declarations: attributes, then the sheet in cascade order, then the `style` attribute. */
  own(element: XmlElement): Record<string, string> {
    const found: Record<string, string> = {};
    for (const [name, value] of Object.entries(element.attributes))
      if (PRESENTATION.has(name)) found[name] = value.trim();
    const rules = this.#matching(element);
    for (const rule of rules) Object.assign(found, rule.declarations);
    const inline = element.attributes['style'];
    if (inline) Object.assign(found, parseInline(inline));
    for (const rule of rules) Object.assign(found, rule.important);
    return found;
  }
}

/** The declarations of a `style` attribute. */
export function parseInline(css: string): Record<string, string> {
  const found: Record<string, string> = {};
  const ast = parse(css, { context: 'declarationList', parseValue: false });
  walk(ast, {
    visit: 'Declaration',
    enter: (node) => {
      found[node.property.toLowerCase()] = generate(node.value).trim();
    },
  });
  return found;
}

/** What an element shows: its own declarations over what it inherits. */
export function cascade(parent: Declarations, own: Record<string, string>): Declarations {
  const result: Record<string, string> = {};
  for (const name of INHERITED) {
    const value = parent[name];
    if (value !== undefined) result[name] = value;
  }
  for (const [name, value] of Object.entries(own)) {
    const inherited = parent[name];
    if (value === 'inherit') {
      if (inherited !== undefined) result[name] = inherited;
    } else if (value !== 'initial' && value !== 'unset') result[name] = value;
  }
  return result;
}

/** A CSS or SVG length in px; a percentage is taken of `of`; what is no length is undefined. */
export function length(text: string | undefined, of = 0, fontSize = 16): number | undefined {
  const match = /^\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*(px|pt|pc|mm|cm|in|em|rem|ex|q|%)?\s*$/i.exec(
    text ?? '',
  );
  if (!match) return undefined;
  const perUnit: Record<string, number> = {
    pt: 96 / 72,
    pc: 16,
    mm: 96 / 25.4,
    cm: 96 / 2.54,
    in: 96,
    q: 96 / 101.6,
    em: fontSize,
    rem: 16,
    ex: fontSize / 2,
    '%': of / 100,
  };
  const value = Number(match[1]) * (perUnit[(match[2] ?? '').toLowerCase()] ?? 1);
  return Number.isFinite(value) && Math.abs(value) < 1e7 ? value : undefined;
}
