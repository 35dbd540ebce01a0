import {
  formatAlign,
  formatCell,
  formatColumns,
  formatEdges,
  formatPin,
  formatStay,
  formatTrack,
  type Limit,
  type RuleName,
  type Rules,
  type Size,
} from '../model/index.js';

const FLOWS = {
  column: 'one below another',
  row: 'side by side',
  wrap: 'side by side, in as many lines as needed',
  grid: 'in columns that line up',
  free: 'each where it is pinned',
} as const;

/** A size as a colleague says it. */
function sizeWords(size: Size): string {
  switch (size.kind) {
    case 'fixed':
      return `${size.px} px`;
    case 'fit':
      return 'as large as its content';
    case 'fill':
      return size.weight === 1 ? 'fills' : `fills, ${size.weight} shares`;
    case 'share':
      return `${size.percent} % of its parent`;
    case 'ratio':
      return `${size.width}:${size.height} to the other side`;
  }
}

const limitWords = (limit: Limit): string => (limit === 'content' ? 'as its content' : `${limit} px`);
const px = (value: number): string => `${value} px`;
const yes = (value: boolean): string => (value ? 'yes' : 'no');

/** How each rule is called and its value said; the compiler holds the list to the rules that there are. */
const SAID: {
  readonly [K in RuleName]-?: readonly [label: string, say: (value: NonNullable<Rules[K]>) => string];
} = {
  flow: ['its parts stand', (v) => FLOWS[v]],
  width: ['width', sizeWords],
  height: ['height', sizeWords],
  minWidth: ['at least wide', limitWords],
  maxWidth: ['at most wide', limitWords],
  minHeight: ['at least high', limitWords],
  maxHeight: ['at most high', limitWords],
  gap: ['gap', (v) => (typeof v === 'number' ? px(v) : `what is left, ${v}`)],
  crossGap: ['gap between lines', px],
  gapBefore: ['space before it', px],
  padding: ['padding', (v) => `${formatEdges(v)} px`],
  align: ['parts across', formatAlign],
  alignSelf: ['itself across', formatAlign],
  justify: ['parts along', formatAlign],
  reverse: ['from the end', yes],
  order: ['rank', String],
  newLine: ['begins a line', yes],
  firstOnTop: ['first on top', yes],
  givesWay: ['gives way', (v) => v],
  alignLines: ['lines in spare room', (v) => v],
  columns: ['columns', formatColumns],
  rows: ['rows', (v) => v.map(formatTrack).join(' ')],
  autoRows: ['further rows', formatTrack],
  autoFlow: ['filled by', (v) => v],
  areas: ['areas', (v) => v.map((line) => line.join(' ')).join(' / ')],
  justifyTracks: ['columns in spare room', (v) => v],
  justifyItems: ['parts in their columns', formatAlign],
  justifySelf: ['itself in its column', formatAlign],
  cell: ['cell', formatCell],
  pin: ['pinned', (v) => formatPin(v)],
  stay: ['stays while the rest scrolls', formatStay],
  hidden: ['hidden', yes],
  clip: ['cuts off what reaches out', yes],
  scroll: ['scrolls', yes],
  strokeTakesRoom: ['stroke takes room', yes],
  safeArea: ['clear of the device at', (v) => v.join(', ')],
  direction: ['lines run', (v) => (v === 'rtl' ? 'right to left' : 'left to right')],
  maxLines: ['at most so many lines', String],
};

export const RULE_LABELS: Readonly<Record<RuleName, string>> = Object.fromEntries(
  Object.entries(SAID).map(([name, [label]]) => [name, label]),
) as Record<RuleName, string>;

/** What a rule says, in words and numbers. */
export function sayRule<K extends RuleName>(name: K, value: NonNullable<Rules[K]>): string {
  return (SAID[name][1] as (value: NonNullable<Rules[K]>) => string)(value);
}

/** What rules say that are set, each with its name; `null` takes one away. */
export const sayRules = (rules: { readonly [K in RuleName]?: Rules[K] | null }): readonly (readonly [
  string,
  string,
])[] =>
  (Object.keys(SAID) as RuleName[]).flatMap((name) => {
    const value = rules[name];
    if (value === undefined) return [];
    return [[RULE_LABELS[name], value === null ? 'no more' : sayRule(name, value)] as const];
  });
