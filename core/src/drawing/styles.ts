import { generate, parse, walk, type Rule, type SelectorList } from 'css-tree';
import type { XmlElement } from './xml.js';

/** Property names to values; presentation attributes and CSS alike. */
export type Declarations = Readonly<Record<string, string>>;

/** A selector of the kinds that exporters write: a type, classes and an id on one element. */
interface SimpleRule {
  readonly type?: string;
  readonly classes: readonly string[];
  readonly id?: string;
  readonly specificity: number;
  readonly declarations: Declarations;
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
]);

/** The parts of selectors that are understood. */
const SIMPLE: ReadonlySet<string> = new Set(['TypeSelector', 'ClassSelector', 'IdSelector']);

export class StyleSheet {
  readonly #rules: SimpleRule[] = [];
  /** Selectors that were passed over, as written. */
  readonly skipped: string[] = [];

  /** Adds a `<style>` block. Broken parts are passed over, as CSS says; imports are never followed. */
  add(css: string): void {
    const ast = parse(css, { parseValue: false, parseCustomProperty: false });
    walk(ast, {
      visit: 'Rule',
      enter: (rule: Rule) => {
        this.#addRule(rule);
      },
    });
  }

  #addRule(rule: Rule): void {
    const declarations: Record<string, string> = {};
    rule.block.children.forEach((node) => {
      if (node.type === 'Declaration')
        declarations[node.property.toLowerCase()] = generate(node.value).trim();
    });
    if (rule.prelude.type !== 'SelectorList') return;
    (rule.prelude satisfies SelectorList).children.forEach((selector) => {
      if (selector.type !== 'Selector') return;
      const parts = selector.children.toArray();
      if (!parts.every((part) => SIMPLE.has(part.type))) {
        this.skipped.push(generate(selector));
        return;
      }
      const named = (kind: string) =>
        parts.flatMap((p) => (p.type === kind && 'name' in p && typeof p.name === 'string' ? [p.name] : []));
      const [type] = named('TypeSelector').filter((name) => name !== '*');
      const [id] = named('IdSelector');
      const classes = named('ClassSelector');
      const specificity = (id ? 10_000 : 0) + classes.length * 100 + (type ? 1 : 0);
      this.#rules.push({ ...(type && { type }), ...(id && { id }), classes, specificity, declarations });
    });
    this.#rules.sort((a, b) => a.specificity - b.specificity);
  }

  /** The element's own declarations: attributes, then the sheet in cascade order, then the `style` attribute. */
  own(element: XmlElement): Record<string, string> {
    const found: Record<string, string> = {};
    for (const [name, value] of Object.entries(element.attributes))
      if (PRESENTATION.has(name)) found[name] = value.trim();
    const classes = new Set((element.attributes['class'] ?? '').split(/\s+/));
    for (const rule of this.#rules) {
      if (rule.type && rule.type !== element.name) continue;
      if (rule.id && rule.id !== element.attributes['id']) continue;
      if (rule.classes.every((c) => classes.has(c))) Object.assign(found, rule.declarations);
    }
    const inline = element.attributes['style'];
    if (inline) Object.assign(found, parseInline(inline));
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
    } else result[name] = value.replace(/\s*!important$/, '');
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
