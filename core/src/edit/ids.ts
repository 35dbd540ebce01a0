import { walk, type Part } from '../model/index.js';

/** Makes ids that a tree does not have yet, the same for the same tree. */
export function freshIds(root: Part): () => string {
  const known = new Set([...walk(root)].map((p) => p.id));
  let n = 0;
  return () => {
    let id: string;
    do id = `e${++n}`;
    while (known.has(id));
    known.add(id);
    return id;
  };
}

/** A copy of a part with ids of its own throughout. */
export const copyOf = (part: Part, next: () => string): Part => ({
  ...part,
  id: next(),
  children: part.children.map((c) => copyOf(c, next)),
});
