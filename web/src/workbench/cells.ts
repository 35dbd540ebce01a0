import {
  formatAlign,
  formatColumns,
  formatEdges,
  formatFlow,
  formatGap,
  formatLimits,
  formatPin,
  formatSize,
  parseAlign,
  parseColumns,
  parseEdges,
  parseFlow,
  parseGap,
  parseLimits,
  parseSize,
  ruleOf,
  type Part,
  type Parsed,
  type RuleChange,
  type RuleName,
} from '@tinfold/core/model';

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
}

const map = <T>(parsed: Parsed<T>, make: (value: T) => RuleChange): Parsed<RuleChange> =>
  parsed.ok ? { ok: true, value: make(parsed.value) } : parsed;

const isContainer = (part: Part): boolean => part.kind === 'container';

/** The columns in order. */
export const CELLS: readonly CellKind[] = [
  {
    key: 'flow',
    title: 'Flow',
    label: 'flow',
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
    title: 'W',
    label: 'width',
    rules: ['width'],
    show: (p) => formatSize(ruleOf(p.rules, 'width')),
    applies: (_, isRoot) => !isRoot,
    parse: (text) => map(parseSize(text), (width) => ({ width })),
  },
  {
    key: 'height',
    title: 'H',
    label: 'height',
    rules: ['height'],
    show: (p) => formatSize(ruleOf(p.rules, 'height')),
    applies: () => true,
    parse: (text) => map(parseSize(text), (height) => ({ height })),
  },
  {
    key: 'gap',
    title: 'Gap',
    label: 'gap',
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
    title: 'Pad',
    label: 'padding',
    rules: ['padding'],
    show: (p) => (p.rules.padding ? formatEdges(p.rules.padding) : isContainer(p) ? '0' : ''),
    applies: isContainer,
    parse: (text) => map(parseEdges(text), (padding) => ({ padding })),
  },
  {
    key: 'align',
    title: 'Align',
    label: 'alignment',
    rules: ['align'],
    show: (p) => (isContainer(p) && p.rules.flow !== 'free' ? formatAlign(ruleOf(p.rules, 'align')) : ''),
    applies: (p) => isContainer(p) && p.rules.flow !== 'free',
    parse: (text) => map(parseAlign(text), (align) => ({ align })),
  },
  {
    key: 'limits',
    title: 'Min–max',
    label: 'width limits',
    rules: ['minWidth', 'maxWidth'],
    show: (p) => formatLimits(p.rules.minWidth, p.rules.maxWidth),
    applies: (_, isRoot) => !isRoot,
    parse: (text) => map(parseLimits(text), ({ min, max }) => ({ minWidth: min, maxWidth: max })),
  },
  {
    key: 'more',
    title: 'Columns, pin',
    label: 'columns or pin',
    rules: ['columns', 'pin', 'cell'],
    show: (p) =>
      p.rules.pin ? formatPin(p.rules.pin) : p.rules.columns ? formatColumns(p.rules.columns) : '',
    applies: (p) => p.rules.flow === 'grid' && !p.rules.pin,
    parse: (text) => map(parseColumns(text), (columns) => ({ columns })),
  },
];
