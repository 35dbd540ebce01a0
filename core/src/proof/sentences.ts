import { round } from '../model/index.js';
import type { Fault } from './faults.js';
import type { FaultKind } from './kinds.js';

/** What a fault says of the part that it shows at. */
const SENTENCES: Readonly<Record<FaultKind, string>> = {
  'side-scroll': 'runs out of the frame',
  overlap: 'lies over its neighbour',
  outside: 'sticks out of what holds it',
  'cut-off': 'is cut off',
  'text-over': 'has more lines than its box',
  'long-word': 'has a word that is wider than its place',
  sliver: 'is squeezed to a sliver',
  'blown-up': 'is blown up to several times its size',
  distorted: 'is out of its ratio',
  lost: 'shows less than it hides',
  hidden: 'goes, and nothing comes in its place',
  'text-cut': 'is cut with an ellipsis',
  'out-of-line': 'no longer ends in line',
  'uneven-gaps': 'has uneven gaps',
  'lonely-card': 'stands alone in the last row',
  squashed: 'is narrower than its content',
  'long-lines': 'has lines too long to read',
  order: 'is no longer read in its turn',
  enlarged: 'is shown larger than its pixels',
  'small-target': 'is too small to hit',
  'empty-area': 'holds a large empty area',
  'small-type': 'is set too small',
};

/** How much a fault is, in its own unit; empty where it is there or not. */
export function amountOf({ kind, by }: Pick<Fault, 'kind' | 'by'>): string {
  switch (kind) {
    case 'long-lines':
      return `by ${Math.round(by)} characters`;
    case 'blown-up':
      return `${round(by, 1)} times as large`;
    case 'lost':
      return `${Math.round(by)} items`;
    case 'sliver':
    case 'hidden':
    case 'order':
    case 'lonely-card':
    case 'text-cut':
      return '';
    default:
      return `by ${by < 10 ? round(by, 1) : Math.round(by)} px`;
  }
}

/** A fault in words: what shows it first, and what it is. `nameOf` tells what a part is called. */
export const sentenceOf = ({ kind, parts: [first = ''] }: Fault, nameOf: (id: string) => string): string =>
  `“${nameOf(first)}” ${SENTENCES[kind]}`;

/** A fault in words, with how much it is and at how many places. */
export function wholeSentenceOf(fault: Fault, nameOf: (id: string) => string): string {
  const places = fault.count > 1 ? `at ${fault.count} places` : '';
  return [sentenceOf(fault, nameOf), amountOf(fault), places].filter((w) => w !== '').join(', ');
}

/** The widths of a fault as they are written. */
export const widthsOf = ({ from, to }: { readonly from: number; readonly to: number }): string =>
  from === to ? String(from) : `${from}–${to}`;
