import { walk, type Part, type Structure } from './part.js';
import {
  isHorizontal,
  LAYING_RULES,
  ruleOf,
  type Limit,
  type Rules,
  type Size,
  type Track,
} from './rules.js';
import { breakpoints, standing, turnsWide } from './standing.js';

/** What can be wrong with a part. */
export type ProblemKind =
  | 'number'
  | 'size'
  | 'limit'
  | 'lines'
  | 'padding'
  | 'grid'
  | 'track'
  | 'gap'
  | 'leaf'
  | 'id'
  | 'cell'
  | 'break'
  | 'unpinned'
  | 'stay'
  | 'circle';

/** A reason why a document cannot stand, with the nearest change that can. */
export interface Problem {
  readonly part: string;
  readonly kind: ProblemKind;
  readonly reason: string;
  /** A size that waits for itself: the engine resolves it as CSS does, but no document may hold it. */
  readonly circular: boolean;
}

const problem = (part: Part, kind: ProblemKind, reason: string, circular = false): Problem => ({
  part: part.id,
  kind,
  reason: `“${part.name}” cannot be so: ${reason}.`,
  circular,
});

/** Whether every number in a value, however deep, is finite. */
const isFiniteThroughout = (value: unknown): boolean =>
  typeof value === 'number'
    ? Number.isFinite(value)
    : typeof value !== 'object' || value === null || Object.values(value).every(isFiniteThroughout);

/** A kind with its sentence; undefined where nothing is wrong. */
type Finding = readonly [kind: ProblemKind, reason: string | undefined];

function sizeProblem(axis: string, size: Size | undefined): string | undefined {
  if (!size) return undefined;
  if (size.kind === 'fixed' && size.px < 0) return `its ${axis} is below zero: use 0 or more`;
  if (size.kind === 'fill' && size.weight <= 0)
    return `its ${axis} fills with weight ${size.weight}: a weight is above 0`;
  if (size.kind === 'share' && size.percent < 0)
    return `its ${axis} is ${size.percent} %: a share is 0 % or more`;
  if (size.kind === 'ratio' && (size.width <= 0 || size.height <= 0))
    return `its ${axis} has the ratio ${size.width}:${size.height}: both numbers are above 0`;
  return undefined;
}

function limitProblem(axis: string, min: Limit | undefined, max: Limit | undefined): string | undefined {
  if (typeof min === 'number' && typeof max === 'number' && min > max)
    return `its min ${axis} ${min} is over its max ${max}: lower the min to ${max}`;
  return undefined;
}

const tracksOf = (rules: Rules): readonly Track[] => [
  ...(rules.columns?.kind === 'tracks' ? rules.columns.tracks : []),
  ...(rules.rows ?? []),
  ...(rules.autoRows ? [rules.autoRows] : []),
];

function gridProblems(rules: Rules): Finding[] {
  const { columns, areas } = rules;
  const found: Finding[] = [];
  if (!columns && !areas) found.push(['grid', 'it is a grid without columns: give it columns']);
  else if (columns?.kind === 'count' && columns.count < 1)
    found.push(['grid', `it has ${columns.count} columns: a grid has at least 1`]);
  else if (columns?.kind === 'tracks' && columns.tracks.length === 0)
    found.push(['grid', 'it has no columns: a grid has at least 1']);
  if (typeof rules.gap === 'string')
    found.push(['gap', `its gap is “${rules.gap}”: a grid’s gap is a number of px`]);
  else if ((rules.gap ?? 0) < 0) found.push(['gap', 'the gap of a grid is below zero: use 0 or more']);
  if ((rules.crossGap ?? 0) < 0) found.push(['gap', 'the cross gap of a grid is below zero: use 0 or more']);
  for (const t of tracksOf(rules)) {
    if (t.kind === 'fixed' && t.px < 0) found.push(['track', 'a track is below zero: use 0 or more']);
    if (t.kind === 'fr' && t.weight <= 0)
      found.push(['track', `a track has ${t.weight} fr: a weight is above 0`]);
    if (t.kind === 'range') found.push(['track', limitProblem('track', t.min, t.max)]);
  }
  if (areas?.some((line) => line.length !== areas[0]?.length))
    found.push([
      'grid',
      'its named areas have lines of unlike length: give each line the same number of names',
    ]);
  return found;
}

