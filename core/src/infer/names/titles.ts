import { readableText, type Part, type Structure } from '../../model/index.js';

/** Words beyond this length are cut: a name is for finding, not for reading. */
const MAX = 28;
/** Of the words in a container its name takes these many letters. */
const TITLE_MAX = 22;
/** Bold letters stand out as if they were larger by this. */
const BOLD = { from: 600, as: 1.15 };

function clip(text: string, max: number): string {
  if (text.length <= max) return text;
  const words = text.slice(0, max + 1).replace(/\s+\S*$/, '');
  return words.length > 3 && words.length <= max
    ? words.replace(/[\s,;:–—-]+$/, '')
    : `${text.slice(0, max - 1)}…`;
}

const said = (part: Part): string =>
  part.content?.kind === 'text' ? readableText(part.content).replace(/\s+/g, ' ').trim() : '';

/** The words of a text, cut to a name; empty for what is no text. */
export const wordsOf = (part: Part): string => clip(said(part), MAX);

/** How much a text stands out: its size, px, and more where it is bold. */
function standsOut(part: Part): number {
  const style = part.content?.kind === 'text' ? part.content.runs[0]?.style : undefined;
  return style ? style.size * (style.weight >= BOLD.from ? BOLD.as : 1) : 0;
}

const isWord = (words: string): boolean => /\p{L}{2}/u.test(words);

/** The words that stand out most in each part, the first of equals; words before mere numbers. Empty where there are none. */
export function titlesOf(root: Part): ReadonlyMap<Part, string> {
  const titles = new Map<Part, string>();
  type Best = { readonly text: string; readonly out: number; readonly isWord: boolean };
  const better = (a: Best, b: Best): Best =>
    a.isWord !== b.isWord ? (a.isWord ? a : b) : b.out > a.out + 0.1 ? b : a;
  const none: Best = { text: '', out: 0, isWord: false };
  const visit = (part: Part): Best => {
    const text = said(part);
    const own = text ? { text, out: standsOut(part), isWord: isWord(text) } : none;
    const best = part.children.map(visit).reduce(better, own);
    titles.set(part, clip(best.text, TITLE_MAX));
    return best;
  };
  visit(root);
  return titles;
}

/** What stands out most on a screen: what it is called by where nothing else names it; empty where it has no words. */
export const headingOf = ({ root }: Structure): string => titlesOf(root).get(root) ?? '';
