import {
  findPart,
  placesOf,
  NO_PADDING,
  type Bound,
  type LengthPlace,
  type Part,
  type RuleChange,
  type Side,
  type Step,
  type Structure,
  type Token,
  type TokenPlace,
} from '../model/index.js';

const isText = (place: TokenPlace): boolean => place.startsWith('text.');

/** The rules of a part with a length at some places. */
function lengthsAt(part: Part, places: readonly LengthPlace[], px: number): RuleChange {
  const set: Record<string, unknown> = {};
  for (const place of places) {
    const side = /^padding\.(.*)$/.exec(place)?.[1] as Side | undefined;
    if (side) set['padding'] = { ...(set['padding'] ?? part.rules.padding ?? NO_PADDING), [side]: px };
    else if (place === 'width' || place === 'height') set[place] = { kind: 'fixed', px };
    else set[place] = px;
  }
  return set;
}

/** The steps after which a part says itself what a token said at its places. */
function saysItself(part: Part, places: readonly TokenPlace[], token: Token): Step[] {
  const { id, content } = part;
  if (token.kind === 'colour') {
    const steps: Step[] = [];
    if (places.includes('fill'))
      steps.push({
        kind: 'paint',
        parts: [{ id, paint: { ...part.paint, fill: { kind: 'solid', colour: token.value } } }],
      });
    if (places.includes('text.colour') && content?.kind === 'text')
      steps.push({
        kind: 'words',
        parts: [
          { id, runs: content.runs.map((r) => ({ ...r, style: { ...r.style, colour: token.value } })) },
        ],
      });
    return steps;
  }
  const steps: Step[] = [];
  const rules = places.filter((p): p is LengthPlace => !isText(p) && p !== 'fill');
  if (rules.length > 0) {
    steps.push({ kind: 'setRules', parts: [{ id, set: lengthsAt(part, rules, token.value) }] });
    for (const { width, value } of token.below ?? [])
      steps.push({
        kind: 'setRules',
        below: width,
        parts: [{ id, set: lengthsAt(part, rules, value) }],
      });
  }
  if (places.some(isText) && content?.kind === 'text')
    steps.push({
      kind: 'words',
      parts: [
        {
          id,
          runs: places.includes('text.size')
            ? content.runs.map((r) => ({ ...r, style: { ...r.style, size: token.value } }))
            : content.runs,
          ...(places.includes('text.lineHeight') && { lineHeight: token.value }),
        },
      ],
    });
  return steps;
}

/**
 * The steps after which a part says itself what tokens said at some of its places, in every range; or why that cannot be: type of
 * other sizes in narrower frames is said by tokens alone.
 */
export function released(
  structure: Structure,
  part: Part,
  places: readonly TokenPlace[],
): readonly Step[] | { readonly reason: string } {
  const { bound = {} } = part;
  const mine = places.filter((p) => bound[p] !== undefined);
  if (mine.length === 0) return [];
  const steps: Step[] = [];
  for (const token of structure.tokens ?? []) {
    const at = mine.filter((p) => bound[p] === token.name);
    if (at.some(isText) && token.kind === 'length' && (token.below ?? []).length > 0)
      return {
        reason: `“${token.name}” is smaller in narrower frames, and a text like “${part.name}” has one size: give the token one value first.`,
      };
    if (at.length > 0) steps.push(...saysItself(part, at, token));
  }
  const left = Object.fromEntries(
    Object.entries(bound).filter(([place]) => !mine.includes(place as TokenPlace)),
  ) as Bound;
  return [...steps, { kind: 'bind', parts: [{ id: part.id, bound: left }] }];
}

/** The step after which every place says itself what a token said there, and the token is gone; or why that cannot be. */
export function freed(structure: Structure, token: Token): Step | { readonly reason: string } {
  const byPart = new Map<string, TokenPlace[]>();
  for (const { part, place } of placesOf(structure.root, token.name))
    byPart.set(part.id, [...(byPart.get(part.id) ?? []), place]);
  const steps: Step[] = [];
  for (const [id, places] of byPart) {
    const part = findPart(structure.root, id);
    const own = part ? released(structure, part, places) : [];
    if ('reason' in own) return own;
    steps.push(...own);
  }
  return { kind: 'several', steps: [...steps, { kind: 'token', name: token.name, to: null }] };
}
