import { munkres } from 'munkres';
import type { Drawing, Item, TextItem } from '../drawing/index.js';
import { plainText, type Paint } from '../model/index.js';

/** Two items whose likeness costs as much as this are not the same thing. */
const UNLIKE = 1;
/** What one that stands elsewhere in the order costs at the most. */
const ELSEWHERE = 0.55;
/** By so many places in the order, in shares of the longer list, it is elsewhere altogether. */
const FAR = 0.12;
/** Beyond this many pairs of one kind only things that look equal are matched, in their order. */
const MOST_PAIRS = 4_000_000;

const wordsOf = (item: TextItem): string => plainText(item.content).replace(/\s+/g, ' ').trim().toLowerCase();

/** How unlike two texts are in their words: 0 for equal ones, 1 for no word in common. */
function wordsDistance(a: string, b: string): number {
  if (a === b) return 0;
  const [x, y] = [a.split(' '), b.split(' ')];
  const rest = [...y];
  let common = 0;
  for (const word of x) {
    const at = rest.indexOf(word);
    if (at >= 0) {
      common++;
      rest.splice(at, 1);
    }
  }
  return 1 - (2 * common) / (x.length + y.length);
}

const ratioCost = (a: number, b: number): number => Math.abs(Math.log(Math.max(a, 1) / Math.max(b, 1)));

function paintCost(a: Paint, b: Paint): number {
  const differ = (k: keyof Paint) => JSON.stringify(a[k]) !== JSON.stringify(b[k]);
  return (
    (differ('fill') ? 0.45 : 0) +
    (differ('stroke') ? 0.3 : 0) +
    (differ('radius') ? 0.1 : 0) +
    (differ('shadow') ? 0.1 : 0) +
    (differ('opacity') ? 0.1 : 0)
  );
}

/** How unlike two items are in content and paint, whatever their place; at least {@link UNLIKE} for unlike kinds. */
function looksCost(a: Item, b: Item): number {
  if (a.kind === 'text' && b.kind === 'text') {
    const [s, t] = [a.content.runs[0]?.style, b.content.runs[0]?.style];
    const words = wordsDistance(wordsOf(a), wordsOf(b));
    const style =
      ratioCost(s?.size ?? 16, t?.size ?? 16) * 0.4 +
      (s?.weight === t?.weight ? 0 : 0.1) +
      (s?.colour === t?.colour ? 0 : 0.15);
    return words * 1.3 + style;
  }
  if (a.kind === 'picture' && b.kind === 'picture')
    return (a.content.href === b.content.href ? 0 : 0.5) + 0.1 * ratioCost(a.box.width, b.box.width);
  if (a.kind === 'art' && b.kind === 'art') {
    const [p, q] = [a.content, b.content];
    const same = p.kind === 'art' && q.kind === 'art' && p.paths.length === q.paths.length;
    const equal = same && p.paths.every((x, i) => x.d.length === q.paths[i]?.d.length);
    return (equal ? 0 : same ? 0.25 : 0.6) + 0.3 * ratioCost(a.box.height, b.box.height);
  }
  if (a.kind === 'shape' && b.kind === 'shape') {
    const thin = (i: Item) => Math.min(i.box.width, i.box.height) < 3;
    return (
      paintCost(a.paint, b.paint) +
      (thin(a) === thin(b) ? 0 : 0.3) +
      0.12 * ratioCost(a.box.height, b.box.height) +
      0.06 * ratioCost(a.box.width, b.box.width)
    );
  }
  return UNLIKE;
}

/** The longest run of pairs that keep their order on both sides. */
function inOrder(pairs: readonly (readonly [number, number])[]): (readonly [number, number])[] {
  const tails: { pair: readonly [number, number]; before: number }[] = [];
  const chain: { pair: readonly [number, number]; before: number }[] = [];
  const ends: number[] = [];
  for (const pair of pairs) {
    let at = ends.findIndex((e) => (chain[e]?.pair[1] ?? 0) > pair[1]);
    if (at < 0) at = ends.length;
    chain.push({ pair, before: at > 0 ? (ends[at - 1] ?? -1) : -1 });
    ends[at] = chain.length - 1;
  }
  for (let at = ends.at(-1) ?? -1; at >= 0; at = chain[at]?.before ?? -1)
    tails.push(chain[at] as (typeof chain)[number]);
  return tails.map((t) => t.pair).reverse();
}

