import type { Drawing } from '../drawing/index.js';
import {
  FIT,
  fixed,
  plainText,
  right,
  round,
  updatePart,
  walk,
  type Part,
  type Rect,
  type Structure,
} from '../model/index.js';
import { Engine, itemBoxes, reflow } from '../layout/index.js';
import type { TextMeasurer } from '../text/index.js';
import { Builder } from './build.js';
import { containment } from './contain.js';
import type { Node, Tolerance } from './node.js';
import { markPatterns } from './patterns.js';
import { snapItems } from './snap.js';
import { TreeBuilder } from './tree.js';

/** How far reading has come; `done` runs from 0 to 1. */
export interface Progress {
  readonly stage: 'containing' | 'grouping' | 'sizing' | 'checking';
  readonly done: number;
}

export interface ReadOptions {
  /** Called between stages; throwing from it cancels the reading. */
  readonly onProgress?: (progress: Progress) => void;
}

/** The largest deviation, px, that may be reported as a snap; beyond it the place is pinned as drawn. */
export const MAX_SNAP = 1.5;
/** What a drawing on its grid may be off by, px. */
export const EXACT = 0.5;

/** What counts as equal; drawings off their grid are snapped to it first. */
const TOLERANCE: Tolerance = { same: 1.1 };

/**
 * Reads a drawing into the structure that it most likely stands for. Deterministic: the same drawing gives the same
 * structure. At the drawn width every item stands within {@link EXACT} px of where it was drawn, or within the
 * structure's `snap`.
 */
export function readStructure(
  drawing: Drawing,
  measurer: TextMeasurer,
  options: ReadOptions = {},
): Structure {
  const tell = (stage: Progress['stage'], done: number) => options.onProgress?.({ stage, done });
  tell('containing', 0);
  const held = containment(snapItems(drawing.items));
  tell('grouping', 0.25);
  const frame = { x: 0, y: 0, width: drawing.width, height: drawing.height };
  const content = new TreeBuilder(TOLERANCE).content(held, frame, false);
  tell('sizing', 0.5);
  const node: Node = {
    box: frame,
    core: frame,
    children: content.children,
    pins: content.pins,
    signature: '',
    order: -1,
    ...(content.flow && { flow: content.flow }),
  };
  const builder = new Builder(TOLERANCE, measurer);
  const draft = builder.root(drawing, node);
  tell('checking', 0.75);
  const settled = settle(draft, builder.targets, drawing, builder.engine);
  const root = markPatterns(fitWords(settled, drawing, builder.engine));
  tell('checking', 1);
  const base: Structure = {
    version: 1,
    name: drawing.name,
    drawn: { width: drawing.width, height: drawing.height },
    snap: 0,
    root,
  };
  const off = deviations(base, drawing, builder.engine).reduce((max, d) => Math.max(max, d.by), 0);
  return { ...base, snap: off > EXACT ? round(off + 0.005, 2) : 0 };
}

/** How far each item stands from where it was drawn, largest edge distance in px, at the drawn width. */
export function deviations(
  structure: Structure,
  drawing: Drawing,
  engine: Engine,
): { item: string; by: number }[] {
  const placed = itemBoxes(structure, reflow(structure.root, structure.drawn.width, engine));
  return drawing.items.map((item) => {
    const box = placed.get(item.id);
    return { item: item.id, by: box ? distance(box, item.box) : Infinity };
  });
}

/** A fixed text is this much wider than its words, so that rounding does not break them, px. */
const WORD_ROOM = 0.3;
/** Letters may be set this much closer to keep the drawn line breaks, px a letter: no eye sees it. */
const CLOSER = 0.08;

/**
 * Rounding and snapping may leave a paragraph a hair less room than its widest line takes, so that it would break
 * otherwise than drawn: its letters are set closer by as much.
 */
