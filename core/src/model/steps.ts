import { unsound } from './check.js';
import { inRange, overridesAt, rangeOf, withOverride, type InRange } from './overrides.js';
import type { Paint, TextRun } from './paint.js';
import { findPart, partsById, updatePart, updateParts, type Part, type Structure } from './part.js';
import { invertToken, withToken } from './tokenSteps.js';
import type { Bound, Token } from './tokens.js';
import { applyTreeStep, gone, invertTreeStep, type TreeResult, type TreeStep } from './treeSteps.js';
import { withChange, type RuleChange, type RuleName } from './rules.js';

/**
 * An edit of the document: a plain value that can be stored, sent, inverted and applied again.
 * - `setRules` sets or takes away rules of some parts at once; with `below`, in frames narrower than that, with `wide` in those
 *   that are wider than high: there `null` takes away what other frames have, and `leave` names rules that are to be as in
 *   those again.
 * - `rename` names a part.
 * - `answer` notes that a question about some parts was answered; with `open` that it is open again.
 * - `bind` says which tokens stand at a part's places.
 * - `pattern` makes parts copies of a pattern, or, with `null`, things of their own.
 * - `words` says what texts read, run by run, and how high their lines are.
 * - `paint` says what parts show, `null` nothing, and, where it is said, which items of the drawing they stand for.
 * - `token` makes a token, at a place among the others, changes it, names it anew, or, with `null`, takes it away: places that
 *   name it say their own value then.
 * - `several` are steps that are one edit.
 * - `replace` puts another subtree in the place of a part: for a new reading.
 * - The others change the tree: {@link TreeStep}.
 */
export type Step =
  | (InRange & {
      readonly kind: 'setRules';
      readonly parts: readonly {
        readonly id: string;
        readonly set: RuleChange;
        readonly leave?: readonly RuleName[];
      }[];
    })
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
  | {
      readonly kind: 'pattern';
      readonly parts: readonly { readonly id: string; readonly pattern: string | null }[];
    }
  | {
      readonly kind: 'words';
      readonly parts: readonly {
        readonly id: string;
        readonly runs: readonly TextRun[];
        readonly lineHeight?: number;
      }[];
    }
  | {
      readonly kind: 'paint';
      readonly parts: readonly {
        readonly id: string;
        readonly paint: Paint | null;
        readonly source?: readonly string[];
      }[];
    }
  | { readonly kind: 'token'; readonly name: string; readonly to: Token | null; readonly at?: number }
  | { readonly kind: 'several'; readonly steps: readonly Step[] }
  | { readonly kind: 'replace'; readonly id: string; readonly part: Part }
  | TreeStep;

/** What became of a step: the new document, or the sentence that says why not. */
export type StepResult =
  { readonly ok: true; readonly doc: Structure } | { readonly ok: false; readonly reason: string };

/** The part with a question answered, or open again. */
function answeredPart(part: Part, topic: string, open: boolean): Part {
  const { answered = [], ...rest } = part;
  // Sorted, so that an answer taken back and given again leaves the same part.
  const topics = [...answered.filter((t) => t !== topic), ...(open ? [] : [topic])].sort();
  return topics.length > 0 ? { ...rest, answered: topics } : rest;
}

type DocResult = { readonly doc: Structure } | { readonly reason: string };

/** The document after a step, whether it may stand or not. */
function docAfter(doc: Structure, step: Step): DocResult {
  if (step.kind === 'token') return withToken(doc, step);
  if (step.kind === 'several') {
    let next = doc;
    for (const one of step.steps) {
      const result = docAfter(next, one);
      if ('reason' in result) return result;
      next = result.doc;
    }
    return { doc: next };
  }
  const result = rootAfter(doc.root, step);
  if ('reason' in result) return result;
  return { doc: result.root === doc.root ? doc : { ...doc, root: result.root } };
}

/** The tree with what is said of each of some parts done to it in order, or why not. */
function eachChanged<T extends { readonly id: string }>(
  root: Part,
  said: readonly T[],
  change: (part: Part, how: T) => Part | string,
): TreeResult {
  const known = partsById(root);
  const changes = new Map<string, (part: Part) => Part>();
  let reason: string | undefined;
  for (const how of said) {
    if (!known.has(how.id)) return gone(how.id);
    const before = changes.get(how.id);
    changes.set(how.id, (part) => {
      const from = before?.(part) ?? part;
      const to = change(from, how);
      if (typeof to !== 'string') return to;
      reason ??= to;
      return from;
    });
  }
  const next = changes.size > 0 ? updateParts(root, changes) : root;
  return reason === undefined ? { root: next } : { reason };
}

