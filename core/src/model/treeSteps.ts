import { findPart, pathTo, updatePart, walk, type Part } from './part.js';

/**
 * Edits of the tree itself. Places are counted among all children of a part, from 0, those out of the flow too.
 * - `insert` puts a part with all that is in it among the children of another.
 * - `remove` takes a part away with all that is in it.
 * - `move` puts a part elsewhere; the place is counted without it.
 * - `wrap` gives siblings a container of their own, which stands where the first of them stood.
 * - `unwrap` takes a container away and leaves its children in its place.
 */
export type TreeStep =
  | { readonly kind: 'insert'; readonly parent: string; readonly at: number; readonly part: Part }
  | { readonly kind: 'remove'; readonly id: string }
  | { readonly kind: 'move'; readonly id: string; readonly parent: string; readonly at: number }
  | { readonly kind: 'wrap'; readonly ids: readonly string[]; readonly container: Part }
  | { readonly kind: 'unwrap'; readonly id: string };

/** The tree after a step, or the sentence that says why there is none. */
export type TreeResult = { readonly root: Part } | { readonly reason: string };

export const gone = (id: string): TreeResult => ({
  reason: `There is no part with the id ${id.slice(0, 60)} any more: choose one that the parts list shows.`,
});
const isFrame = (what: string): TreeResult => ({
  reason: `The frame itself cannot be ${what}: choose a part in it.`,
});

/** The part that holds another. */
export const parentOf = (root: Part, id: string): Part | undefined => pathTo(root, id).at(-2);

const without = (parent: Part, id: string): Part => ({
  ...parent,
  children: parent.children.filter((c) => c.id !== id),
});

const withChild = (parent: Part, at: number, ...added: readonly Part[]): Part => ({
  ...parent,
  children: parent.children.toSpliced(Math.max(0, Math.min(at, parent.children.length)), 0, ...added),
});

/** The first of some ids that the tree has already. */
function taken(root: Part, part: Part): string | undefined {
  const known = new Set([...walk(root)].map((p) => p.id));
  return [...walk(part)].find((p) => known.has(p.id))?.id;
}

const takenReason = (id: string): TreeResult => ({
  reason: `A part with the id ${id.slice(0, 60)} is there already: give the new part another id.`,
});
const holdsNone = (parent: Part): TreeResult => ({
  reason: `“${parent.name.slice(0, 60)}” cannot hold parts: choose a column, row, wrap, grid or free container.`,
});

/** Applies a step to a tree; whether what comes of it may stand is for `unsound` to say. */
export function applyTreeStep(root: Part, step: TreeStep): TreeResult {
  switch (step.kind) {
    case 'insert': {
      const parent = findPart(root, step.parent);
      if (!parent) return gone(step.parent);
      if (parent.kind !== 'container') return holdsNone(parent);
      const twice = taken(root, step.part);
      if (twice !== undefined) return takenReason(twice);
      return { root: updatePart(root, step.parent, (p) => withChild(p, step.at, step.part)) };
    }
    case 'remove': {
      if (root.id === step.id) return isFrame('taken away');
      const parent = parentOf(root, step.id);
      return parent ? { root: updatePart(root, parent.id, (p) => without(p, step.id)) } : gone(step.id);
    }
    case 'move': {
      if (root.id === step.id) return isFrame('moved');
      const part = findPart(root, step.id);
      const from = parentOf(root, step.id);
      const to = findPart(root, step.parent);
      if (!part || !from) return gone(step.id);
      if (!to) return gone(step.parent);
      if (to.kind !== 'container') return holdsNone(to);
      if (findPart(part, step.parent))
        return {
          reason: `“${part.name.slice(0, 60)}” cannot stand in itself: choose a container outside of it.`,
        };
      const taken = updatePart(root, from.id, (p) => without(p, step.id));
      return { root: updatePart(taken, step.parent, (p) => withChild(p, step.at, part)) };
    }
    case 'wrap': {
      const [first] = step.ids;
      if (first === undefined) return { reason: 'Choose at least one part to put into a container.' };
      if (step.ids.includes(root.id)) return isFrame('put into a container');
      const parent = parentOf(root, first);
      if (!parent) return gone(first);
      const wrapped = step.ids.map((id) => parent.children.find((c) => c.id === id));
      const lost = step.ids[wrapped.indexOf(undefined)];
      if (lost !== undefined)
        return findPart(root, lost)
          ? { reason: 'Only parts that stand beside each other in one container can be put together.' }
          : gone(lost);
      const twice = taken(root, { ...step.container, children: [] });
      if (twice !== undefined) return takenReason(twice);
      const container = { ...step.container, children: wrapped.filter((p) => p !== undefined) };
      const ids = new Set(step.ids);
      const at = parent.children.findIndex((c) => ids.has(c.id));
      return {
        root: updatePart(root, parent.id, (p) =>
          withChild({ ...p, children: p.children.filter((c) => !ids.has(c.id)) }, at, container),
        ),
      };
    }
    case 'unwrap': {
      if (root.id === step.id) return isFrame('dissolved');
      const part = findPart(root, step.id);
      const parent = parentOf(root, step.id);
      if (!part || !parent) return gone(step.id);
      const at = parent.children.indexOf(part);
      return {
        root: updatePart(root, parent.id, (p) => withChild(without(p, step.id), at, ...part.children)),
      };
    }
  }
}

/** The steps that take a step back, given the tree before it. */
export function invertTreeStep(root: Part, step: TreeStep): TreeStep[] {
  const found = (id: string): Part => {
    const part = findPart(root, id);
    if (!part)
      throw new RangeError(`Cannot invert a step on part ${id}: the document before it has no such part.`);
    return part;
  };
  const place = (id: string): { readonly parent: string; readonly at: number } => {
    const parent = parentOf(root, id);
    if (!parent) throw new RangeError(`Cannot invert a step on part ${id}: nothing held it before.`);
    return { parent: parent.id, at: parent.children.findIndex((c) => c.id === id) };
  };
  switch (step.kind) {
    case 'insert':
      return [{ kind: 'remove', id: step.part.id }];
    case 'remove':
      return [{ kind: 'insert', ...place(step.id), part: found(step.id) }];
    case 'move':
      return [{ kind: 'move', id: step.id, ...place(step.id) }];
    case 'wrap': {
      // Those that stood apart go back one by one, the last first: then only those that belong before it are before it.
      const back = step.ids
        .map((id) => ({ kind: 'move' as const, id, ...place(id) }))
        .toSorted((a, b) => b.at - a.at);
      return [{ kind: 'unwrap', id: step.container.id }, ...back];
    }
    case 'unwrap': {
      const container = found(step.id);
      if (container.children.length === 0) return [{ kind: 'insert', ...place(step.id), part: container }];
      const shell = { ...container, children: [] };
      return [{ kind: 'wrap', ids: container.children.map((c) => c.id), container: shell }];
    }
  }
}
