import type { Content, Paint, TextRun } from './paint.js';
import type { RuleChange, Rules } from './rules.js';
import type { Bound, Token } from './tokens.js';

/** `container` holds parts; the others are leaves. */
export type PartKind = 'container' | 'text' | 'picture' | 'shape';

/** Rules that hold instead in frames narrower than `width`; `null` takes one away. */
export interface Override {
  readonly width: number;
  readonly rules: RuleChange;
}

/** A node of the structure. Parts are never changed in place: an edit makes new ones along the path to the root. */
export interface Part {
  readonly id: string;
  readonly name: string;
  readonly kind: PartKind;
  readonly rules: Rules;
  /** Overrides by breakpoint, the widest first: each holds over those before it. */
  readonly below?: readonly Override[];
  /** Rules that hold over all others in frames that are wider than high; `null` takes one away. */
  readonly wide?: RuleChange;
  /** The tokens that stand at some of its places; the rules hold what they were worth when they were bound. */
  readonly bound?: Bound;
  readonly children: readonly Part[];
  /** Ids of the drawing items that this part itself stands for (not those of its children). */
  readonly source: readonly string[];
  readonly paint?: Paint;
  readonly content?: Content;
  /** What the designer was asked about this part and has answered. */
  readonly answered?: readonly string[];
  /** Parts that are made alike share a pattern name; see {@link Structure.patterns}. */
  readonly pattern?: string;
}

/** The structure of one screen. */
export interface Structure {
  readonly version: 1;
  readonly name: string;
  /** The frame that the drawing was made for. */
  readonly drawn: { readonly width: number; readonly height: number };
  /** How far, in px, an item may stand from where it was drawn, because the drawing was off its own grid. */
  readonly snap: number;
  readonly tokens?: readonly Token[];
  readonly root: Part;
}

/** Depth-first, parents before children. It keeps its own stack, so that no depth is too much. */
export function* walk(root: Part): Generator<Part> {
  const waiting = [root];
  for (let part = waiting.pop(); part; part = waiting.pop()) {
    yield part;
    for (let i = part.children.length - 1; i >= 0; i--) waiting.push(part.children[i] as Part);
  }
}

export function findPart(root: Part, id: string): Part | undefined {
  if (root.id === id) return root;
  for (const child of root.children) {
    const found = findPart(child, id);
    if (found) return found;
  }
  return undefined;
}

/** The parts from the root to the part with this id, both included; empty when there is none. */
export function pathTo(root: Part, id: string): readonly Part[] {
  if (root.id === id) return [root];
  for (const child of root.children) {
    const below = pathTo(child, id);
    if (below.length > 0) return [root, ...below];
  }
  return [];
}

/** The tree with one part replaced by what `change` makes of it; the same object when nothing changes. */
export function updatePart(root: Part, id: string, change: (part: Part) => Part): Part {
  if (root.id === id) return change(root);
  for (const [i, child] of root.children.entries()) {
    const next = updatePart(child, id, change);
    if (next !== child) return { ...root, children: root.children.with(i, next) };
  }
  return root;
}

/** The tree with several parts changed, in one walk; the same objects where nothing changes. */
export function updateParts(root: Part, changes: ReadonlyMap<string, (part: Part) => Part>): Part {
  const own = changes.get(root.id);
  const children = root.children.map((child) => updateParts(child, changes));
  const next = children.some((c, i) => c !== root.children[i]) ? { ...root, children } : root;
  return own ? own(next) : next;
}

/** All parts by id. */
export const partsById = (root: Part): ReadonlyMap<string, Part> =>
  new Map([...walk(root)].map((part) => [part.id, part]));

/** The stretches of text of all parts, those of turned lines among them. */
export const textRunsIn = (root: Part): TextRun[] =>
  [...walk(root)].flatMap(({ content }) =>
    content?.kind === 'text' ? content.runs : content?.kind === 'turned' ? content.text.runs : [],
  );
