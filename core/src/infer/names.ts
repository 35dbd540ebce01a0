import { isLeaf, type Node } from './node.js';
import { words } from './widths.js';

/** Words beyond this length are cut: a name is for finding, not for reading. */
const MAX = 28;
/** Of the words in a container its name takes these many letters. */
const WORDS_MAX = 18;

const clip = (text: string, max = MAX): string => {
  if (text.length <= max) return text;
  const words = text.slice(0, max).replace(/\s+\S*$/, '');
  return `${words.length > 3 ? words : text.slice(0, max - 1)}…`;
};

const firstWords = (node: Node): string | undefined => {
  const own = words(node);
  if (own) return own;
  for (const child of [...node.children, ...node.pins]) {
    const found = firstWords(child);
    if (found) return found;
  }
  return undefined;
};

/** A name from the words, the role and the make-up of a node. */
export function nameOf(node: Node): string {
  const { item } = node;
  const own = words(node);
  if (own) return clip(own);
  const inner = firstWords(node);
  if (isLeaf(node)) {
    if (item?.kind === 'text') return 'Drawn words';
    if (item?.kind === 'picture') return 'Picture';
    if (item?.kind === 'art') return Math.max(node.box.width, node.box.height) > 64 ? 'Illustration' : 'Icon';
    if (Math.min(node.box.width, node.box.height) <= 2.5) return 'Rule';
    return item?.paint.radius === 'round' ? 'Disc' : 'Shape';
  }
  const small = node.box.height <= 56 && node.box.width <= 320;
  const kind = item
    ? small
      ? 'button'
      : 'card'
    : node.flow === 'row'
      ? 'row'
      : node.flow === 'column'
        ? 'stack'
        : 'group';
  return inner ? `${clip(inner, WORDS_MAX)} ${kind}` : kind.charAt(0).toUpperCase() + kind.slice(1);
}

/** Gives every name once: a second one of the same gets a number. */
export class Names {
  readonly #taken = new Map<string, number>();

  take(name: string): string {
    const n = (this.#taken.get(name) ?? 0) + 1;
    this.#taken.set(name, n);
    return n === 1 ? name : `${name} ${n}`;
  }
}
