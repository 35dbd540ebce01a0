import { defaultTreeAdapter as tree, parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { DrawingError } from '../items.js';
import type { XmlElement } from '../xml.js';

const MAX_NESTING = 256;
const MAX_ELEMENTS = 20_000;

interface Open {
  readonly name: string;
  readonly attributes: Record<string, string>;
  readonly children: (XmlElement | string)[];
}

/**
 * Parses HTML as browsers do (WHATWG HTML §13.2) to a plain tree below its `html` element; nothing is run or fetched.
 * Throws a {@link DrawingError} for a file that nests too deep or has too many elements.
 */
export function parseHtml(source: string): XmlElement {
  const document = parse(source);
  const root = document.childNodes.find(
    (n): n is Tree.Element => tree.isElementNode(n) && n.tagName === 'html',
  );
  if (!root) throw new DrawingError('The file holds no page. Export the drawing again.');
  let elements = 0;
  const convert = (el: Tree.Element, depth: number): XmlElement => {
    if (depth > MAX_NESTING)
      throw new DrawingError(`The file nests deeper than ${MAX_NESTING} levels. Flatten its elements.`);
    if (++elements > MAX_ELEMENTS)
      throw new DrawingError(
        `The file has more than ${MAX_ELEMENTS} elements. Split it into one file for each screen.`,
      );
    const open: Open = {
      name: el.tagName,
      attributes: Object.fromEntries(el.attrs.map((a) => [a.name, a.value])),
      children: [],
    };
    for (const child of el.childNodes)
      if (tree.isElementNode(child)) open.children.push(convert(child, depth + 1));
      else if (tree.isTextNode(child)) open.children.push(child.value);
    return open;
  };
  return convert(root, 0);
}
