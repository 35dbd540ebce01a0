import {
  formatAlign,
  formatCell,
  formatColumns,
  formatEdges,
  formatFlow,
  formatGap,
  formatLimits,
  formatPin,
  formatSize,
  formatStay,
  parseAlign,
  parseCell,
  parseColumns,
  parseEdges,
  parseFlow,
  parseGap,
  parseJustify,
  parseLimits,
  parsePin,
  parseSize,
  parseStay,
  plainText,
  ruleOf,
  type Part,
  type Parsed,
  type RuleChange,
  type RuleName,
  type Step,
} from '@tinfold/core/model';

import { MORE_CELLS } from './moreCells';

/** A column of the parts list: what its cell shows and what typed text makes of it. */
export interface CellKind {
  readonly key: string;
  readonly title: string;
  /** What a screen reader and the refusal say. */
  readonly label: string;
  /** The rules that it shows. */
  readonly rules: readonly RuleName[];
  readonly show: (part: Part) => string;
  /** Whether the part has this rule at all. */
  readonly applies: (part: Part, isRoot: boolean) => boolean;
  readonly parse?: (text: string) => Parsed<RuleChange>;
  /** What is said of the part alone by other means than rules. */
  readonly say?: (part: Part, text: string) => Step | undefined;
  /** The words that it takes, where they are few. */
  readonly words?: readonly string[];
  /** How wide its column is unless it was drawn otherwise, px. */
  readonly width: number;
  /** Whether it is shown only where it was chosen. */
  readonly extra?: boolean;
}

const map = <T>(parsed: Parsed<T>, make: (value: T) => RuleChange): Parsed<RuleChange> =>
  parsed.ok ? { ok: true, value: make(parsed.value) } : parsed;

const wordsOf = ({ content }: Part): string => (content?.kind === 'text' ? plainText(content) : '');

const isContainer = (part: Part): boolean => part.kind === 'container';

/** A cell that has its word or nothing. */
function flag(key: string, title: string, label: string, rule: RuleName, word: string): CellKind {
  return {
    key,
    title,
    label,
    rules: [rule],
    width: 60,
    extra: true,
    show: (p) => (p.rules[rule] === true ? word : ''),
    applies: (p, isRoot) => rule === 'hidden' || (rule === 'newLine' ? !isRoot : isContainer(p)),
    parse: (text) => {
      const t = text.trim().toLowerCase();
      if (t === '' || t === 'no') return { ok: true, value: { [rule]: null } };
      if (t === word || t === 'yes') return { ok: true, value: { [rule]: true } };
      return {
        ok: false,
        reason: `“${text.slice(0, 40)}” is not understood here: type ${word}, or nothing.`,
      };
    },
  };
}

/** Whether a cell of this kind is typed in. */
export const isTyped = (kind: CellKind): boolean => kind.parse !== undefined || kind.say !== undefined;

/** The word after or before one that is there, of the few that a cell takes; from something else the first or the last. */
export function nextWord(words: readonly string[], typed: string, by: 1 | -1): string {
  const at = words.indexOf(typed.trim().toLowerCase());
  const next = at < 0 ? (by === 1 ? 0 : words.length - 1) : (at + by + words.length) % words.length;
  return words[next] ?? typed;
}

/** A number in what was typed, with its sign. */
const NUMBER = /-?\d+(?:\.\d+)?/g;

/** What was typed with the number at the caret, or else the first, so much larger; as it is where there is none. */
export function stepped(text: string, caret: number, by: number): string {
  const numbers = [...text.matchAll(NUMBER)];
  const found = numbers.find((n) => n.index <= caret && caret <= n.index + n[0].length) ?? numbers[0];
  if (!found) return text;
  const value = Math.round((Number(found[0]) + by) * 1000) / 1000;
  return text.slice(0, found.index) + String(value) + text.slice(found.index + found[0].length);
}

