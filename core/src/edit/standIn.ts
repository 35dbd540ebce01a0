import { findPart, inRange, rangeWords, type Range, type Step, type Structure } from '../model/index.js';
import { leastMoving, none, type Answer } from './least.js';
import type { Bench } from './stands.js';

/** Lets the second of two parts stand in for the first in a range of frames: each is hidden where the other is shown. */
export function standIn(structure: Structure, ids: readonly string[], range: Range, bench: Bench): Answer {
  const [first, second] = ids.flatMap((id) => findPart(structure.root, id) ?? []);
  if (!first || !second || ids.length !== 2)
    return none('Choose two parts: the one for wide frames, and then the one that stands in for it.');
  if (findPart(first, second.id) || findPart(second, first.id))
    return none(`“${second.name}” and “${first.name}” lie in each other: choose parts that lie apart.`);
  const steps: Step[] = [
    { kind: 'setRules', parts: [{ id: second.id, set: { hidden: true } }] },
    {
      kind: 'setRules',
      ...inRange(range),
      parts: [
        { id: first.id, set: { hidden: true } },
        { id: second.id, set: { hidden: null } },
      ],
    },
  ];
  const label = `“${second.name}” for “${first.name}” ${rangeWords(range)}`;
  return leastMoving(structure, bench, label, [{ step: { kind: 'several', steps } }], second.id);
}
