import { alikeKeys, walk, type Part } from '../model/index.js';

/** A name as it may stand in a class, a file name or a tag: small latin letters, digits and hyphens, a letter first. */
export const slug = (name: string): string =>
  name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 40)
    .replace(/^(\d)/, 'n$1') || 'part';

/** A name as a component or a variable has it: `SailingCard`. */
export const pascal = (name: string): string =>
  slug(name)
    .split('-')
    .map((w) => (w[0]?.toUpperCase() ?? '') + w.slice(1))
    .join('');

/** A name as a property has it: `sailingCard`. */
export const camel = (name: string): string => {
  const word = pascal(name);
  return (word[0]?.toLowerCase() ?? '') + word.slice(1);
};

/** A name that none of those taken is, with a number behind it where it needs one; it is taken then. */
export function fresh(base: string, taken: Set<string>, join = '-'): string {
  let name = base;
  for (let n = 2; taken.has(name); n++) name = `${base}${join}${n}`;
  taken.add(name);
  return name;
}

/**
 * A class for every part, made from its name; in the copies of a pattern from that of the first, whatever words stand there. Parts
 * of one name that are styled alike share it, so that a pattern has one rule; one that is styled otherwise gets a number. `styled` is all that the style sheet says of a part.
 */
export function classNames(root: Part, styled: (part: Part) => string): Map<string, string> {
  const taken = new Set<string>([
    'frame',
    'turned',
    'drawn-word',
    'drawn-space',
    'unheld',
    'unheld-wide',
    'picture-fill',
  ]);
  const alike = new Map<string, string>();
  const names = new Map<string, string>();
  const places = alikeKeys(root);
  const called = new Map<string, string>();
  for (const part of walk(root)) {
    const place = places.get(part.id) ?? part.id;
    const base = called.get(place) ?? slug(part.name);
    called.set(place, base);
    const key = `${base} ${styled(part)}`;
    let name = alike.get(key);
    if (name === undefined) alike.set(key, (name = fresh(base, taken)));
    names.set(part.id, name);
  }
  return names;
}
