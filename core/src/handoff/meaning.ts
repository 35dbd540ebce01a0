import { walk, wordSize, type Part, type TextContent } from '../model/index.js';

/** What a part is in the page: its element, and what is said of it for those who do not see it. */
export interface Meaning {
  readonly tag: string;
  readonly attributes: readonly (readonly [name: string, value: string])[];
}

/** The nouns at the end of a name by which a part is known for what it is: those of the reader, and what designers call them. */
const NOUNS: Readonly<Record<string, string>> = {
  header: 'header',
  'top bar': 'header',
  footer: 'footer',
  links: 'nav',
  nav: 'nav',
  navigation: 'nav',
  menu: 'nav',
  tabs: 'nav',
  dialog: 'dialog',
  button: 'button',
  link: 'a',
  field: 'field',
};

/** A name as the noun that it ends with, and what comes before it. */
function nounOf(name: string): { readonly noun: string | undefined; readonly of: string } {
  const words = name.trim().split(/\s+/);
  for (const count of [2, 1]) {
    const noun = NOUNS[words.slice(-count).join(' ').toLowerCase()];
    if (noun !== undefined) return { noun, of: words.slice(0, -count).join(' ') };
  }
  return { noun: undefined, of: name };
}

/** What holds no other such element (HTML §4.10.6 and §4.5.1: no interactive content within). */
const ACTIVE = new Set(['button', 'a']);

const hasWords = (part: Part): boolean => [...walk(part)].some((p) => p.kind === 'text');

/** The size that most letters have, px: what is larger is a heading. */
function bodySize(texts: readonly TextContent[]): number {
  const letters = new Map<number, number>();
  for (const { runs } of texts)
    for (const { text, style } of runs) letters.set(style.size, (letters.get(style.size) ?? 0) + text.length);
  return [...letters].reduce((best, [size, n]) => (n > best.n ? { size, n } : best), { size: 0, n: 0 }).size;
}

const sizeOf = (content: TextContent): number => wordSize(content) ?? 0;

/** No heading has more words than a line of a page holds. */
const MOST_LETTERS = 120;

/** The copy of a pattern that each part lies in, the outermost. */
function copiesAround(root: Part): ReadonlyMap<string, Part> {
  const found = new Map<string, Part>();
  const visit = (part: Part, copy: Part | undefined): void => {
    const own = copy ?? (part.pattern === undefined ? undefined : part);
    if (own) found.set(part.id, own);
    part.children.forEach((c) => {
      visit(c, own);
    });
  };
  visit(root, undefined);
  return found;
}

/** A copy has one heading at the most, its largest words, so that all copies have the same. */
function isHeadOf(part: Part, copy: Part | undefined): boolean {
  if (!copy) return true;
  const size = (p: Part): number => (p.content?.kind === 'text' ? sizeOf(p.content) : 0);
  return [...walk(copy)].reduce((best, p) => (size(p) > size(best) ? p : best), copy) === part;
}

/**
 * The headings by part, with their levels: words larger than most, the largest of all first. One after a larger is a level below
 * it, so that no level is left out.
 */
function headings(root: Part, isOpen: (part: Part) => boolean): Map<string, number> {
  const texts = [...walk(root)].flatMap((part) =>
    part.content?.kind === 'text' && isOpen(part) ? [{ part, content: part.content }] : [],
  );
  const body = bodySize(texts.map((t) => t.content));
  const within = copiesAround(root);
  const large = texts.filter(
    ({ part, content }) =>
      isHeadOf(part, within.get(part.id)) &&
      sizeOf(content) > body &&
      content.runs.reduce((n, r) => n + r.text.length, 0) <= MOST_LETTERS,
  );
  const first = large.reduce((n, t) => Math.max(n, sizeOf(t.content)), 0);
  const levels = new Map<string, number>();
  const above: number[] = [];
  for (const { part, content } of large) {
    const size = sizeOf(content);
    while (above.length > 0 && (above.at(-1) as number) <= size) above.pop();
    // The page's own heading is its largest; what stands before it is no heading.
    if (above.length === 0 && size < first && levels.size === 0) continue;
    if (above.length === 0 && levels.size > 0) above.push(first);
    above.push(size);
    levels.set(part.id, Math.min(6, above.length));
  }
  return levels;
}

