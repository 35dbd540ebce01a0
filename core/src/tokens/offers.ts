import {
  alikeKeys,
  partsById,
  walk,
  type Bound,
  type Part,
  type Step,
  type Structure,
  type Token,
} from '../model/index.js';
import { valuesOf, type PlacedValue } from './places.js';

/** A value that stands at several places and has no name yet. */
export interface Offer {
  readonly token: Token;
  readonly sort: PlacedValue['sort'];
  readonly places: readonly PlacedValue[];
}

/**
 * In how many rules a length stands before it is offered: what stands in fewer repeats nothing. A colour is offered wherever it
 * stands, since it can be another in another mode only by its name.
 */
const LEAST_RULES = 2;

/** What each sort is called by. Colours are counted, since no number says them; the most used has no number. */
const WORDS: Readonly<Record<PlacedValue['sort'], string>> = {
  space: 'space',
  size: 'size',
  type: 'type',
  line: 'line',
  fill: 'fill',
  ink: 'ink',
};

/** A name that no token has yet: the word, and where that is taken the word with a number. */
function freeName(word: string, taken: ReadonlySet<string>): string {
  let name = word;
  for (let n = 2; taken.has(name); n++) name = `${word}-no-${n}`;
  return name;
}

/** The lengths that repeat and the colours that have no token, those with the most places first. */
export function offeredTokens(structure: Structure): Offer[] {
  const groups = new Map<string, PlacedValue[]>();
  for (const part of walk(structure.root))
    for (const at of valuesOf(part)) {
      if (part.bound?.[at.place] !== undefined) continue;
      const key = JSON.stringify([at.sort, at.value, at.below]);
      groups.set(key, [...(groups.get(key) ?? []), at]);
    }
  const keys = alikeKeys(structure.root);
  // Copies of a pattern say one rule, and so do the sides of a padding.
  const rulesAmong = (places: readonly PlacedValue[]): number =>
    new Set(places.map(({ part, place }) => `${keys.get(part) ?? part} ${place.split('.')[0] ?? ''}`)).size;
  const taken = new Set((structure.tokens ?? []).map((t) => t.name));
  const counted = new Map<string, number>();
  return [...groups.values()]
    .filter((places) => typeof places[0]?.value === 'string' || rulesAmong(places) >= LEAST_RULES)
    .sort((a, b) => b.length - a.length)
    .flatMap((places): Offer[] => {
      const [first] = places;
      if (!first) return [];
      const { sort, value, below } = first;
      const n = (counted.get(sort) ?? 0) + 1;
      counted.set(sort, n);
      const number =
        typeof value === 'number'
          ? [value, ...below.map((b) => b.value)].join('-').replaceAll('.', 'p')
          : n === 1
            ? ''
            : String(n);
      const name = freeName(number === '' ? WORDS[sort] : `${WORDS[sort]}-${number}`, taken);
      taken.add(name);
      const token: Token =
        typeof value === 'number'
          ? { kind: 'length', name, value, ...(below.length > 0 && { below }) }
          : { kind: 'colour', name, value };
      return [{ token, sort, places }];
    });
}

/** The steps that make tokens and let each stand at its places, beside those that stand there already. */
export function takeOffers(root: Part, offers: readonly Pick<Offer, 'token' | 'places'>[]): Step[] {
  const parts = partsById(root);
  const byPart = new Map<string, Bound>();
  for (const { token, places } of offers)
    for (const { part, place } of places)
      byPart.set(part, { ...(byPart.get(part) ?? parts.get(part)?.bound), [place]: token.name });
  return [
    ...offers.map(({ token }): Step => ({ kind: 'token', name: token.name, to: token })),
    ...(byPart.size > 0
      ? [{ kind: 'bind' as const, parts: [...byPart].map(([id, bound]) => ({ id, bound })) }]
      : []),
  ];
}
