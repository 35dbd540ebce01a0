import { standing, type Part, type Rect, type Structure, type TextContent } from '../model/index.js';
import { linesHeight, type Line } from '../text/index.js';
import type { Box } from './box.js';
import { Engine } from './engine.js';

/** A structure laid out at one frame width. Boxes are px from the frame's top left corner. */
export interface Reflow {
  readonly width: number;
  readonly height: number;
  /** The box of every part that is shown, by part id, parents first and in the order in which they are painted. */
  readonly parts: ReadonlyMap<string, Rect>;
  /** The lines of every text part, by part id. */
  readonly lines: ReadonlyMap<string, readonly Line[]>;
}

/** Where everything in a frame's box stands: an engine gives the same box for what did not change. */
const known = new WeakMap<Box, Reflow>();

/**
 * Lays a tree out that stands as it is at a frame width (see {@link standing}). One engine used again is faster: it
 * keeps what did not change.
 */
export function reflow(root: Part, width: number, engine: Engine, height?: number): Reflow {
  const box = engine.frame(root, width, height);
  const before = known.get(box);
  if (before?.width === width) return before;
  const parts = new Map<string, Rect>();
  const lines = new Map<string, readonly Line[]>();
  const add = (b: Box, x: number, y: number): void => {
    parts.set(b.part.id, { x, y, width: b.width, height: b.height });
    if (b.lines) lines.set(b.part.id, b.lines);
    for (const child of b.children) add(child.box, x + child.x, y + child.y);
  };
  add(box, 0, 0);
  const result = { width, height: box.height, parts, lines };
  known.set(box, result);
  return result;
}

/** The box around the words of a text part: its widest line, its lines' heights. */
export function textBox(content: TextContent, lines: readonly Line[], part: Rect, direction = 'ltr'): Rect {
  const width = Math.max(0, ...lines.map((l) => l.width));
  const free = part.width - width;
  const atEnd = direction === 'rtl' ? content.align === 'start' : content.align === 'end';
  const shift = content.align === 'centre' ? free / 2 : atEnd ? free : 0;
  return { x: part.x + shift, y: part.y, width, height: linesHeight(lines.length, content) };
}

/** Where each drawing item stands after a reflow; hidden ones are left out. */
export function itemBoxes(root: Part, result: Reflow): Map<string, Rect> {
  const boxes = new Map<string, Rect>();
  const visit = (part: Part): void => {
    const box = result.parts.get(part.id);
    if (!box) return;
    const lines = result.lines.get(part.id);
    const own =
      part.content?.kind === 'text' && lines ? textBox(part.content, lines, box, part.rules.direction) : box;
    for (const id of part.source) boxes.set(id, own);
    part.children.forEach(visit);
  };
  visit(root);
  return boxes;
}

/** Where each drawing item stands in a frame of a width; hidden ones are left out. */
export function standingBoxes(structure: Structure, width: number, engine: Engine): Map<string, Rect> {
  const root = standing(structure, { width });
  return itemBoxes(root, reflow(root, width, engine));
}

export type { Box };
