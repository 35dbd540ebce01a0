import { findPart, parentOf, pathTo, ruleOf, type Part, type Step, type Structure } from '../model/index.js';
import { leastMoving, none, type Answer } from './least.js';
import type { Bench } from './stands.js';
import { duplicate, erase } from './tree.js';

/** The copy that a part is, or lies in: the innermost part around it that has a pattern. */
export const copyAround = (root: Part, id: string): Part | undefined =>
  pathTo(root, id).findLast((p) => p.pattern !== undefined);

/** Where two parts are made otherwise, as a sentence; what hangs on one of them alone, words and numbers may differ. */
function unlike(a: Part, b: Part): string | undefined {
  if (a.kind !== b.kind) return `“${b.name}” is a ${b.kind}, “${a.name}” a ${a.kind}`;
  if (a.kind === 'container' && ruleOf(a.rules, 'flow') !== ruleOf(b.rules, 'flow'))
    return `“${b.name}” is a ${ruleOf(b.rules, 'flow')}, “${a.name}” a ${ruleOf(a.rules, 'flow')}`;
  const inFlow = (p: Part) => p.children.filter((c) => !c.rules.pin);
  const [own, other] = [inFlow(a), inFlow(b)];
  if (own.length !== other.length)
    return `“${b.name}” holds ${other.length} part${other.length === 1 ? '' : 's'}, “${a.name}” ${own.length}`;
  for (const [i, child] of own.entries()) {
    const difference = unlike(child, other[i] as Part);
    if (difference !== undefined) return difference;
  }
  return undefined;
}

/**
 * Makes parts that stand beside each other copies of one pattern, called as the first of them: what is set on one is then set
 * on all. A refusal where they are made otherwise.
 */
export function declarePattern(structure: Structure, ids: readonly string[], bench: Bench): Answer {
  const parts = ids.flatMap((id) => findPart(structure.root, id) ?? []);
  const [first, ...others] = parts;
  if (!first || others.length === 0) return none('Choose two or more parts that are to be copies of one.');
  const parent = parentOf(structure.root, first.id);
  if (!parent || others.some((p) => parentOf(structure.root, p.id) !== parent))
    return none('Copies of one pattern stand in one container: choose parts that are beside each other.');
  for (const part of others) {
    const difference = unlike(first, part);
    if (difference !== undefined)
      return none(`They are not made alike: ${difference}. Make them alike first.`);
  }
  // One that is among them keeps its name; a new one takes none that another has.
  const taken = new Set(parent.children.filter((c) => !ids.includes(c.id)).map((c) => c.pattern));
  const known = parts.find((p) => p.pattern !== undefined)?.pattern;
  const pattern = known ?? (taken.has(first.name) ? `${first.name}, another` : first.name);
  const step: Step = { kind: 'pattern', parts: parts.map(({ id }) => ({ id, pattern })) };
  return leastMoving(structure, bench, `${parts.length} copies of “${first.name}”`, [{ step }], first.id);
}

/** Makes one copy a thing of its own, which can then differ in everything. What is left alone is no pattern any more. */
export function breakAway(structure: Structure, id: string, bench: Bench): Answer {
  const copy = copyAround(structure.root, id);
  if (!copy) return none('This part is no copy of a pattern, nor in one: it is a thing of its own already.');
  const siblings = parentOf(structure.root, copy.id)?.children ?? [];
  const rest = siblings.filter((c) => c.pattern === copy.pattern && c !== copy);
  const free = rest.length === 1 ? [copy, ...rest] : [copy];
  const step: Step = { kind: 'pattern', parts: free.map((p) => ({ id: p.id, pattern: null })) };
  return leastMoving(structure, bench, `“${copy.name}” on its own`, [{ step }], copy.id);
}

/** One more copy of the pattern that a part is in, after its own; to see what the screen does then. */
export function oneMore(structure: Structure, id: string, bench: Bench): Answer {
  const copy = copyAround(structure.root, id);
  return copy
    ? duplicate(structure, copy.id, bench)
    : none('This part is no copy of a pattern, nor in one: make alike parts one pattern first.');
}

/** One copy less of the pattern that a part is in: its own. */
export function oneLess(structure: Structure, id: string, bench: Bench): Answer {
  const copy = copyAround(structure.root, id);
  return copy
    ? erase(structure, [copy.id], bench)
    : none('This part is no copy of a pattern, nor in one: make alike parts one pattern first.');
}
