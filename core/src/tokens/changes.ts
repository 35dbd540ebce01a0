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
      steps.push({ kind: 'fill', parts: [{ id, fill: { kind: 'solid', colour: token.value } }] });
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
 * The step after which every place says itself what a token said there, and the token is gone; or why that cannot be: type of
 * other sizes in narrower frames is said by tokens alone.
 */
export function freed(structure: Structure, token: Token): Step | { readonly reason: string } {
  const places = placesOf(structure.root, token.name);
  const inText = places.find((p) => isText(p.place));
  if (inText && token.kind === 'length' && (token.below ?? []).length > 0)
    return {
      reason: `“${token.name}” is smaller in narrower frames, and a text like “${inText.part.name}” has one size: give the token one value first.`,
    };
  const byPart = new Map<string, TokenPlace[]>();
  for (const { part, place } of places) byPart.set(part.id, [...(byPart.get(part.id) ?? []), place]);
  const steps = [...byPart].flatMap(([id, at]): Step[] => {
    const part = findPart(structure.root, id);
    if (!part) return [];
    const bound = Object.fromEntries(
      Object.entries(part.bound ?? {}).filter(([, name]) => name !== token.name),
    ) as Bound;
    return [...saysItself(part, at, token), { kind: 'bind', parts: [{ id, bound }] }];
  });
  return { kind: 'several', steps: [...steps, { kind: 'token', name: token.name, to: null }] };
}
