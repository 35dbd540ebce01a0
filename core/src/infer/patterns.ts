import type { Part } from '../model/index.js';

/**
 * What makes two parts copies of one pattern: kinds, flows and nesting, not words or numbers, and not what hangs on
 * one of them alone.
 */
function makeUp(part: Part): string {
  const inner = part.children
    .filter((c) => !c.rules.pin)
    .map(makeUp)
    .join(',');
  return `${part.kind}${part.rules.flow ?? ''}${part.paint?.fill ? '#' : ''}(${inner})`;
}

/**
 * Marks runs of sibling containers with the same make-up as copies of one pattern, called by the id of the first until parts have names. Patterns
 * inside a pattern are marked too.
 */
export function markPatterns(part: Part): Part {
  const children = part.children.map(markPatterns);
  const byMakeUp = new Map<string, Part[]>();
  for (const child of children) {
    if (child.kind !== 'container' || child.children.length === 0) continue;
    const key = makeUp(child);
    byMakeUp.set(key, [...(byMakeUp.get(key) ?? []), child]);
  }
  const patternOf = new Map<Part, string>();
  for (const copies of byMakeUp.values())
    if (copies.length > 1) copies.forEach((c) => patternOf.set(c, copies[0]?.id ?? ''));
  if (patternOf.size === 0 && children.every((c, i) => c === part.children[i])) return part;
  return {
    ...part,
    children: children.map((c) => (patternOf.has(c) ? { ...c, pattern: patternOf.get(c) ?? '' } : c)),
  };
}
