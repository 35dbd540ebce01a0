import { unsound } from './check.js';
import { overridesAt, withOverride } from './overrides.js';
import { findPart, updatePart, type Part, type Structure } from './part.js';
import type { Bound } from './tokens.js';
import { withChange, type RuleChange, type RuleName } from './rules.js';

/**
 * An edit of the document: a plain value that can be stored, sent, inverted and applied again.
 * - `setRules` sets or takes away rules of some parts at once; with `below`, in frames narrower than that: there `null`
 *   takes away what wider frames have, and `leave` names rules that are to be as in those again.
 * - `rename` names a part.
 * - `answer` notes that a question about some parts was answered; with `open` that it is open again.
 * - `bind` says which tokens stand at a part's places.
 * - `several` are steps that are one edit.
 * - `replace` puts another subtree in the place of a part.
 */
export type Step =
  | {
      readonly kind: 'setRules';
      readonly below?: number;
      readonly parts: readonly {
        readonly id: string;
        readonly set: RuleChange;
        readonly leave?: readonly RuleName[];
      }[];
    }
  | { readonly kind: 'rename'; readonly id: string; readonly name: string }
  | {
      readonly kind: 'answer';
      readonly parts: readonly string[];
      readonly topic: string;
      readonly open?: boolean;
    }
  | {
      readonly kind: 'bind';
      readonly parts: readonly { readonly id: string; readonly bound: Bound }[];
    }
  | { readonly kind: 'several'; readonly steps: readonly Step[] }
  | { readonly kind: 'replace'; readonly id: string; readonly part: Part };

/** What became of a step: the new document, or the sentence that says why not. */
export type StepResult =
  { readonly ok: true; readonly doc: Structure } | { readonly ok: false; readonly reason: string };

const missing = (id: string): StepResult => ({
  ok: false,
  reason: `There is no part with the id ${id.slice(0, 60)} any more: choose one that the parts list shows.`,
});

/** The part with a question answered, or open again. */
function answeredPart(part: Part, topic: string, open: boolean): Part {
  const { answered = [], ...rest } = part;
  // Sorted, so that an answer taken back and given again leaves the same part.
  const topics = [...answered.filter((t) => t !== topic), ...(open ? [] : [topic])].sort();
  return topics.length > 0 ? { ...rest, answered: topics } : rest;
}

function settle(doc: Structure, root: Part): StepResult {
  if (root === doc.root) return { ok: true, doc };
  const problem = unsound({ ...doc, root }, doc);
  return problem ? { ok: false, reason: problem.reason } : { ok: true, doc: { ...doc, root } };
}

/** Applies a step. The document given is never changed; a step that would break it is refused whole. */
export function applyStep(doc: Structure, step: Step): StepResult {
  switch (step.kind) {
    case 'setRules': {
      let root = doc.root;
      const { below } = step;
      for (const { id, set, leave = [] } of step.parts) {
        if (!findPart(root, id)) return missing(id);
        root = updatePart(root, id, (part) =>
          below === undefined
            ? { ...part, rules: withChange(part.rules, set) }
            : withOverride(part, below, set, leave),
        );
      }
      return settle(doc, root);
    }
    case 'rename': {
      if (!findPart(doc.root, step.id)) return missing(step.id);
      const name = step.name.trim();
      if (name === '') return { ok: false, reason: 'A part needs a name: type at least one letter.' };
      return settle(
        doc,
        updatePart(doc.root, step.id, (part) => ({ ...part, name })),
      );
    }
    case 'answer': {
      let root = doc.root;
      for (const id of step.parts) {
        if (!findPart(root, id)) return missing(id);
        root = updatePart(root, id, (part) => answeredPart(part, step.topic, step.open === true));
      }
      return { ok: true, doc: { ...doc, root } };
    }
    case 'bind': {
      let root = doc.root;
      for (const { id, bound } of step.parts) {
        if (!findPart(root, id)) return missing(id);
        root = updatePart(root, id, ({ bound: _before, ...part }) =>
          Object.keys(bound).length > 0 ? { ...part, bound } : part,
        );
      }
      return settle(doc, root);
    }
    case 'several':
      return applySteps(doc, step.steps);
    case 'replace':
      if (!findPart(doc.root, step.id)) return missing(step.id);
      return settle(
        doc,
        updatePart(doc.root, step.id, () => step.part),
      );
  }
}

/** The step that takes `step` back, given the document before it. The step must apply to that document. */
export function invertStep(before: Structure, step: Step): Step {
  const part = (id: string): Part => {
    const found = findPart(before.root, id);
    if (!found)
      throw new RangeError(`Cannot invert a step on part ${id}: the document before it has no such part.`);
    return found;
  };
  switch (step.kind) {
    case 'setRules': {
      const { below } = step;
      return {
        kind: 'setRules',
        ...(below !== undefined && { below }),
        parts: step.parts.map(({ id, set, leave = [] }) => {
          const names = [...(Object.keys(set) as RuleName[]), ...leave];
          const before = part(id);
          if (below === undefined)
            return { id, set: Object.fromEntries(names.map((n) => [n, before.rules[n] ?? null])) };
          const said = overridesAt(before, below);
          return {
            id,
            set: Object.fromEntries(names.filter((n) => n in said).map((n) => [n, said[n]])),
            leave: names.filter((n) => !(n in said)),
          };
        }),
      };
    }
    case 'rename':
      return { kind: 'rename', id: step.id, name: part(step.id).name };
    case 'answer': {
      // Parts that had it answered before stay so.
      const parts = step.parts.filter(
        (id) => (part(id).answered ?? []).includes(step.topic) === (step.open === true),
      );
      return parts.length === 0
        ? { kind: 'several', steps: [] }
        : { kind: 'answer', parts, topic: step.topic, ...(step.open !== true && { open: true }) };
    }
    case 'bind':
      return { kind: 'bind', parts: step.parts.map(({ id }) => ({ id, bound: part(id).bound ?? {} })) };
    case 'several': {
      let doc = before;
      const inverses = step.steps.map((s) => {
        const inverse = invertStep(doc, s);
        const next = applyStep(doc, s);
        if (!next.ok) throw new RangeError(`Cannot invert steps that do not apply: ${next.reason}`);
        doc = next.doc;
        return inverse;
      });
      return { kind: 'several', steps: inverses.reverse() };
    }
    case 'replace':
      return { kind: 'replace', id: step.part.id, part: part(step.id) };
  }
}

/** Applies steps in order; the first that is refused ends it and leaves the document as given. */
export function applySteps(doc: Structure, steps: readonly Step[]): StepResult {
  let current = doc;
  for (const step of steps) {
    const result = applyStep(current, step);
    if (!result.ok) return result;
    current = result.doc;
  }
  return { ok: true, doc: current };
}
