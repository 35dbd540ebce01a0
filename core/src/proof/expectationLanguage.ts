import type { Parsed } from '../model/index.js';
import type { Comparison, Expectation } from './expectations.js';
import { FAULT_KINDS, KINDS, type FaultKind } from './kinds.js';
import { USUAL_RANGE, type Range } from './prove.js';

const EXAMPLES =
  'like “no side scroll 320–1920”, “Sailings: 1 column up to 480”, “Sailing card: width 240 or more”, “Title: at most 2 lines”, “order as drawn” or “as drawn at 390”';
/** The widest frame that is meant where only the narrower end is said, and the other way round, px. */
const WIDEST = 10_000;
const NARROWEST = 1;

const wordsOfKind = (kind: FaultKind): string => KINDS[kind].label.toLowerCase();
const kindOf = (words: string): FaultKind | 'error' | 'warning' | undefined => {
  const w = words.trim().toLowerCase();
  if (w === 'errors' || w === 'error') return 'error';
  if (w === 'warnings' || w === 'warning') return 'warning';
  return FAULT_KINDS.find((k) => wordsOfKind(k) === w || k === w || k.replaceAll('-', ' ') === w);
};

/** A range of widths at the end of a sentence, and what stands before it. */
function rangeIn(text: string): { readonly before: string; readonly range: Range } | undefined {
  const forms: readonly [RegExp, (m: RegExpExecArray) => Range][] = [
    [
      /\s+(?:from\s+)?(\d+)\s*(?:px)?\s*(?:–|-|to)\s*(\d+)(?:\s*px)?$/i,
      (m) => ({ from: Number(m[1]), to: Number(m[2]) }),
    ],
    [/\s+up\s+to\s+(\d+)(?:\s*px)?$/i, (m) => ({ from: NARROWEST, to: Number(m[1]) })],
    [/\s+from\s+(\d+)(?:\s*px)?$/i, (m) => ({ from: Number(m[1]), to: WIDEST })],
  ];
  for (const [form, read] of forms) {
    const found = form.exec(text);
    if (found) return { before: text.slice(0, found.index), range: read(found) };
  }
  return undefined;
}

const showRange = ({ from, to }: Range): string => {
  if (from === NARROWEST) return ` up to ${to}`;
  if (to === WIDEST) return ` from ${from}`;
  return ` ${from}–${to}`;
};

const comparisonOf = (
  before: string | undefined,
  after: string | undefined,
  otherwise: Comparison,
): Comparison => {
  if (before !== undefined) return before.toLowerCase().replace(/\s+/g, ' ') as Comparison;
  if (after === undefined) return otherwise;
  return /more/i.test(after) ? 'at least' : 'at most';
};

const COUNT =
  /^(.+?)(?::\s*|\s+)(?:(at\s+most|at\s+least|exactly)\s+)?(\d+)\s+(column|line)s?(?:\s+or\s+(more|less|fewer))?$/i;
const LENGTH =
  /^(.+?)(?::\s*|\s+)(width|height)\s+(?:(at\s+most|at\s+least|exactly)\s+)?(\d+(?:\.\d+)?)(?:\s*px)?(?:\s+or\s+(more|less))?$/i;

/** Reads an expectation as it is typed, one sentence. */
export function parseExpectation(text: string): Parsed<Expectation> {
  const sentence = text.trim().replace(/\.$/, '').replace(/\s+/g, ' ');
  const wrong = (what: string): Parsed<never> => ({
    ok: false,
    reason: `“${sentence.slice(0, 60)}” ${what}: write one ${EXAMPLES}.`,
  });
  const asDrawn = /^as drawn at (\d+(?:\.\d+)?)(?: ?px)?$/i.exec(sentence);
  if (asDrawn) return { ok: true, value: { kind: 'as drawn', width: Number(asDrawn[1]) } };
  const { before, range } = rangeIn(sentence) ?? { before: sentence, range: USUAL_RANGE };
  if (range.from > range.to) return wrong('ends before it begins');
  if (/^order as drawn$/i.test(before)) return { ok: true, value: { kind: 'order', range } };
  const none = /^no (.+)$/i.exec(before);
  if (none) {
    const fault = kindOf(none[1] ?? '');
    return fault ? { ok: true, value: { kind: 'none', fault, range } } : wrong('names no kind of fault');
  }
  const count = COUNT.exec(before);
  if (count)
    return {
      ok: true,
      value: {
        kind: /column/i.test(count[4] ?? '') ? 'columns' : 'lines',
        part: (count[1] ?? '').trim(),
        is: comparisonOf(count[2], count[5], 'exactly'),
        number: Number(count[3]),
        range,
      },
    };
  const length = LENGTH.exec(before);
  if (length)
    return {
      ok: true,
      value: {
        kind: /width/i.test(length[2] ?? '') ? 'width' : 'height',
        part: (length[1] ?? '').trim(),
        is: comparisonOf(length[3], length[5], 'exactly'),
        number: Number(length[4]),
        range,
      },
    };
  return wrong('is no expectation');
}

/** An expectation as a sentence that {@link parseExpectation} reads. */
export function formatExpectation(expectation: Expectation): string {
  switch (expectation.kind) {
    case 'none': {
      const { fault } = expectation;
      const words = fault === 'error' || fault === 'warning' ? `${fault}s` : wordsOfKind(fault);
      return `no ${words}${showRange(expectation.range)}`;
    }
    case 'columns':
    case 'lines': {
      const { part, is, number, kind, range } = expectation;
      const words = `${number} ${number === 1 ? kind.slice(0, -1) : kind}`;
      return `${part}: ${is === 'exactly' ? '' : `${is} `}${words}${showRange(range)}`;
    }
    case 'width':
    case 'height': {
      const { part, is, number, kind, range } = expectation;
      const more = is === 'at least' ? ' or more' : is === 'at most' ? ' or less' : '';
      return `${part}: ${kind} ${number}${more}${showRange(range)}`;
    }
    case 'order':
      return `order as drawn${showRange(expectation.range)}`;
    case 'as drawn':
      return `as drawn at ${expectation.width}`;
  }
}
