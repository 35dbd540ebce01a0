import { walk, type Part } from './part.js';
import { isHorizontal, ruleOf, type Limit, type Size } from './rules.js';

/** A reason why a document cannot stand, with the nearest change that can. */
export interface Problem {
  readonly part: string;
  readonly reason: string;
  /** A size that waits for itself: the engine resolves it as CSS does, but no document may hold it. */
  readonly circular: boolean;
}

const LEAF_RULES_FORBIDDEN = ['flow', 'gap', 'crossGap', 'align', 'justify', 'columns'] as const;

const numbersIn = (value: unknown): number[] =>
  typeof value === 'number'
    ? [value]
    : typeof value === 'object' && value !== null
      ? Object.values(value).flatMap(numbersIn)
      : [];

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

function limitProblem(axis: string, min: Limit | undefined, max: number | undefined): string | undefined {
  if (typeof min === 'number' && max !== undefined && min > max)
    return `its min ${axis} ${min} is over its max ${max}: lower the min to ${max}`;
  return undefined;
}

function ownProblems(part: Part): string[] {
  const { rules } = part;
  const found: (string | undefined)[] = [];
  if (numbersIn(rules).some((n) => !Number.isFinite(n))) found.push('a rule is not a finite number');
  found.push(sizeProblem('width', rules.width), sizeProblem('height', rules.height));
  found.push(limitProblem('width', rules.minWidth, rules.maxWidth));
  found.push(limitProblem('height', rules.minHeight, rules.maxHeight));
  if (rules.width?.kind === 'ratio' && rules.height?.kind === 'ratio')
    found.push('width and height both follow a ratio: give one of them a size');
  if (rules.padding && Object.values(rules.padding).some((n) => n < 0))
    found.push('a padding is below zero: use 0 or more, or a negative gap');
  if (part.kind === 'container') {
    if (ruleOf(rules, 'flow') === 'grid') {
      if (!rules.columns) found.push('it is a grid without columns: give it columns');
      else if (rules.columns.kind === 'count' && rules.columns.count < 1)
        found.push(`it has ${rules.columns.count} columns: a grid has at least 1`);
      if (typeof rules.gap === 'number' && rules.gap < 0)
        found.push('the gap of a grid is below zero: use 0 or more');
    }
  } else {
    if (part.children.length > 0) found.push(`it is a ${part.kind} and has children: make it a container`);
    const odd = LEAF_RULES_FORBIDDEN.find((name) => rules[name] !== undefined);
    if (odd) found.push(`it is a ${part.kind} and has the rule ${odd}, which only a container has`);
  }
  return found.filter((r) => r !== undefined);
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

/** Everything that keeps the tree from standing, in document order. */
export function check(root: Part): Problem[] {
  const problems: Problem[] = [];
  const seen = new Set<string>();
  for (const part of walk(root)) {
    const tell = (reason: string, circular = false) =>
      problems.push({ part: part.id, reason: `“${part.name}” cannot be so: ${reason}.`, circular });
    if (seen.has(part.id)) tell(`its id ${part.id} is taken by another part`);
    seen.add(part.id);
    for (const reason of ownProblems(part)) tell(reason);
    for (const child of part.children)
      if (ruleOf(part.rules, 'flow') === 'free' && part.kind === 'container' && !child.rules.pin)
        tell(`its flow is free, but “${child.name}” has no pin: pin it or choose a column`);
    const circular = circularReason(part);
    if (circular !== undefined) tell(circular, true);
  }
  return problems;
}
