import { SaxesParser } from 'saxes';
import { DrawingError } from './items.js';

export interface XmlElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly (XmlElement | string)[];
}

/** Deeper files are refused; drawings nest a few dozen levels. */
const MAX_NESTING = 256;
/** More elements are refused; a screen has a few thousand. */
const MAX_ELEMENTS = 80_000;

const local = (name: string): string => name.slice(name.indexOf(':') + 1);

interface Open {
  name: string;
  attributes: Record<string, string>;
  children: (XmlElement | string)[];
}

/**
 * Parses XML to a plain tree, prefixes dropped. Entities are never expanded beyond the five of XML and nothing is
 * fetched. Throws a {@link DrawingError} with line and column for a malformed file.
 */
export function parseXml(source: string): XmlElement {
  const parser = new SaxesParser({ xmlns: false, position: true });
  const stack: Open[] = [{ name: '#document', attributes: {}, children: [] }];
  let elements = 0;
  const stop = (message: string): never => {
    throw new DrawingError(message);
  };
  parser.on('error', (error) => {
    const what = error.message
      .replace(/^.*?:\s*/, '')
      .replace(/\.$/, '')
      .slice(0, 120);
    stop(
      `The file is not well-formed XML at line ${parser.line}, column ${parser.column}: ${what}. Export it again.`,
    );
  });
  parser.on('doctype', (doctype) => {
    if (/<!ENTITY/i.test(doctype))
      stop('The file declares XML entities, which are not read. Export it without a DOCTYPE.');
  });
  parser.on('opentag', (tag) => {
    if (stack.length > MAX_NESTING)
      stop(`The file nests deeper than ${MAX_NESTING} levels. Flatten its groups.`);
    if (++elements > MAX_ELEMENTS)
      stop(`The file has more than ${MAX_ELEMENTS} elements. Split it into one file for each screen.`);
    const attributes = Object.fromEntries(
      Object.entries(tag.attributes).map(([name, value]) => [local(name), value]),
    );
    stack.push({ name: local(tag.name), attributes, children: [] });
  });
  parser.on('closetag', () => {
    const done = stack.pop();
    if (done) stack.at(-1)?.children.push(done);
  });
  const addText = (text: string) => stack.at(-1)?.children.push(text);
  parser.on('text', addText);
  parser.on('cdata', addText);
  parser.write(source).close();
  const root = stack[0]?.children.find((c) => typeof c !== 'string');
  if (!root || typeof root === 'string') return stop('The file holds no element. Export the drawing again.');
  return root;
}

/** All text below an element, in order. */
export function textOf(element: XmlElement): string {
  return element.children.map((c) => (typeof c === 'string' ? c : textOf(c))).join('');
}

/** The child elements, texts left out. */
export const elementsOf = (el: XmlElement): XmlElement[] => el.children.filter((c) => typeof c !== 'string');

const ENTITIES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => ENTITIES[c] ?? c);

/** An element as XML source. */
export function serializeXml(el: XmlElement): string {
  const attributes = Object.entries(el.attributes).map(([name, value]) => ` ${name}="${escaped(value)}"`);
  const inner = el.children.map((c) => (typeof c === 'string' ? escaped(c) : serializeXml(c))).join('');
  return `<${el.name}${attributes.join('')}>${inner}</${el.name}>`;
}
