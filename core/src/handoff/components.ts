import { wordSize } from '../model/index.js';
import type { Element } from './elements.js';
import { camel, fresh, pascal } from './names.js';

/** Where copies of a pattern differ: in an attribute, in the words at a place among an element's children, or in its being there. */
export type SlotPlace =
  | { readonly kind: 'attribute'; readonly name: string }
  | { readonly kind: 'words'; readonly at: number }
  | { readonly kind: 'shown' };

/** Something in which the copies of a pattern differ. */
export interface Slot {
  readonly name: string;
  /** The way to the element in the component, by the number of each child. */
  readonly path: readonly number[];
  readonly place: SlotPlace;
}

/** A pattern as something that is written once and used for each of its copies. */
export interface Component {
  /** Its name as a function or a class has it. */
  readonly name: string;
  readonly pattern: string;
  /** The first of the copies that show most. */
  readonly element: Element;
  readonly slots: readonly Slot[];
}

/** What a slot holds in a copy: words, or whether the element is there. */
export type Value = string | boolean;

/** The page with its patterns taken out: which component stands for an element, and what its slots hold there. */
export interface Componented {
  readonly components: readonly Component[];
  readonly uses: ReadonlyMap<Element, { readonly component: Component; readonly values: readonly Value[] }>;
}

const keyOf = (path: readonly number[]): string => path.join('/');

/** The elements of a copy by their place in the one that shows most; those that it leaves out are missing. */
type Fit = ReadonlyMap<string, Element>;

/** How a copy fits the one that shows most; undefined where it is built otherwise. */
function fitOf(whole: Element, copy: Element): Fit | undefined {
  const found = new Map<string, Element>();
  const fits = (a: Element, b: Element, path: readonly number[]): boolean => {
    if (a.tag !== b.tag || a.attributes.map(([n]) => n).join() !== b.attributes.map(([n]) => n).join())
      return false;
    let next = 0;
    for (const [i, child] of a.children.entries()) {
      const other = b.children[next];
      if (typeof child === 'string') {
        if (typeof other !== 'string') return false;
        next++;
      } else if (other !== undefined && typeof other !== 'string' && fits(child, other, [...path, i])) next++;
      else if (child.part === undefined) return false;
    }
    if (next < b.children.length) return false;
    found.set(keyOf(path), b);
    return true;
  };
  return fits(whole, copy, []) ? found : undefined;
}

function* elements(
  root: Element,
  path: readonly number[] = [],
): Generator<{ e: Element; path: readonly number[] }> {
  yield { e: root, path };
  for (const [i, child] of root.children.entries())
    if (typeof child !== 'string') yield* elements(child, [...path, i]);
}

/** What a slot holds in a copy; undefined where what it is in is not there. */
function valueOf(copy: Fit, { path, place }: Pick<Slot, 'path' | 'place'>): Value | undefined {
  const e = copy.get(keyOf(path));
  // What is in something that is left out is not left out by itself.
  if (place.kind === 'shown') return copy.has(keyOf(path.slice(0, -1))) ? e !== undefined : undefined;
  if (!e) return undefined;
  if (place.kind === 'attribute') return e.attributes.find(([n]) => n === place.name)?.[1] ?? '';
  // Words keep their number: what a copy leaves out is never beside words.
  const words = e.children[place.at];
  return typeof words === 'string' ? words : '';
}

/** What a slot is called after: attributes by what they say. */
const ATTRIBUTE_SLOTS: Readonly<Record<string, string>> = {
  src: 'picture',
  alt: 'alt',
  'aria-label': 'label',
  class: 'look',
};

const sizeOf = (e: Element): number => wordSize(e.part?.content) ?? 0;

function slotsOf(whole: Element, copies: readonly Fit[]): Slot[] {
  const taken = new Set<string>();
  const slots: Slot[] = [];
  const all = [...elements(whole)];
  const largest = Math.max(0, ...all.map(({ e }) => sizeOf(e)));
  for (const { e, path } of all) {
    const add = (place: SlotPlace, base: string) => {
      const values = copies.map((c) => valueOf(c, { path, place })).filter((v) => v !== undefined);
      if (values.some((v) => v !== values[0])) slots.push({ name: fresh(base, taken, ''), path, place });
    };
    if (e.part) add({ kind: 'shown' }, `with${pascal(e.part.name)}`);
    for (const [name] of e.attributes) add({ kind: 'attribute', name }, ATTRIBUTE_SLOTS[name] ?? camel(name));
    e.children.forEach((child, at) => {
      if (typeof child === 'string') add({ kind: 'words', at }, sizeOf(e) === largest ? 'heading' : 'text');
    });
  }
  return slots;
}

const countOf = (e: Element): number => [...elements(e)].length;

/**
 * The patterns of a page as components, each with the slots in which its copies differ and no others. Copies within a copy belong
 * to it; one that is built otherwise than the others stays as it is.
 */
export function componentsOf(root: Element): Componented {
  const copies = new Map<string, Element[]>();
  const visit = (e: Element): void => {
    const pattern = e.part?.pattern;
    if (pattern !== undefined) copies.set(pattern, [...(copies.get(pattern) ?? []), e]);
    else for (const child of e.children) if (typeof child !== 'string') visit(child);
  };
  visit(root);
  const taken = new Set<string>();
  const components: Component[] = [];
  const uses = new Map<Element, { component: Component; values: readonly Value[] }>();
  for (const [pattern, all] of copies) {
    const element = all.reduce((most, e) => (countOf(e) > countOf(most) ? e : most), all[0] as Element);
    const alike = all.flatMap((e) => {
      const fit = fitOf(element, e);
      return fit ? [{ e, fit }] : [];
    });
    if (alike.length < 2) continue;
    const slots = slotsOf(
      element,
      alike.map((a) => a.fit),
    );
    const component = { name: fresh(pascal(pattern), taken, ''), pattern, element, slots };
    components.push(component);
    for (const { e, fit } of alike)
      uses.set(e, { component, values: slots.map((s) => valueOf(fit, s) ?? '') });
  }
  return { components, uses };
}

/** The slot at a place of a component, where there is one. */
export const slotAt = (
  { slots }: Component,
  path: readonly number[],
  is: (place: SlotPlace) => boolean,
): Slot | undefined => slots.find((s) => is(s.place) && keyOf(s.path) === keyOf(path));
