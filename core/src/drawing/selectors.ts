import { compile, type Options } from 'css-select';
import type { XmlElement } from './xml.js';

type Node = XmlElement | string;

const isElement = (node: Node): node is XmlElement => typeof node !== 'string';

/** Pseudo-classes that hold only while somebody points at or types into something, and such as need a look around. */
const NOT_IN_A_DRAWING =
  /::|:(?:hover|focus|active|visited|target|focus-within|focus-visible|disabled|enabled|invalid|valid|has|before|after|first-line|first-letter|placeholder|selection)/i;

/** Longer selectors are passed over. */
const LONGEST = 400;
/** So many looks at elements are enough for any screen; a sheet that asks for more is there to keep a program busy. */
const MOST_WORK = 1_000_000;

/** Matches selectors against the elements of one tree, whose parents it keeps. */
export class SelectorMatcher {
  readonly #parents = new WeakMap<XmlElement, XmlElement>();
  #work = 0;

  /** Whether matching took so much that no more is done. */
  get exhausted(): boolean {
    return this.#work > MOST_WORK;
  }

  /** Makes the elements below `root` known. */
  add(root: XmlElement): void {
    for (const child of root.children)
      if (isElement(child)) {
        this.#parents.set(child, root);
        this.add(child);
      }
  }

  /** A test for a selector (Selectors 4); undefined for one that is not understood or can never hold in a drawing. */
  compile(selector: string): ((el: XmlElement) => boolean) | undefined {
    if (selector.length > LONGEST || NOT_IN_A_DRAWING.test(selector)) return undefined;
    const children = (node: Node): Node[] => {
      const found = isElement(node) ? node.children : [];
      this.#work += found.length;
      // The library only reads the list.
      return found as Node[];
    };
    const parent = (node: Node): XmlElement | null =>
      isElement(node) ? (this.#parents.get(node) ?? null) : null;
    const options: Options<Node, XmlElement> = {
      adapter: {
        isTag: isElement,
        getName: (el) => el.name,
        getAttributeValue: (el, name) => el.attributes[name],
        hasAttrib: (el, name) => el.attributes[name] !== undefined,
        getChildren: children,
        getParent: parent,
        getSiblings: (node) => {
          const above = parent(node);
          return above ? children(above) : [node];
        },
        getText: (node) => (isElement(node) ? '' : node),
        removeSubsets: (nodes) => nodes,
      },
      cacheResults: false,
    };
    try {
      const matches = compile<Node, XmlElement>(selector, options);
      return (el) => {
        this.#work++;
        return !this.exhausted && matches(el);
      };
    } catch {
      return undefined;
    }
  }
}