/** The tree after a step that is about parts. */
function rootAfter(root: Part, step: Exclude<Step, { kind: 'several' | 'token' }>): TreeResult {
  switch (step.kind) {
    case 'setRules': {
      const range = rangeOf(step);
      return eachChanged(root, step.parts, (part, { set, leave = [] }) =>
        range === undefined
          ? { ...part, rules: withChange(part.rules, set) }
          : withOverride(part, range, set, leave),
      );
    }
    case 'rename': {
      if (!findPart(root, step.id)) return gone(step.id);
      const name = step.name.trim();
      if (name === '') return { reason: 'A part needs a name: type at least one letter.' };
      return { root: updatePart(root, step.id, (part) => ({ ...part, name })) };
    }
    case 'answer':
      return eachChanged(
        root,
        step.parts.map((id) => ({ id })),
        (part) => answeredPart(part, step.topic, step.open === true),
      );
    case 'bind':
      return eachChanged(root, step.parts, ({ bound: _before, ...part }, { bound }) =>
        Object.keys(bound).length > 0 ? { ...part, bound } : part,
      );
    case 'pattern':
      return eachChanged(root, step.parts, ({ pattern: _before, ...part }, { pattern }) =>
        pattern === null ? part : { ...part, pattern },
      );
    case 'words':
      return eachChanged(root, step.parts, (part, { runs, lineHeight }) => {
        const { content } = part;
        if (content?.kind !== 'text') return `“${part.name}” is no text: choose one.`;
        return { ...part, content: { ...content, runs, ...(lineHeight !== undefined && { lineHeight }) } };
      });
    case 'paint':
      return eachChanged(root, step.parts, ({ paint: _before, ...part }, { paint, source }) => ({
        ...part,
        ...(paint && { paint }),
        ...(source && { source }),
      }));
    case 'replace':
      return findPart(root, step.id) ? { root: updatePart(root, step.id, () => step.part) } : gone(step.id);
    default:
      return applyTreeStep(root, step);
  }
}

/** What was applied last: who asks what a step would do is followed by who takes it. */
let latest: { readonly doc: Structure; readonly step: Step; readonly result: StepResult } | undefined;

/**
 * Applies a step. The document given is never changed; a step that would break it is refused whole. Of several steps that are
 * one edit only what comes of all of them has to stand.
 */
export function applyStep(doc: Structure, step: Step): StepResult {
  if (latest?.doc !== doc || latest.step !== step) latest = { doc, step, result: applied(doc, step) };
  return latest.result;
}

function applied(doc: Structure, step: Step): StepResult {
  const result = docAfter(doc, step);
  if ('reason' in result) return { ok: false, reason: result.reason };
  const after = result.doc;
  if (after === doc) return { ok: true, doc };
  const problem = step.kind === 'answer' ? undefined : unsound(after, doc);
  return problem ? { ok: false, reason: problem.reason } : { ok: true, doc: after };
}

/** The step that takes `step` back, given the document before it. The step must apply to that document. */
export function invertStep(before: Structure, step: Step): Step {
  // Looked up one by one, the hundred copies of a pattern would be a hundred walks.
  const known = partsById(before.root);
  const part = (id: string): Part => {
    const found = known.get(id);
    if (!found)
      throw new RangeError(`Cannot invert a step on part ${id}: the document before it has no such part.`);
    return found;
  };
  switch (step.kind) {
    case 'setRules': {
      const range = rangeOf(step);
      return {
        kind: 'setRules',
        ...inRange(range),
        parts: step.parts.map(({ id, set, leave = [] }) => {
          const names = [...(Object.keys(set) as RuleName[]), ...leave];
          const before = part(id);
          if (range === undefined)
            return { id, set: Object.fromEntries(names.map((n) => [n, before.rules[n] ?? null])) };
          const said = overridesAt(before, range);
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
    case 'pattern':
      return {
        kind: 'pattern',
        parts: step.parts.map(({ id }) => ({ id, pattern: part(id).pattern ?? null })),
      };
    case 'words':
      return {
        kind: 'words',
        parts: step.parts.map(({ id }) => {
          const { content } = part(id);
          return content?.kind === 'text'
            ? { id, runs: content.runs, lineHeight: content.lineHeight }
            : { id, runs: [] };
        }),
      };
    case 'paint':
      return {
        kind: 'paint',
        parts: step.parts.map(({ id, source }) => {
          const { paint = null, source: was } = part(id);
          return { id, paint, ...(source && { source: was }) };
        }),
      };
    case 'token':
      return invertToken(before, step);
    case 'several': {
      let doc = before;
      const inverses = step.steps.map((s) => {
        const inverse = invertStep(doc, s);
        const next = docAfter(doc, s);
        if ('reason' in next) throw new RangeError(`Cannot invert steps that do not apply: ${next.reason}`);
        doc = next.doc;
        return inverse;
      });
      return { kind: 'several', steps: inverses.reverse() };
    }
    case 'replace':
      return { kind: 'replace', id: step.part.id, part: part(step.id) };
    default: {
      const back = invertTreeStep(before.root, step);
      const [only] = back;
      return only && back.length === 1 ? only : { kind: 'several', steps: back };
    }
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