/** Why a child’s cell is not in its grid. */
function cellProblem(parent: Part, child: Part): string | undefined {
  const { cell } = child.rules;
  if (!cell) return undefined;
  if (ruleOf(parent.rules, 'flow') !== 'grid')
    return `it has a cell, but “${parent.name}” is no grid: take the cell away or make it a grid`;
  const { columns, areas, autoFlow } = parent.rules;
  if (cell.area !== undefined && !areas?.some((line) => line.includes(cell.area ?? '')))
    return `its area “${cell.area}” is not among those of “${parent.name}”: name one of them`;
  const lines = [cell.column, cell.row, cell.columnSpan, cell.rowSpan];
  if (lines.some((n) => n !== undefined && (n < 1 || n > 1000 || !Number.isInteger(n))))
    return 'its cell is outside the grid: lines and spans are whole numbers from 1 to 1000';
  const count =
    columns?.kind === 'count'
      ? columns.count
      : columns?.kind === 'tracks'
        ? columns.tracks.length
        : undefined;
  const end = (cell.column ?? 1) + (cell.columnSpan ?? 1) - 1;
  if (count !== undefined && autoFlow !== 'column' && cell.area === undefined && end > count)
    return `its cell ends in column ${end} of ${count}: let it end in column ${count}`;
  return undefined;
}

function ownProblems(part: Part): Finding[] {
  const { rules } = part;
  const found: Finding[] = [];
  if (!isFiniteThroughout(rules)) found.push(['number', 'a rule is not a finite number']);
  found.push(['size', sizeProblem('width', rules.width)], ['size', sizeProblem('height', rules.height)]);
  found.push(['limit', limitProblem('width', rules.minWidth, rules.maxWidth)]);
  found.push(['limit', limitProblem('height', rules.minHeight, rules.maxHeight)]);
  if (rules.width?.kind === 'ratio' && rules.height?.kind === 'ratio')
    found.push(['size', 'width and height both follow a ratio: give one of them a size']);
  if (rules.maxLines !== undefined && (rules.maxLines < 1 || !Number.isInteger(rules.maxLines)))
    found.push(['lines', `it shows at the most ${rules.maxLines} lines: use a whole number from 1`]);
  if (rules.padding && Object.values(rules.padding).some((n) => n < 0))
    found.push(['padding', 'a padding is below zero: use 0 or more, or a negative gap']);
  if (rules.stay && rules.pin)
    found.push(['stay', 'it is pinned and stays while the rest scrolls: take one of both away']);
  if (part.kind === 'container') {
    if (ruleOf(rules, 'flow') === 'grid') found.push(...gridProblems(rules));
    else if (rules.gap === 'centres' && rules.flow === 'wrap')
      found.push([
        'gap',
        'its gap goes by centres, which lines of a wrap cannot: make it a row or use a number',
      ]);
  } else {
    if (part.children.length > 0)
      found.push(['leaf', `it is a ${part.kind} and has children: make it a container`]);
    const odd = LAYING_RULES.find((name) => rules[name] !== undefined);
    if (odd) found.push(['leaf', `it is a ${part.kind} and has the rule ${odd}, which only a container has`]);
  }
  return found;
}

/** Why a row is as wide as its content although all its content wants to fill it. */
function circularReason(part: Part): string | undefined {
  const { rules } = part;
  // Across a column a fill child stretches to its widest sibling, and a column's height comes from the words in it,
  // so that only a row's width is a circle.
  if (part.kind !== 'container' || !isHorizontal(ruleOf(rules, 'flow')) || rules.pin) return undefined;
  const children = part.children.filter((c) => !c.rules.pin && !c.rules.hidden);
  const circular =
    ruleOf(rules, 'width').kind === 'fit' &&
    children.length > 0 &&
    children.every((c) => ruleOf(c.rules, 'width').kind === 'fill');
  return circular ? 'its width fits its content, but every child fills: set its width to fill' : undefined;
}