/** Where in the second list a place of the first is to be looked for: between the anchors around it. */
function expected(anchors: readonly (readonly [number, number])[], lengths: readonly [number, number]) {
  const all = [[-1, -1] as const, ...anchors, [lengths[0], lengths[1]] as const];
  return (i: number): number => {
    const next = all.findIndex(([a]) => a >= i);
    const [a1, b1] = all[next] ?? [i, i];
    const [a0, b0] = all[next - 1] ?? [a1, b1];
    return a1 === a0 ? b1 : b0 + ((i - a0) / (a1 - a0)) * (b1 - b0);
  };
}

/** Texts whose words stand once on each side: the same thing beyond doubt. */
function anchorsOf(a: readonly Item[], b: readonly Item[]): (readonly [number, number])[] {
  const once = (items: readonly Item[]) => {
    const found = new Map<string, number>();
    items.forEach((item, i) => {
      if (item.kind !== 'text') return;
      const words = wordsOf(item);
      found.set(words, found.has(words) ? -1 : i);
    });
    return found;
  };
  const other = once(b);
  const pairs = [...once(a)].flatMap(([words, i]) => {
    const j = other.get(words) ?? -1;
    return i >= 0 && j >= 0 ? [[i, j] as const] : [];
  });
  return inOrder(pairs.sort((x, y) => x[0] - y[0]));
}

/**
 * Which items of two drawings of one screen are the same thing, as pairs of ids of the first and of the second. What
 * tells is content, kind, paint and order, not ids: the cheapest assignment within each kind is taken (Kuhn–Munkres),
 * and pairs that cost too much are none.
 */
export function matchItems(first: Drawing, second: Drawing): ReadonlyMap<string, string> {
  const [a, b] = [first.items, second.items];
  const anchors = anchorsOf(a, b);
  const place = expected(anchors, [a.length, b.length]);
  const scale = Math.max(8, Math.max(a.length, b.length) * FAR);
  const found = new Map<string, string>();
  for (const kind of ['text', 'picture', 'art', 'shape'] as const) {
    const [from, to] = [a, b].map((list) =>
      list.flatMap((item, i) => (item.kind === kind ? [{ item, i }] : [])),
    ) as [{ item: Item; i: number }[], { item: Item; i: number }[]];
    if (from.length === 0 || to.length === 0) continue;
    if (from.length * to.length > MOST_PAIRS) {
      equalInOrder(from, to).forEach(([x, y]) => found.set(x.id, y.id));
      continue;
    }
    const costs = from.map(({ item, i }) => {
      const at = place(i);
      return to.map(({ item: other, i: j }) => {
        const looks = looksCost(item, other);
        return looks >= UNLIKE
          ? UNLIKE
          : Math.min(UNLIKE, looks + ELSEWHERE * Math.min(1, Math.abs(at - j) / scale));
      });
    });
    for (const [x, y] of munkres(costs)) {
      const [p, q] = [from[x], to[y]];
      if (p && q && (costs[x]?.[y] ?? UNLIKE) < UNLIKE) found.set(p.item.id, q.item.id);
    }
  }
  return found;
}

function equalInOrder(
  from: readonly { item: Item }[],
  to: readonly { item: Item }[],
): (readonly [Item, Item])[] {
  const look = (item: Item): string =>
    item.kind === 'text'
      ? wordsOf(item)
      : item.kind === 'picture'
        ? (item.content.href ?? '')
        : JSON.stringify(item.paint);
  const waiting = new Map<string, Item[]>();
  for (const { item } of to) waiting.set(look(item), [...(waiting.get(look(item)) ?? []), item]);
  return from.flatMap(({ item }) => {
    const other = waiting.get(look(item))?.shift();
    return other ? [[item, other] as const] : [];
  });
}
