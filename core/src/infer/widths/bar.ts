import { inFlow } from '../../layout/index.js';
import {
  bottom,
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
import priors from '../priors.json' with { type: 'json' };

type Boxes = ReadonlyMap<string, Rect>;

/** What is no higher is a line of things, px: the bars that were counted were looked for in the same way. */
const HIGHEST = 120;
/** The frame of a small phone, px. */
const PHONE = 360;
/** What stands between two things of a bar at least, px. */
const APART = 16;
/** A menu button, as large as an icon, px. */
const BUTTON = { side: 24, line: 2, gap: 5 };

/** The row in which a bar across the top of the screen holds its things; undefined for a screen that has no such bar. */
export function topBar(root: Part, boxes: Boxes, frame: number): Part | undefined {
  const spansTop = (part: Part): boolean => {
    const box = boxes.get(part.id);
    return box !== undefined && box.y <= 1 && box.x <= 1 && right(box) >= frame - 1 && box.height > 0;
  };
  let bar = root.children.find(spansTop);
  while (bar && (boxes.get(bar.id)?.height ?? 0) > HIGHEST) bar = bar.children.find(spansTop);
  if (root.children.length < 2 && bar === root.children[0]) return undefined;
  return bar && [...walk(bar)].find((p) => ruleOf(p.rules, 'flow') === 'row' && inFlow(p).length > 1);
}

/** How many children of a bar, from its start, are the mark and the name that always stay. */
function brandOf(row: Part): number {
  const [first, second] = inFlow(row);
  const isMark = first !== undefined && first.kind !== 'text' && first.children.length === 0;
  return isMark && second?.kind === 'text' ? 2 : 1;
}

const leavesOf = (part: Part): Part[] => [...walk(part)].filter((p) => p.children.length === 0);

/** How wide a frame has to be for what a bar holds to stand in one line, px; lines along its edges take no room. */
function neededBy(row: Part, boxes: Boxes): number {
  const own = boxes.get(row.id)?.width ?? 0;
  const widths = leavesOf(row).map((p) => boxes.get(p.id)?.width ?? 0);
  return widths.filter((w) => w < own / 2).reduce((sum, w) => sum + w + APART, APART);
}

/** A button of three lines in the colour of the bar's words. */
function menuButton(row: Part): Part {
  const id = `${row.id}-menu`;
  const colour = textRunsIn(row)[0]?.style.colour ?? 'currentcolor';
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
 * menu button below the frame width at which most bars that were counted do so.
 */
export function withMenu(root: Part, boxes: Boxes, frame: number): Part {
  const row = topBar(root, boxes, frame);
  if (!row) return root;
  const brand = inFlow(row).slice(0, brandOf(row));
  const last = brand.at(-1);
  const rest = new Set(row.children.filter((c) => !brand.includes(c)));
  const words = [...rest].flatMap((c) => leavesOf(c)).filter((p) => p.kind === 'text');
  const own = boxes.get(row.id);
  const isLine = own !== undefined && leavesOf(row).every((p) => bottom(boxes.get(p.id) ?? own) - own.y <= HIGHEST);
  const needed = neededBy(row, boxes);
  if (words.length < 2 || !isLine || needed <= PHONE) return root;
  const [mark, name] = brand.map((c) => boxes.get(c.id));
  const apart = mark && name ? Math.round(name.x - right(mark)) : APART;
  const below = Math.min(frame, Math.max(priors.bars.menuBelow, Math.ceil(needed / 20) * 20));
  return updatePart(root, row.id, (part) => {
    const children = part.children.map((c) => {
      if (rest.has(c)) return withOverride(c, below, { hidden: true });
      return c === last ? withOverride(c, below, { width: FILL }) : c;
    });
    const menu = withOverride(menuButton(part), below, { hidden: null });
    return withOverride({ ...part, children: [...children, menu] }, below, {
      gap: apart,
      minHeight: own.height,
    });
  });
}