/** What is wrong with a part and with how its children stand in it, whatever is around. */
function problemsIn(part: Part): Problem[] {
  const problems: Problem[] = [];
  const tell = (of: Part, kind: ProblemKind, reason: string, circular = false) =>
    problems.push(problem(of, kind, reason, circular));
  for (const [kind, reason] of ownProblems(part)) if (reason !== undefined) tell(part, kind, reason);
  for (const child of part.children) {
    // What is not shown stands nowhere.
    if (child.rules.hidden) continue;
    const cell = cellProblem(part, child);
    if (cell !== undefined) tell(child, 'cell', cell);
    if (child.rules.newLine && ruleOf(part.rules, 'flow') !== 'wrap')
      tell(part, 'break', `“${child.name}” begins a new line, but only a wrap has lines: make it a wrap`);
    if (ruleOf(part.rules, 'flow') === 'free' && part.kind === 'container' && !child.rules.pin)
      tell(part, 'unpinned', `its flow is free, but “${child.name}” has no pin: pin it or choose a column`);
  }
  const circular = circularReason(part);
  if (circular !== undefined) tell(part, 'circle', circular, true);
  return problems;
}

const known = new WeakMap<Part, readonly Problem[]>();

/**
 * {@link problemsIn} of a part and of all that is in it, in document order; looked for once: an edit makes new parts along some
 * paths only, and leaves the others as they are.
 */
function problemsUnder(part: Part): readonly Problem[] {
  const before = known.get(part);
  if (before) return before;
  const problems = problemsIn(part);
  for (const child of part.children) problems.push(...problemsUnder(child));
  known.set(part, problems);
  return problems;
}

/** Ids that several parts have. */
function takenIds(root: Part): Problem[] {
  const seen = new Set<string>();
  const problems: Problem[] = [];
  for (const part of walk(root)) {
    if (seen.has(part.id)) problems.push(problem(part, 'id', `its id ${part.id} is taken by another part`));
    seen.add(part.id);
  }
  return problems;
}

/** Everything that keeps the tree from standing. */
export const check = (root: Part): Problem[] => [...takenIds(root), ...problemsUnder(root)];

/** Two problems of a part are one when they are of a kind: one whose numbers change stays what it is. */
const keyOf = ({ part, kind }: Problem): string => `${kind} ${part}`;

const knownAll = new WeakMap<Structure, readonly Problem[]>();

/** Everything that keeps the structure from standing at any width: in each range between its breakpoints. */
export function checkAll(structure: Structure): readonly Problem[] {
  let problems = knownAll.get(structure);
  if (!problems) knownAll.set(structure, (problems = checkRanges(structure)));
  return problems;
}

function checkRanges(structure: Structure): readonly Problem[] {
  // No range gives a part another id.
  const found = new Map(takenIds(structure.root).map((p) => [keyOf(p), p]));
  const turns = turnsWide(structure);
  for (const below of [Infinity, ...breakpoints(structure)]) {
    const width = below === Infinity ? Number.MAX_SAFE_INTEGER : below - 0.5;
    const range = below === Infinity ? '' : `Below ${below}: `;
    const all = [
      { where: range, root: standing(structure, { width }) },
      ...(turns
        ? [
            {
              where: `${range}Where the frame is wider than high: `,
              root: standing(structure, { width, height: 0 }),
            },
          ]
        : []),
    ];
    for (const { where, root } of all)
      for (const p of problemsUnder(root))
        if (!found.has(keyOf(p))) found.set(keyOf(p), { ...p, reason: `${where}${p.reason}` });
  }
  for (const part of walk(structure.root))
    if ([...(part.below ?? []), { rules: part.wide ?? {} }].some((o) => o.rules.newLine !== undefined)) {
      const forced = problem(part, 'break', 'a forced break holds at all widths: set it for all frames');
      found.set(keyOf(forced), forced);
    }
  return [...found.values()];
}

/**
 * The first thing that keeps a structure from standing at some width, that it did not have `before` already; undefined
 * where it is sound. Every door by which documents and edits come in asks this.
 */
export function unsound(structure: Structure, before?: Structure): Problem | undefined {
  const problems = checkAll(structure);
  if (problems.length === 0 || !before) return problems[0];
  const had = new Set(checkAll(before).map(keyOf));
  return problems.find((p) => !had.has(keyOf(p)));
}
