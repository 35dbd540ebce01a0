import type { Engine } from '../layout/index.js';
import { reflow } from '../layout/index.js';
import { standing, type Part, type RuleName, type Step, type Structure } from '../model/index.js';
import { alternativesTo, type Alternative } from './alternatives.js';
import { evidenceOf, type Place } from './evidence.js';

/** A rule that the reader inferred, with what speaks for it. */
export interface Decision {
  readonly part: string;
  readonly rule: RuleName;
  /** A sentence that says what was seen, with numbers. */
  readonly evidence: string;
  /** 0 to 1. */
  readonly confidence: number;
  /** What the drawing could have meant instead. */
  readonly runnerUp?: RunnerUp;
}

/** The next best choice at a part, with the step that takes it. */
export interface RunnerUp {
  readonly topic: Alternative['topic'];
  readonly chosen: string;
  readonly other: string;
  readonly step: Step;
}

/** All parts where they stand in a frame of a width. */
export function placesOf(structure: Structure, width: number, engine: Engine): Place[] {
  const root = standing(structure, { width });
  const { parts: boxes } = reflow(root, width, engine);
  const places: Place[] = [];
  const visit = (part: Part, parent?: Part): void => {
    const box = boxes.get(part.id);
    const parentBox = parent && boxes.get(parent.id);
    if (!box) return;
    places.push({ part, box, boxes, ...(parent && { parent }), ...(parentBox && { parentBox }) });
    for (const child of part.children) visit(child, part);
  };
  visit(root);
  return places;
}

/** An alternative at a part. */
export interface AtPart {
  readonly id: string;
  readonly alternative: Alternative;
}

/** The step that takes one alternative at some alike parts. */
export function stepFor(places: readonly AtPart[]): Step {
  const [first] = places;
  const below = first?.alternative.below;
  if (first?.alternative.bound)
    return {
      kind: 'bind',
      parts: places.flatMap(({ id, alternative: { bound } }) => (bound ? [{ id, bound }] : [])),
    };
  return {
    kind: 'setRules',
    ...(below !== undefined && { below }),
    parts: places.flatMap(({ id, alternative: { set, rules, withChildren = [] } }) =>
      below === undefined
        ? [{ id, set }]
        : [{ id, set: {}, leave: rules }, ...withChildren.map((c) => ({ ...c, set: {} }))],
    ),
  };
}

/** The decisions that made a part's rules. */
export function decisionsAt(place: Place): Decision[] {
  const { part } = place;
  const alternatives = alternativesTo(place);
  return (Object.keys(part.rules) as RuleName[]).flatMap((rule): Decision[] => {
    const evidence = evidenceOf(rule, place);
    const other = alternatives.find((a) => a.below === undefined && a.rules.includes(rule));
    if (!evidence && !other) return [];
    return [
      {
        part: part.id,
        rule,
        evidence: evidence?.says ?? '',
        confidence: Math.min(evidence?.sure ?? 1, other?.sure ?? 1),
        ...(other && {
          runnerUp: {
            topic: other.topic,
            chosen: other.chosen,
            other: other.other,
            step: stepFor([{ id: part.id, alternative: other }]),
          },
        }),
      },
    ];
  });
}