/** The part that is the page's main: what stands beside bars or, where that is several parts or there are none, what holds all. */
function mainOf(root: Part): Part {
  const isBar = (p: Part) => ['header', 'footer', 'nav', 'dialog'].includes(nounOf(p.name).noun ?? '');
  let part = root;
  for (;;) {
    const beside = part.children.filter((c) => !isBar(c) && !c.rules.pin);
    const [only] = beside;
    const isOpen = only?.kind === 'container' && nounOf(only.name).noun === undefined;
    if (!only || !isOpen || beside.length > 1) return part;
    if (beside.length < part.children.length) return only;
    part = only;
  }
}

/** Several copies of one pattern, and nothing else, are a list. */
const isList = (part: Part): boolean =>
  part.children.length > 1 &&
  part.children.every(
    (c) => c.pattern !== undefined && c.pattern === part.children[0]?.pattern && c.kind === 'container',
  );

/**
 * What the parts of a screen are, by id. It is told by their names, which the reader gives and the designer changes, and by the
 * sizes of their words; it never changes how anything stands.
 */
export function meaningsOf(root: Part): ReadonlyMap<string, Meaning> {
  const found = new Map<string, Meaning>();
  const main = mainOf(root);
  const closed = new Set<Part>();
  const tags = new Map<Part, string>();
  const visit = (part: Part, active: boolean, inBar: boolean): void => {
    // The frame and its main part are what they are, whatever they are called.
    const noun = part === root || part === main ? undefined : nounOf(part.name).noun;
    if (active) closed.add(part);
    const own = active ? undefined : noun;
    const bar = own === 'header' || own === 'footer';
    if (own !== undefined && !(bar && inBar)) tags.set(part, own);
    const isActive = active || (own !== undefined && ACTIVE.has(own));
    for (const child of part.children) {
      // In a bar of links each of them leads somewhere.
      const leads = !isActive && own === 'nav' && hasWords(child) && !nounOf(child.name).noun;
      if (leads) tags.set(child, 'a');
      visit(child, isActive || leads, inBar || bar);
      if (leads) {
        tags.set(child, 'a');
        closed.delete(child);
      }
    }
  };
  visit(root, false, false);
  const levels = headings(root, (p) => !closed.has(p) && !tags.has(p));
  const items = new Set<Part>();
  for (const part of walk(root))
    // A list's item is no list besides, and what is a button, a field or the page's main is no list or item.
    if ([part, ...part.children].every((p) => p !== main && !closed.has(p) && !tags.has(p)))
      if (!items.has(part) && isList(part)) part.children.forEach((c) => items.add(c));
  for (const part of walk(root)) {
    const level = levels.get(part.id);
    found.set(part.id, meaning(part, closed.has(part), tags.get(part), level, part === main, items));
  }
  return found;
}

function meaning(
  part: Part,
  inActive: boolean,
  tag: string | undefined,
  level: number | undefined,
  isMain: boolean,
  items: ReadonlySet<Part>,
): Meaning {
  const say = (name: string, ...attributes: Meaning['attributes']): Meaning => ({ tag: name, attributes });
  const { of } = nounOf(part.name);
  const label = (word: string): [string, string][] => (word === '' ? [] : [['aria-label', word]]);
  // Where nothing is written, the name says what it is for.
  const unwritten = hasWords(part) ? [] : label(of);
  if (inActive) return say('span');
  switch (tag) {
    case 'header':
    case 'footer':
      return say(tag);
    case 'nav':
      return say('nav', ...label(of || part.name));
    case 'dialog':
      return say('div', ['role', 'dialog'], ...label(of || part.name));
    case 'button':
      return say('button', ['type', 'button'], ...unwritten);
    case 'a':
      return say('a', ['href', '#'], ...unwritten);
    case 'field':
      return say('div', ['role', 'group'], ...label(of || part.name));
    default:
  }
  if (isMain) return say('main');
  if (items.has(part)) return say('li');
  if (part.children.length > 0 && part.children.every((c) => items.has(c))) return say('ul');
  if (level !== undefined) return say(`h${level}`);
  return say(part.kind === 'text' ? 'p' : 'div');
}
