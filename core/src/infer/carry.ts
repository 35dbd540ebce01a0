import {
  applyStep,
  findPart,
  walk,
  type Part,
  type RuleChange,
  type RuleName,
  type Structure,
} from '../model/index.js';

/** A fresh reading with the designer's decisions put on it again. */
export interface Carried {
  readonly structure: Structure;
  /** How many decisions hold again. */
  readonly kept: number;
  /** A sentence for each decision that has no place in the fresh reading. */
  readonly lost: readonly string[];
}

interface Decision {
  readonly part: Part;
  readonly set: RuleChange;
  readonly name?: string;
}

/** The share of drawn items that two parts have in common from which on they stand for the same place. */
const ALIKE = 0.6;

function itemsOf(part: Part, known: Map<Part, ReadonlySet<string>>): ReadonlySet<string> {
  let found = known.get(part);
  if (!found) {
    const all = new Set(part.source);
    for (const child of part.children) for (const id of itemsOf(child, known)) all.add(id);
    known.set(part, (found = all));
  }
  return found;
}

function likeness(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  let common = 0;
  for (const id of a) if (b.has(id)) common++;
  const all = a.size + b.size - common;
  return all === 0 ? 0 : common / all;
}

/** What the designer has changed since the structure was read: rules by part, and names. */
function decisions(asRead: Structure, edited: Structure): Decision[] {
  const read = new Map([...walk(asRead.root)].map((p) => [p.id, p]));
  return [...walk(edited.root)].flatMap((part): Decision[] => {
    const before = read.get(part.id);
    if (!before) return [];
    const names = [...new Set([...Object.keys(before.rules), ...Object.keys(part.rules)])] as RuleName[];
    const changed = names.filter((n) => JSON.stringify(before.rules[n]) !== JSON.stringify(part.rules[n]));
    const set = Object.fromEntries(changed.map((n) => [n, part.rules[n] ?? null]));
    const name = before.name === part.name ? {} : { name: part.name };
    return changed.length > 0 || part.name !== before.name ? [{ part: before, set, ...name }] : [];
  });
}

/**
 * Puts what the designer has decided onto a fresh reading of the same drawing: every rule and name that differs between
 * `asRead` and `edited` goes to the part of `fresh` that stands for the same drawn items. What finds no such part, or
 * would break it, is told.
 */
export function carryOver(asRead: Structure, edited: Structure, fresh: Structure): Carried {
  const known = new Map<Part, ReadonlySet<string>>();
  const candidates = [...walk(fresh.root)];
  const lost: string[] = [];
  let structure = fresh;
  let kept = 0;
  for (const { part, set, name } of decisions(asRead, edited)) {
    const items = itemsOf(part, known);
    const isRoot = part === asRead.root;
    const best = candidates
      .filter((c) => c.kind === part.kind && (c === fresh.root) === isRoot)
      .map((c) => ({ part: c, by: isRoot ? 1 : likeness(items, itemsOf(c, known)) }))
      .filter((c) => c.by >= ALIKE)
      // Of wrappers around the same items the one of the same flow is meant.
      .sort(
        (a, b) =>
          b.by - a.by ||
          Number(b.part.rules.flow === part.rules.flow) - Number(a.part.rules.flow === part.rules.flow),
      )[0];
    if (!best) {
      lost.push(
        `What you set on “${name ?? part.name}” found no place: no part holds the same items any more.`,
      );
      continue;
    }
    for (const [rule, value] of Object.entries(set)) {
      const step = { kind: 'setRules' as const, parts: [{ id: best.part.id, set: { [rule]: value } }] };
      const result = applyStep(structure, step);
      if (result.ok) {
        structure = result.doc;
        kept++;
      } else
        lost.push(`The ${rule} that you set on “${part.name}” does not go there any more. ${result.reason}`);
    }
    if (name !== undefined && findPart(structure.root, best.part.id)) {
      const result = applyStep(structure, { kind: 'rename', id: best.part.id, name });
      if (result.ok) {
        structure = result.doc;
        kept++;
      }
    }
  }
  return { structure, kept, lost };
}
