import { applyStep, type Step, type Structure } from '../model/index.js';
import { isRefusal, type Answer } from './least.js';
import { movedBy, standingOf, type Bench } from './stands.js';

/** The step of an answer and the document after it; undefined where there is none. */
function applied(doc: Structure, answer: Answer): { step: Step; doc: Structure } | undefined {
  if (isRefusal(answer)) return undefined;
  const result = applyStep(doc, answer.step);
  return result.ok ? { step: answer.step, doc: result.doc } : undefined;
}

type Setting = Extract<Step, { kind: 'setRules' }>;

/** What is answered for each of several places as one step, where all of it sets rules in one range and no part is named twice. */
function setAtOnce(answers: readonly Answer[]): Setting | undefined {
  const steps = answers.map((a) => (isRefusal(a) ? undefined : a.step));
  const [first] = steps;
  if (first?.kind !== 'setRules') return undefined;
  const isAlike = (step: Step | undefined): step is Setting =>
    step?.kind === 'setRules' && step.below === first.below && step.wide === first.wide;
  if (!steps.every(isAlike)) return undefined;
  const parts = steps.flatMap((s) => s.parts);
  return new Set(parts.map((p) => p.id)).size === parts.length ? { ...first, parts } : undefined;
}

/**
 * One operation at several alike places, as one step: what the first place answers is what all do. A place that refuses what the
 * first takes stays as it is, and that is said.
 */
export function onEach<T>(
  structure: Structure,
  places: readonly T[],
  bench: Bench,
  operation: (doc: Structure, place: T, bench: Bench) => Answer,
): Answer {
  const [head, ...others] = places;
  if (head === undefined) return { reason: 'Choose a part first.', instead: [] };
  const first = operation(structure, head, bench);
  if (isRefusal(first) || others.length === 0) return first;
  // Every copy as it stands now, and not after those before it: that is what was seen when the operation was chosen.
  const standing = standingOf(structure, bench);
  const alike: Bench | undefined =
    first.way === undefined ? undefined : { ...bench, as: { standing, way: first.way } };
  // Rules of unlike parts do not depend on each other: they are set at once, since a hundred steps would be a hundred trees.
  const atOnce =
    alike && first.step.kind === 'setRules'
      ? setAtOnce([first, ...others.map((place) => operation(structure, place, alike))])
      : undefined;
  const done = atOnce && applyStep(structure, atOnce);
  if (atOnce && done?.ok)
    return {
      ...first,
      label: `${first.label}, in ${places.length} copies`,
      step: atOnce,
      moved: movedBy(standing, done.doc, bench),
    };
  const steps: Step[] = [];
  const notes = [...first.notes];
  let doc = structure;
  for (const place of places) {
    // A copy that cannot do what the first did may do it in a way of its own.
    const done =
      place === head
        ? applied(doc, first)
        : ((alike && applied(doc, operation(doc, place, alike))) ??
          applied(doc, operation(doc, place, bench)));
    if (!done) {
      notes.push('One of the copies is made otherwise and stays as it is.');
      continue;
    }
    steps.push(done.step);
    doc = done.doc;
  }
  return {
    ...first,
    label: `${first.label}, in ${steps.length} copies`,
    step: { kind: 'several', steps },
    moved: movedBy(standing, doc, bench),
    notes,
  };
}
