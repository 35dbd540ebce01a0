import type { Part } from './part.js';

/** The parts of a tree by id, with a key that alike places share: the pattern that they lie in, and the way from there. */
export function alikeKeys(root: Part): ReadonlyMap<string, string> {
  const keys = new Map<string, string>();
  const visit = (part: Part, key: string): void => {
    keys.set(part.id, key);
    part.children.forEach((c, i) => {
      visit(c, c.pattern === undefined ? `${key}/${i}` : `${key}/*${c.pattern}`);
    });
  };
  visit(root, '');
  return keys;
}
