import {
  applyStep,
  changedRules,
  inRange,
  overridesAt,
  partsById,
  walk,
  type InRange,
  type Bound,
  type Part,
  type RuleChange,
  type RuleName,
  type Step,
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

/** What a designer has set at a part of the first reading. */
interface Kept {
  readonly part: Part;
  /** Rules, for all frames or a range of them; `leave` are those that hold there no more. */
  readonly rules: readonly (InRange & {
    readonly set: RuleChange;
    readonly leave: readonly RuleName[];
  })[];
  readonly name?: string;
  /** The tokens that stand at its places, where they were changed. */
  readonly bound?: Bound;
  /** Questions answered since, and the rules that they were about, as they stand. */
  readonly answered: readonly string[];
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

/** The rules that each question is about. */
const ABOUT: Readonly<Record<string, readonly RuleName[]>> = {
  width: ['width', 'minWidth', 'maxWidth'],
  limit: ['width', 'maxWidth'],
  gap: ['gap'],
  columns: ['columns'],
  height: ['height'],
  side: ['pin'],
  rise: ['height'],
};

/** The rules that differ between two parts, as a change of the first, and those that the second leaves unsaid. */
function difference(before: RuleChange, after: RuleChange) {
  const changed = changedRules(before, after);
  return {
    set: Object.fromEntries(
      changed.filter((n) => after[n] !== undefined).map((n) => [n, after[n]]),
    ) as RuleChange,
    leave: changed.filter((n) => after[n] === undefined),
  };
}

/** What the designer has changed since the structure was read: rules by part, names, answers. */
function changes(asRead: Structure, edited: Structure): Kept[] {
  const read = partsById(asRead.root);
  return [...walk(edited.root)].flatMap((part): Kept[] => {
    const before = read.get(part.id);
    if (!before) return [];
    const { set, leave } = difference(before.rules, part.rules);
    const answered = (part.answered ?? []).filter((t) => !before.answered?.includes(t));
    const about = answered.flatMap((t) => ABOUT[t] ?? []);
    const asAnswered = Object.fromEntries(about.map((n) => [n, part.rules[n] ?? null]));
    const gone = Object.fromEntries(leave.map((n) => [n, null]));
    const widths = [...new Set([...(before.below ?? []), ...(part.below ?? [])].map((o) => o.width))];
    const rules = [
      { set: { ...asAnswered, ...set, ...gone }, leave: [] },
      ...[...widths, 'wide' as const].map((range) => ({
        ...inRange(range),
        ...difference(overridesAt(before, range), overridesAt(part, range)),
      })),
    ].filter((r) => Object.keys(r.set).length + r.leave.length > 0);
    const name = before.name === part.name ? {} : { name: part.name };
    const isBound = JSON.stringify(part.bound ?? {}) === JSON.stringify(before.bound ?? {});
    const bound = isBound ? {} : { bound: part.bound ?? {} };
    return rules.length + answered.length > 0 || part.name !== before.name || !isBound
      ? [{ part: before, rules, answered, ...name, ...bound }]
      : [];
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
  for (const { part, rules, name, answered, bound } of changes(asRead, edited)) {
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
    const attempt = (step: Step): string | undefined => {
      const result = applyStep(structure, step);
      if (!result.ok) return result.reason;
      structure = result.doc;
      kept++;
      return undefined;
    };
    const { id } = best.part;
    for (const { set, leave, ...range } of rules)
      for (const rule of [...(Object.keys(set) as RuleName[]), ...leave]) {
        const change = rule in set ? { set: { [rule]: set[rule] } } : { set: {}, leave: [rule] };
        const reason = attempt({ kind: 'setRules', ...range, parts: [{ id, ...change }] });
        if (reason !== undefined)
          lost.push(`The ${rule} that you set on “${part.name}” does not go there any more. ${reason}`);
      }
    if (bound) attempt({ kind: 'bind', parts: [{ id, bound }] });
    for (const topic of answered) attempt({ kind: 'answer', parts: [id], topic });
    if (name !== undefined) attempt({ kind: 'rename', id, name });
  }
  return { structure, kept, lost };
}
