import type { Item } from '../drawing/index.js';
import { type Rect } from '../model/index.js';
import type { TableCell } from './tables.js';

/** A thing that the reader has found: a leaf item, a painted box with what it holds, or a group without paint. */
export interface Node {
  readonly box: Rect;
  /** The box that decides whether white space runs clear past it: a text's letters rather than its lines. */
  readonly core: Rect;
  /** The part of another drawing's reading that it stands for. */
  readonly of?: string;
  /** The item that paints it; a group has none. */
  readonly item?: Item;
  readonly flow?: 'column' | 'row' | 'wrap' | 'grid' | 'free';
  /** In flow, in visual order. */
  readonly children: readonly Node[];
  /** Out of flow, in paint order. */
  readonly pins: readonly Node[];
  /** Equal for things that are made alike. */
  readonly signature: string;
  /** The paint order of its first item. */
  readonly order: number;
  /** Whether its box is the room that a marked thing beside it shows: what it holds keeps distances from its sides. */
  readonly isPadded?: boolean;
  /** Of a row of a table: the columns that its children stand in. */
  readonly cells?: readonly TableCell[];
  /** And the gap between these, px. */
  readonly cellGap?: number;
  /** Of a grid whose children span tracks of one size: how many columns, the gaps, and where each child stands. */
  readonly tracks?: {
    readonly columns: number;
    readonly gap: number;
    readonly crossGap: number;
    readonly spans: readonly Spans[];
  };
}

/** A child's tracks in its grid, counted from 0. */
export interface Spans {
  readonly column: number;
  readonly row: number;
  readonly columns: number;
  readonly rows: number;
}

/** What the reader goes by besides cutting at white space; each can be left out to see what it earns. */
export const PRINCIPLES = [
  'similarity',
  'patterns',
  'shortest description',
  'limits',
  'narrow frames',
  'phones',
  'judge',
] as const;
export type Principle = (typeof PRINCIPLES)[number];

/** Another drawing of the screen that is read. */
export interface Elsewhere {
  /** Whether nodes that stand apart in the drawing at hand are mixed with each other there: nothing keeps them apart. */
  areMixed(nodes: readonly Node[]): boolean;
}

/** What a reading goes by. */
export interface Tolerance {
  /** How far apart two lengths may be and still count as meant to be the same, px. */
  readonly same: number;
  /** The other drawings of the screen: what belongs together here does there, too. */
  readonly elsewhere?: readonly Elsewhere[];
  /** What is left out. */
  readonly without?: ReadonlySet<Principle>;
}

export const near = (a: number, b: number, by: number): boolean => Math.abs(a - b) <= by;

export const isLeaf = (node: Node): boolean => node.children.length === 0 && node.pins.length === 0;
export const isText = (node: Node): boolean => node.item?.kind === 'text' && isLeaf(node);
/** A painted box, picture or group that holds others. */
export const isHolder = (node: Node): boolean => !isLeaf(node);

export const lineCount = (node: Node): number => (node.item?.kind === 'text' ? node.item.lines.length : 0);

/** A thin bar: a separator, an underline or the edge of a bar. */
export const isRule = (node: Node): boolean =>
  isLeaf(node) && node.item?.kind === 'shape' && Math.min(node.box.width, node.box.height) <= RULE_THICKNESS;

const RULE_THICKNESS = 2.5;

/** All leaves and painted boxes below and including a node. */
export function* itemsBelow(node: Node): Generator<Item> {
  if (node.item) yield node.item;
  for (const child of node.children) yield* itemsBelow(child);
  for (const pin of node.pins) yield* itemsBelow(pin);
}

/** Whether a text of several lines lies in the node, in flow. */
export const hasParagraph = (node: Node): boolean => lineCount(node) > 1 || node.children.some(hasParagraph);
