import { applyStep, type Step, type Structure } from '../model/index.js';
import { isRefusal, type Answer } from './least.js';
import { movedBy, standingOf, type Bench } from './stands.js';

/**
 * One operation at several alike places, as one step: what the first place answers is what all do. A place that refuses what the
 * first takes stays as it is, and that is said.
 */
export function onEach<T>(
  structure: Structure,
  places: readonly T[],
  bench: Bench,
  operation: (doc: Structure, place: T) => Answer,
): Answer {
  const [head, ...others] = places;
  if (head === undefined) return { reason: 'Choose a part first.', instead: [] };
  const first = operation(structure, head);
  if (isRefusal(first) || others.length === 0) return first;
  const steps: Step[] = [];
  const notes = [...first.notes];
  let doc = structure;
  for (const place of places) {
    const answer = place === head ? first : operation(doc, place);
    const result = isRefusal(answer) ? undefined : applyStep(doc, answer.step);
    if (isRefusal(answer) || !result?.ok) {
      notes.push('One of the copies is made otherwise and stays as it is.');
      continue;
    }
    steps.push(answer.step);
    doc = result.doc;
  }
  return {
    ...first,
    label: `${first.label}, in ${steps.length} copies`,
    step: { kind: 'several', steps },
    moved: movedBy(standingOf(structure, bench), doc, bench),
    notes,
  };
}
