import { closest, distance } from 'fastest-levenshtein';
import type { CellKind } from './cells';

/** A word that differs by more letters than this is another word. */
const MOST_LETTERS = 2;

/** What might have been meant: the word that is nearest, the same numbers the other way round, or the first number alone. */
function* meant(text: string, words: readonly string[]): Generator<string> {
  const typed = text.trim().toLowerCase();
  if (words.length > 0 && /[a-z]/.test(typed)) {
    const word = closest(typed, words);
    if (distance(typed, word) <= MOST_LETTERS) yield word;
  }
  // A hyphen between two numbers is no sign.
  const numbers = [...typed.matchAll(/(?:(?<!\d)-)?\d+(?:\.\d+)?/g)].map(([n]) => n);
  const [first, second] = numbers;
  if (first !== undefined && second !== undefined) yield `${second}–${first}`;
  if (first !== undefined) {
    yield first;
    yield first.replace(/^-/, '');
    yield String(Math.round(Math.abs(Number(first))));
  }
}

/** The nearest to what was typed in a cell that it takes; undefined where nothing is near. */
export function nearestValid({ parse, words = [] }: CellKind, text: string): string | undefined {
  for (const value of meant(text, words)) if (parse?.(value).ok === true) return value;
  return undefined;
}
