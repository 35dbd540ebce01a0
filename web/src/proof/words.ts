import { walk, type Structure } from '@tinfold/core/model';
import { runCounts, type Counts, type Fault, type TrialName } from '@tinfold/core/proof';

/** What parts are called, by id. */
export const namesOf = (doc: Structure): ((id: string) => string) => {
  const names = new Map([...walk(doc.root)].map((p) => [p.id, p.name]));
  return (id) => names.get(id) ?? 'a part';
};

/** A trial as it is called in lists. */
export const TRIAL_WORDS: Readonly<Record<TrialName, string>> = {
  'longer-text': 'longer text',
  'twice-the-text': 'twice the text',
  'long-word': 'one long word',
  'empty-text': 'some text missing',
  'other-script': 'another script',
  'right-to-left': 'right to left',
  'more-instances': 'more of each list',
  'fewer-instances': 'one of each list',
  'hidden-part': 'some parts hidden',
  'no-pictures': 'no pictures',
  'larger-type': 'larger type',
  'flat-frame': 'flat frame',
  insets: 'device insets',
};

/** Faults before and after a mend, errors and warnings. */
export const counted = ({ error, warning }: Counts): string => `${error + warning}`;

/** How many faults of each severity, in words. */
export function tallyOf({ errors, warnings, notes }: ReturnType<typeof runCounts>): string {
  const said = (n: number, word: string) => (n === 0 ? [] : [`${n} ${word}${n === 1 ? '' : 's'}`]);
  const parts = [...said(errors, 'error'), ...said(warnings, 'warning'), ...said(notes, 'note')];
  return parts.length === 0 ? 'none' : parts.join(' · ');
}

/** So many of a severity, in words. */
export const tally = (faults: readonly Fault[]): string => tallyOf(runCounts(faults));

/** Three widths that show a fault and what becomes of it: at its worst, and at its ends or outside. */
export function threeWidths({ from, to, place }: Fault): number[] {
  const beyond = to < 1900 ? to + 1 : Math.max(320, from - 1);
  return [...new Set([place.width, from === place.width ? Math.round((from + to) / 2) : from, beyond])].sort(
    (a, b) => a - b,
  );
}
