import type { Element } from './elements.js';
import { camel, fresh, pascal } from './names.js';

/** Something in which the copies of a pattern differ: words, or what an attribute says. */
export interface Slot {
  readonly name: string;
  /** The way to the element in the component, by the number of each child. */
  readonly path: readonly number[];
  /** The attribute, or, where none is said, the words at this place among the element's children. */
  readonly at: string | number;
}

/** A pattern as something that is written once and used for each of its copies. */
export interface Component {
  /** Its name as a function or a class has it. */
  readonly name: string;
  readonly pattern: string;
  /** The first copy. */
  readonly element: Element;
  readonly slots: readonly Slot[];
}

/** The page with its patterns taken out: which component stands for an element, and what its slots hold there. */
export interface Componented {
  readonly components: readonly Component[];
  readonly uses: ReadonlyMap<Element, { readonly component: Component; readonly values: readonly string[] }>;
}

/** An element’s shape, whatever its words and attributes say. */
const shapeOf = (e: Element): string =>
  `${e.tag}(${e.attributes.map(([n]) => n).join()})[${e.children.map((c) => (typeof c === 'string' ? 't' : shapeOf(c))).join()}]`;

function* elements(
  root: Element,
  path: readonly number[] = [],
): Generator<{ e: Element; path: readonly number[] }> {
  yield { e: root, path };
  for (const [i, child] of root.children.entries())
    if (typeof child !== 'string') yield* elements(child, [...path, i]);
}

const elementAt = (root: Element, path: readonly number[]): Element =>
  path.reduce((e, i) => e.children[i] as Element, root);

/** What a slot holds in a copy. */
export function valueOf(copy: Element, { path, at }: Slot): string {
  const e = elementAt(copy, path);
  return typeof at === 'number' ? String(e.children[at]) : (e.attributes.find(([n]) => n === at)?.[1] ?? '');
}

/** What a slot is called after: words by how they stand out, attributes by what they say. */
const ATTRIBUTE_SLOTS: Readonly<Record<string, string>> = {
  src: 'picture',
  alt: 'alt',
  'aria-label': 'label',
  class: 'look',
};

function slotsOf(copies: readonly Element[]): Slot[] {
  const [first] = copies;
  if (!first) return [];
  const taken = new Set<string>();
  const slots: Slot[] = [];
  const largest = Math.max(
    0,
    ...[...elements(first)].map(({ e }) =>
      e.part?.content?.kind === 'text' ? (e.part.content.runs[0]?.style.size ?? 0) : 0,
    ),
  );
  for (const { e, path } of elements(first)) {
    const add = (at: string | number, base: string) => {
      const slot = { name: base, path, at };
      const [one, ...others] = copies.map((c) => valueOf(c, slot));
      if (others.some((v) => v !== one)) slots.push({ ...slot, name: fresh(base, taken, '') });
    };
    for (const [name] of e.attributes) add(name, ATTRIBUTE_SLOTS[name] ?? camel(name));
    e.children.forEach((child, i) => {
      if (typeof child !== 'string') return;
      const size = e.part?.content?.kind === 'text' ? e.part.content.runs[0]?.style.size : undefined;
      add(i, size === largest ? 'heading' : 'text');
    });
  }
  return slots;
}

/**
 * The patterns of a page as components, each with the slots in which its copies differ and no others. Copies within a copy belong
 * to it; one that is built otherwise than the first stays as it is.
 */
export function componentsOf(root: Element): Componented {
  const copies = new Map<string, Element[]>();
  const visit = (e: Element): void => {
    const pattern = e.part?.pattern;
    if (pattern !== undefined) {
      copies.set(pattern, [...(copies.get(pattern) ?? []), e]);
      return;
    }
    for (const child of e.children) if (typeof child !== 'string') visit(child);
  };
  visit(root);
  const taken = new Set<string>();
  const components: Component[] = [];
  const uses = new Map<Element, { component: Component; values: readonly string[] }>();
  for (const [pattern, all] of copies) {
    const [first] = all;
    const alike = first ? all.filter((e) => shapeOf(e) === shapeOf(first)) : [];
    if (!first || alike.length < 2) continue;
    const slots = slotsOf(alike);
    const component = { name: fresh(pascal(pattern), taken, ''), pattern, element: first, slots };
    components.push(component);
    for (const e of alike) uses.set(e, { component, values: slots.map((s) => valueOf(e, s)) });
  }
  return { components, uses };
}

/** The slot at a place of a component, where there is one. */
export const slotAt = (
  { slots }: Component,
  path: readonly number[],
  at: string | number,
): Slot | undefined =>
  slots.find((s) => s.at === at && s.path.length === path.length && s.path.every((n, i) => n === path[i]));