function fitWords(root: Part, drawing: Drawing, engine: Engine): Part {
  const { lines, parts } = reflow(root, drawing.width, engine);
  const items = new Map(drawing.items.map((i) => [i.id, i]));
  const fit = (part: Part): Part => {
    const children = part.children.map(fit);
    const next = children.every((c, i) => c === part.children[i]) ? part : { ...part, children };
    const item = items.get(part.source[0] ?? '');
    const { content } = part;
    const laid = lines.get(part.id);
    if (content?.kind !== 'text' || item?.kind !== 'text' || !laid) return next;
    const widest = item.lines.reduce((w, l) => (l.width > w.width ? l : w));
    const asDrawn =
      laid.length === item.lines.length && Math.abs(Math.max(...laid.map((l) => l.width)) - widest.width) < 1;
    if (asDrawn) return next;
    const room = parts.get(part.id)?.width ?? 0;
    const letters = Math.max(1, (plainText(content).length / item.lines.length) * 0.8);
    const closer = (widest.width - room + 0.1) / letters;
    if (closer <= 0 || closer > CLOSER) return next;
    const runs = content.runs.map((r) => ({
      ...r,
      style: { ...r.style, letterSpacing: round(r.style.letterSpacing - closer, 3) },
    }));
    return { ...next, content: { ...content, runs } };
  };
  return fit(root);
}

const distance = (a: Rect, b: Rect): number =>
  Math.max(
    Math.abs(a.x - b.x),
    Math.abs(a.y - b.y),
    Math.abs(a.x + a.width - b.x - b.width),
    Math.abs(a.y + a.height - b.y - b.height),
  );

/**
 * Makes the tree stand where it was drawn: while an item is off by more than may be called a snap, the innermost
 * container that misplaces a child is pinned as drawn.
 */
function settle(draft: Part, targets: ReadonlyMap<string, Rect>, drawing: Drawing, engine: Engine): Part {
  let root = draft;
  const width = drawing.width;
  for (let guard = 0; guard < 400; guard++) {
    const placed = reflow(root, width, engine).parts;
    const wrong = firstMisplaced(root, placed, targets);
    if (!wrong) return root;
    root = updatePart(root, wrong.id, (part) => pinnedAsDrawn(part, targets));
  }
  return root;
}

function firstMisplaced(
  root: Part,
  placed: ReadonlyMap<string, Rect>,
  targets: ReadonlyMap<string, Rect>,
): Part | undefined {
  let found: Part | undefined;
  for (const part of walk(root)) {
    const [own, meant] = [placed.get(part.id), targets.get(part.id)];
    if (!own || !meant || part.kind !== 'container' || part.rules.flow === 'free') continue;
    const wrong = part.children.some((child) => {
      const [box, target] = [placed.get(child.id), targets.get(child.id)];
      if (!box || !target) return true;
      const moved = Math.max(
        Math.abs(box.x - own.x + meant.x - target.x),
        Math.abs(box.y - own.y + meant.y - target.y),
      );
      const resized = Math.max(Math.abs(box.width - target.width), Math.abs(box.height - target.height));
      return moved > MAX_SNAP || resized > MAX_SNAP * 2;
    });
    if (wrong) found = part;
  }
  return found;
}

/** A container whose flow cannot reproduce the drawing: its children hang where they were drawn. */
function pinnedAsDrawn(part: Part, targets: ReadonlyMap<string, Rect>): Part {
  const own = targets.get(part.id);
  if (!own) return part;
  const {
    flow: _flow,
    gap: _gap,
    crossGap: _cross,
    padding: _pad,
    align: _align,
    justify: _just,
    columns: _cols,
    ...kept
  } = part.rules;
  const children = part.children.map((child) => {
    const box = targets.get(child.id) ?? own;
    const { alignSelf: _a, gapBefore: _g, minWidth: _mn, maxWidth: _mx, ...rules } = child.rules;
    const across =
      rules.width?.kind === 'fill'
        ? { left: box.x - own.x, right: right(own) - right(box) }
        : { left: box.x - own.x };
    return {
      ...child,
      rules: {
        ...rules,
        pin: { ...across, top: box.y - own.y },
        width:
          rules.width?.kind === 'fill'
            ? rules.width
            : child.kind === 'text' && right(box) <= right(own)
              ? FIT
              : fixed(box.width + (child.kind === 'text' ? WORD_ROOM : 0)),
        height: child.kind === 'text' ? FIT : fixed(box.height),
      },
    };
  });
  return {
    ...part,
    rules: {
      ...kept,
      ...(kept.width?.kind === 'fit' && { width: fixed(own.width) }),
      flow: 'free',
      height: kept.height?.kind === 'fill' ? kept.height : fixed(own.height),
    },
    children,
  };
}
