import type { Part, Step, Structure } from '../model/index.js';

/** Where each part stands in the pattern that it is a copy in: the same for all copies. A part of none stands for itself. */
export function placesIn(root: Part): ReadonlyMap<string, string> {
  const places = new Map<string, string>();
  const visit = (part: Part, within: string | undefined): void => {
    const place = part.pattern ?? within;
    places.set(part.id, place ?? part.id);
    part.children.forEach((child, i) => {
      visit(child, place === undefined ? undefined : `${place}/${i}`);
    });
  };
  visit(root, undefined);
  return places;
}

/** The ids of the parts at each place. */
function partsAt(places: ReadonlyMap<string, string>): ReadonlyMap<string, readonly string[]> {
  const at = new Map<string, string[]>();
  for (const [id, place] of places) at.set(place, [...(at.get(place) ?? []), id]);
  return at;
}

/**
 * Says of all copies of each part what a step that sets rules says of it; the function gives undefined for a step where that is no
 * more than it says.
 */
export function inAllCopies({ root }: Structure): (step: Step) => Step | undefined {
  const places = placesIn(root);
  const at = partsAt(places);
  let added = 0;
  const spread = (one: Step): Step => {
    if (one.kind === 'several') return { ...one, steps: one.steps.map(spread) };
    if (one.kind !== 'setRules') return one;
    const said = new Map(one.parts.map((p) => [p.id, p]));
    for (const part of one.parts)
      for (const id of at.get(places.get(part.id) ?? '') ?? [])
        if (!said.has(id)) {
          said.set(id, { ...part, id });
          added++;
        }
    return { ...one, parts: [...said.values()] };
  };
  return (step) => {
    added = 0;
    const all = spread(step);
    return added > 0 ? all : undefined;
  };
}
