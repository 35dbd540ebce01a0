/** A word of the rule line, with what may follow it. */
export interface RuleWord {
  readonly word: string;
  /** What follows it; empty for a word that stands alone. */
  readonly takes: string;
  readonly says: string;
  /** A line that the rule line takes. */
  readonly example: string;
}

const TRADE = 'start, middle, end, stretch or base';

/** The words of the rule line, in the order in which they are explained. */
export const RULE_WORDS: readonly RuleWord[] = [
  { word: 'col', takes: '', says: 'its parts stand one below another', example: 'col gap 12' },
  { word: 'row', takes: '', says: 'its parts stand side by side', example: 'row gap 16' },
  { word: 'wrap', takes: '', says: 'side by side, in as many lines as it needs', example: 'wrap gap 8' },
  { word: 'grid', takes: '', says: 'in columns that line up', example: 'grid gap 16' },
  { word: 'free', takes: '', says: 'its parts hang where they are pinned', example: 'free' },
  {
    word: 'fill',
    takes: 'a weight, or nothing',
    says: 'as wide as there is room; two of weight 2 and 1 share it so',
    example: 'fill 2',
  },
  { word: 'fit', takes: '', says: 'as wide as its content', example: 'fit' },
  {
    word: 'w',
    takes: 'a size',
    says: 'the width: px, fit, fill, a share of the parent, or a ratio to the height',
    example: 'w 33%',
  },
  { word: 'h', takes: 'a size', says: 'the height', example: 'h 16:9' },
  { word: 'min', takes: 'px, or content', says: 'no narrower than this', example: 'min 240' },
  { word: 'max', takes: 'px, or content', says: 'no wider than this', example: 'max 640' },
  {
    word: 'gap',
    takes: 'px, between, around, evenly or centres',
    says: 'the space between its parts, or how what is left is shared out',
    example: 'gap between',
  },
  {
    word: 'cross',
    takes: 'px',
    says: 'the space between the lines of a wrap or the rows of a grid',
    example: 'cross 20',
  },
  { word: 'before', takes: 'px', says: 'the space before it, in place of the gap', example: 'before 32' },
  {
    word: 'pad',
    takes: 'one to four numbers of px',
    says: 'padding: all sides; upright and level; top, level, bottom; clockwise',
    example: 'pad 12 16',
  },
  { word: 'align', takes: TRADE, says: 'how its parts stand across its flow', example: 'align middle' },
  { word: 'self', takes: TRADE, says: 'how it stands itself, whatever its parent says', example: 'self end' },
  {
    word: 'justify',
    takes: 'start, middle or end',
    says: 'where its parts stand along its flow',
    example: 'justify end',
  },
  {
    word: 'cols',
    takes: 'a number, min and px, or a list of tracks',
    says: 'the columns of a grid',
    example: 'cols min 240',
  },
  { word: 'lines', takes: 'a number', says: 'at most so many lines of a text', example: 'lines 2' },
  { word: 'order', takes: 'a whole number', says: 'its rank among its siblings', example: 'order -1' },
  {
    word: 'stay',
    takes: 'top or bottom, and px or nothing',
    says: 'it stays in sight there while the rest scrolls',
    example: 'stay top 0',
  },
  { word: 'reverse', takes: '', says: 'its parts stand from the end', example: 'row reverse' },
  { word: 'clip', takes: '', says: 'what reaches out of it is not shown', example: 'clip' },
  { word: 'scroll', takes: '', says: 'what does not fit is reached by scrolling', example: 'scroll' },
  { word: 'rtl', takes: '', says: 'lines run from right to left in it', example: 'rtl' },
  { word: 'ltr', takes: '', says: 'lines run from left to right in it', example: 'ltr' },
  { word: 'hide', takes: '', says: 'it is not shown', example: 'hide' },
  { word: 'show', takes: '', says: 'it is shown again', example: 'show' },
];

/** The word that is being typed at the end of a line; empty after a space. */
const lastWord = (typed: string): string => /[^\s:]*$/.exec(typed)?.[0] ?? '';

/**
 * What a line of rules may go on with: words of the language, or after `all` the names of parts. None where what is typed is a
 * number or a word that is complete.
 */
export function completionsOf(typed: string, names: readonly string[]): readonly RuleWord[] {
  const all = /^\s*all\s+([^:]*)$/i.exec(typed);
  if (all) {
    const begun = (all[1] ?? '').toLowerCase();
    return names
      .filter((n) => n.toLowerCase().startsWith(begun) && n.toLowerCase() !== begun)
      .map((name) => ({ word: `${name}: `, takes: '', says: 'all parts of this name', example: '' }));
  }
  const begun = lastWord(typed).toLowerCase();
  if (begun === '' || /\d/.test(begun)) return [];
  return RULE_WORDS.filter(({ word }) => word.startsWith(begun) && word !== begun);
}

/** A line with the word at its end completed, and room for what follows. */
export function completed(typed: string, { word, takes }: RuleWord): string {
  const all = /^(\s*all\s+)[^:]*$/i.exec(typed);
  if (all) return `${all[1] ?? ''}${word}`;
  return `${typed.slice(0, typed.length - lastWord(typed).length)}${word}${takes === '' ? '' : ' '}`;
}
