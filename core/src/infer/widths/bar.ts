import type { Drawing } from '../../drawing/index.js';
import { inFlow } from '../../layout/index.js';
import {
  FILL,
  fixed,
  right,
  ruleOf,
  textRunsIn,
  updatePart,
  walk,
  withOverride,
  type Part,
  type Rect,
} from '../../model/index.js';
import type { Boxes } from '../standingPart.js';
import priors from './phones.json' with { type: 'json' };

/** What is no higher is a line of things, px: the bars that were counted were looked for in the same way. */
const HIGHEST = 120;
/** The frame of a small phone, px. */
const PHONE = 360;
/** What stands between two things of a bar at least, px. */
const APART = 16;
/** A menu button, as large as an icon, px. */
const BUTTON = { side: 24, line: 2, gap: 5 };

/**
 * The row in which a bar across the top of the screen holds its things: it reaches its sides, or is the first thing between the
 * margins of a screen without one. Undefined for a screen that has no such bar.
 */
function topBar(root: Part, boxes: Boxes, frame: number): Part | undefined {
  const spansTop = (part: Part): boolean => {
    const box = boxes.get(part.id);
    return box !== undefined && box.y <= 1 && box.x <= 1 && right(box) >= frame - 1 && box.height > 0;
  };
  const rowIn = (part: Part): Part | undefined =>
    [...walk(part)].find((p) => ruleOf(p.rules, 'flow') === 'row' && inFlow(p).length > 1);
  let bar = root.children.find(spansTop);
  while (bar && (boxes.get(bar.id)?.height ?? 0) > HIGHEST) bar = bar.children.find(spansTop);
  if (root.children.length < 2 && bar === root.children[0]) return undefined;
  if (bar) return rowIn(bar);
  const [first, ...below] = inFlow(root);
  const row = first && below.length > 0 && ruleOf(root.rules, 'flow') === 'column' ? rowIn(first) : undefined;
  return row && hasMarkAndLinks(row) ? row : undefined;
}

/** So many words beside a name with a mark are links; fewer may be what a page offers beside its title. */
const LINKS = 3;

function hasMarkAndLinks(row: Part): boolean {
  const { stays, givesWay } = partsOf(row);
  const isMarked = stays.flatMap(leavesOf).some((p) => p.kind !== 'text');
  return isMarked && givesWay.reduce((sum, p) => sum + wordsIn(p), 0) >= LINKS;
}

const leavesOf = (part: Part): Part[] => [...walk(part)].filter((p) => p.children.length === 0);
const wordsIn = (part: Part): number => leavesOf(part).filter((p) => p.kind === 'text').length;

/** What of a bar always stays: its first words, with the mark before them; and what gives way, by ids. */
interface Bar {
  readonly stays: readonly Part[];
  readonly givesWay: readonly Part[];
}

function partsOf(row: Part): Bar {
  const [first, ...others] = inFlow(row);
  const hung = row.children.filter((c) => c !== first && !others.includes(c) && wordsIn(c) > 0);
  if (!first) return { stays: [], givesWay: hung };
  const [second, ...rest] = others;
  if (first.kind !== 'text' && first.children.length === 0 && second?.kind === 'text')
    return { stays: [first, second], givesWay: [...rest, ...hung] };
  if (wordsIn(first) < 2 || ruleOf(first.rules, 'flow') !== 'row')
    return { stays: [first], givesWay: [...others, ...hung] };
  const inner = partsOf(first);
  return { stays: [first, ...inner.stays], givesWay: [...inner.givesWay, ...others, ...hung] };
}

/** How wide a frame has to be for what a bar holds to stand in one line, px: what it shows side by side, not too far apart. */
function neededBy(row: Part, drawing: Drawing, own: Rect): number {
  const sources = new Set([...walk(row)].flatMap((p) => p.source));
  const spans = drawing.items
    .filter((i) => sources.has(i.id) && i.box.width < own.width / 2)
    .map(({ box }) => [box.x, right(box)] as const)
    .sort((a, b) => a[0] - b[0]);
  let [needed, end] = [2 * APART, -Infinity];
  for (const [from, to] of spans) {
    if (to <= end) continue;
    if (end > -Infinity) needed += Math.min(APART, Math.max(0, from - end));
    needed += to - Math.max(from, end);
    end = to;
  }
  return Math.ceil(needed);
}

/** A button of three lines in the colour of the bar's words. */
function menuButton(row: Part): Part {
  const id = `${row.id}-menu`;
  const colour = textRunsIn(row)[0]?.style.colour ?? '#000000';
  const lines = [1, 2, 3].map((n): Part => ({
    id: `${id}${n}`,
    name: `Menu line ${n}`,
    kind: 'shape',
    source: [],
    rules: { width: FILL, height: fixed(BUTTON.line) },
    children: [],
    paint: { fill: { kind: 'solid', colour } },
  }));
  return {
    id,
    name: 'Menu button',
    kind: 'container',
    source: [],
    rules: {
      width: fixed(BUTTON.side),
      height: fixed(BUTTON.side),
      gap: BUTTON.gap,
      justify: 'centre',
      hidden: true,
    },
    children: lines,
  };
}

/**
 * A bar across the top keeps to its one line: where a phone has no room for all that it holds, links and buttons give way to a
 * menu button below the frame width at which most bars that were counted do so. `shown` is the tree as it stands in the drawing.
 */
export function withMenu(root: Part, shown: Part, boxes: Boxes, drawing: Drawing): Part {
  const row = topBar(shown, boxes, drawing.width);
  const own = row && boxes.get(row.id);
  if (!row || !own || own.height > HIGHEST) return root;
  const { stays, givesWay } = partsOf(row);
  const needed = neededBy(row, drawing, own);
  if (givesWay.reduce((sum, p) => sum + leavesOf(p).length, 0) < 2 || needed <= PHONE) return root;
  const below = Math.min(drawing.width, Math.max(priors.bars.menuBelow, Math.ceil(needed / 20) * 20));
  let result = root;
  for (const { id } of givesWay)
    result = updatePart(result, id, (p) => withOverride(p, below, { hidden: true }));
  const last = inFlow(row).findLast((c) => stays.includes(c));
  if (last) result = updatePart(result, last.id, (p) => withOverride(p, below, { width: FILL }));
  const menu = withOverride(menuButton(row), below, { hidden: null });
  return updatePart(result, row.id, (part) =>
    withOverride({ ...part, children: [...part.children, menu] }, below, {
      ...((typeof part.rules.gap !== 'number' || part.rules.gap > 2 * APART) && { gap: APART }),
      minHeight: own.height,
    }),
  );
}