/** The columns in order. */
export const CELLS: readonly CellKind[] = [
  {
    key: 'flow',
    width: 44,
    title: 'Flow',
    label: 'flow',
    words: ['col', 'row', 'wrap', 'grid', 'free'],
    rules: ['flow', 'reverse', 'columns'],
    show: (p) => (isContainer(p) ? formatFlow(ruleOf(p.rules, 'flow')) : ''),
    applies: isContainer,
    parse: (text) =>
      map(parseFlow(text), (flow) =>
        flow === 'grid' ? { flow, columns: { kind: 'repeat', min: 240 } } : { flow, columns: null },
      ),
  },
  {
    key: 'width',
    width: 50,
    title: 'W',
    label: 'width',
    words: ['fill', 'fit', '50%', '16:9'],
    rules: ['width'],
    show: (p) => formatSize(ruleOf(p.rules, 'width')),
    applies: (_, isRoot) => !isRoot,
    parse: (text) => map(parseSize(text), (width) => ({ width })),
  },
  {
    key: 'height',
    width: 50,
    title: 'H',
    label: 'height',
    words: ['fill', 'fit', '50%', '16:9'],
    rules: ['height'],
    show: (p) => formatSize(ruleOf(p.rules, 'height')),
    applies: () => true,
    parse: (text) => map(parseSize(text), (height) => ({ height })),
  },
  {
    key: 'gap',
    width: 64,
    title: 'Gap',
    label: 'gap',
    words: ['between', 'around', 'evenly', 'centres'],
    rules: ['gap', 'crossGap'],
    show: (p) => {
      if (!isContainer(p) || p.rules.flow === 'free' || (p.rules.gap === undefined && p.children.length < 2))
        return '';
      const gap = formatGap(p.rules.gap ?? 0);
      return p.rules.crossGap === undefined ? gap : `${gap} / ${formatGap(p.rules.crossGap)}`;
    },
    applies: (p) => isContainer(p) && p.rules.flow !== 'free',
    parse: (text) => {
      const [gap = '', cross] = text.split('/');
      const main = parseGap(gap);
      if (cross === undefined) return map(main, (value) => ({ gap: value }));
      const other = parseGap(cross);
      if (!other.ok) return other;
      return map(main, (value) => ({
        gap: value,
        crossGap: typeof other.value === 'number' ? other.value : null,
      }));
    },
  },
  {
    key: 'padding',
    width: 74,
    title: 'Pad',
    label: 'padding',
    rules: ['padding'],
    show: (p) => (p.rules.padding ? formatEdges(p.rules.padding) : isContainer(p) ? '0' : ''),
    applies: isContainer,
    parse: (text) => map(parseEdges(text), (padding) => ({ padding })),
  },
  {
    key: 'align',
    width: 64,
    title: 'Align',
    label: 'alignment',
    words: ['start', 'middle', 'end', 'stretch', 'base'],
    rules: ['align'],
    show: (p) => (isContainer(p) && p.rules.flow !== 'free' ? formatAlign(ruleOf(p.rules, 'align')) : ''),
    applies: (p) => isContainer(p) && p.rules.flow !== 'free',
    parse: (text) => map(parseAlign(text), (align) => ({ align })),
  },
  {
    key: 'limits',
    width: 70,
    title: 'Min–max',
    label: 'width limits',
    rules: ['minWidth', 'maxWidth'],
    show: (p) => formatLimits(p.rules.minWidth, p.rules.maxWidth),
    applies: (_, isRoot) => !isRoot,
    parse: (text) => map(parseLimits(text), ({ min, max }) => ({ minWidth: min, maxWidth: max })),
  },
  {
    key: 'more',
    title: 'Columns',
    label: 'columns',
    rules: ['columns'],
    width: 96,
    show: (p) => (p.rules.columns ? formatColumns(p.rules.columns) : ''),
    applies: (p) => p.rules.flow === 'grid',
    parse: (text) => map(parseColumns(text), (columns) => ({ columns })),
  },
  {
    key: 'pin',
    title: 'Pin, cell',
    label: 'pin or place in the grid',
    rules: ['pin', 'cell'],
    width: 120,
    show: (p) => (p.rules.pin ? formatPin(p.rules.pin) : p.rules.cell ? formatCell(p.rules.cell) : ''),
    applies: (_, isRoot) => !isRoot,
    parse: (text) => {
      if (text.trim() === '') return { ok: true, value: { pin: null, cell: null } };
      const pin = parsePin(text);
      return pin.ok ? map(pin, (p) => ({ pin: p, cell: null })) : map(parseCell(text), (cell) => ({ cell }));
    },
  },
  {
    key: 'justify',
    title: 'Justify',
    label: 'place along the flow',
    words: ['start', 'middle', 'end'],
    rules: ['justify'],
    width: 64,
    extra: true,
    show: (p) => (isContainer(p) && p.rules.justify ? formatAlign(p.rules.justify) : ''),
    applies: isContainer,
    parse: (text) => map(parseJustify(text), (justify) => ({ justify })),
  },
  {
    key: 'self',
    title: 'Self',
    label: 'own alignment',
    words: ['start', 'middle', 'end', 'stretch', 'base'],
    rules: ['alignSelf'],
    width: 64,
    extra: true,
    show: (p) => (p.rules.alignSelf ? formatAlign(p.rules.alignSelf) : ''),
    applies: (_, isRoot) => !isRoot,
    parse: (text) =>
      text.trim() === ''
        ? { ok: true, value: { alignSelf: null } }
        : map(parseAlign(text), (alignSelf) => ({ alignSelf })),
  },
  {
    key: 'before',
    title: 'Before',
    label: 'gap before it',
    rules: ['gapBefore'],
    width: 60,
    extra: true,
    show: (p) => (p.rules.gapBefore === undefined ? '' : formatGap(p.rules.gapBefore)),
    applies: (_, isRoot) => !isRoot,
    parse: (text) =>
      text.trim() === ''
        ? { ok: true, value: { gapBefore: null } }
        : map(parseGap(text), (gap) => ({ gapBefore: typeof gap === 'number' ? gap : null })),
  },
  {
    key: 'heights',
    title: 'H min–max',
    label: 'height limits',
    rules: ['minHeight', 'maxHeight'],
    width: 80,
    extra: true,
    show: (p) => formatLimits(p.rules.minHeight, p.rules.maxHeight),
    applies: () => true,
    parse: (text) => map(parseLimits(text), ({ min, max }) => ({ minHeight: min, maxHeight: max })),
  },
  {
    key: 'order',
    title: 'Order',
    label: 'rank among its siblings',
    rules: ['order'],
    width: 50,
    extra: true,
    show: (p) => (p.rules.order === undefined ? '' : String(p.rules.order)),
    applies: (_, isRoot) => !isRoot,
    parse: (text) => {
      const t = text.trim();
      if (t === '') return { ok: true, value: { order: null } };
      return /^-?\d{1,4}$/.test(t)
        ? { ok: true, value: { order: Number(t) } }
        : { ok: false, reason: `“${t.slice(0, 40)}” is not understood here: type a whole number.` };
    },
  },
  {
    key: 'gives',
    title: 'Gives way',
    label: 'when it gives way',
    words: ['first', 'never'],
    rules: ['givesWay'],
    width: 70,
    extra: true,
    show: (p) => p.rules.givesWay ?? '',
    applies: (_, isRoot) => !isRoot,
    parse: (text) => {
      const word = text.trim().toLowerCase();
      if (word === '') return { ok: true, value: { givesWay: null } };
      return word === 'first' || word === 'never'
        ? { ok: true, value: { givesWay: word } }
        : {
            ok: false,
            reason: `“${text.slice(0, 40)}” is not understood here: type first or never, or nothing.`,
          };
    },
  },
  {
    key: 'words',
    title: 'Words',
    label: 'words',
    rules: [],
    width: 140,
    extra: true,
    show: wordsOf,
    applies: (p) => p.content?.kind === 'text',
    say: (part, text) => {
      const style = part.content?.kind === 'text' ? part.content.runs[0]?.style : undefined;
      return style && text !== ''
        ? { kind: 'words', parts: [{ id: part.id, runs: [{ text, style }] }] }
        : undefined;
    },
  },
  {
    key: 'stay',
    title: 'Stays',
    label: 'side at which it stays while the rest scrolls',
    words: ['top', 'bottom'],
    rules: ['stay'],
    width: 76,
    extra: true,
    show: (p) => (p.rules.stay ? formatStay(p.rules.stay) : ''),
    applies: (p, isRoot) => !isRoot && !p.rules.pin,
    parse: (text) => map(parseStay(text), (stay) => ({ stay })),
  },
  ...MORE_CELLS,
  flag('hidden', 'Hidden', 'hidden or shown', 'hidden', 'hidden'),
  flag('clip', 'Clip', 'whether it cuts off what reaches out', 'clip', 'clip'),
  flag('scroll', 'Scroll', 'whether it scrolls', 'scroll', 'scroll'),
  flag('reverse', 'Reverse', 'from which end its parts stand', 'reverse', 'reverse'),
  flag('first', 'First on top', 'whether the first of its parts lies on top', 'firstOnTop', 'first'),
  flag('stroke', 'Stroke', 'whether its stroke takes room', 'strokeTakesRoom', 'takes room'),
  flag('breaks', 'Breaks', 'whether it begins a line of its wrap', 'newLine', 'breaks'),
];
