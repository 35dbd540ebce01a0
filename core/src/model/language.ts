import { round } from './geometry.js';
import {
  NO_PADDING,
  type Align,
  type Cell,
  type Columns,
  type Edges,
  type Flow,
  type Gap,
  type Justify,
  type Limit,
  type Pin,
  type RuleChange,
  type Rules,
  type Size,
  type Stay,
  type Track,
} from './rules.js';

/** A parsed value, or the sentence that says what was expected. */
export type Parsed<T> =
  | { readonly ok: true; readonly value: T }
  | {
      readonly ok: false;
      readonly reason: string;
      /** Of a line of words, the one that is not understood, counted from 0. */
      readonly word?: number;
    };

const ok = <T>(value: T): Parsed<T> => ({ ok: true, value });
const fail = (text: string, wanted: string): Parsed<never> => ({
  ok: false,
  reason: `“${text.slice(0, 40)}” is not understood here: type ${wanted}.`,
});

const FLOW_WORDS: Readonly<Record<string, Flow>> = {
  col: 'column',
  column: 'column',
  row: 'row',
  wrap: 'wrap',
  grid: 'grid',
  free: 'free',
};
const ALIGN_WORDS: Readonly<Record<string, Align>> = {
  start: 'start',
  middle: 'centre',
  centre: 'centre',
  end: 'end',
  stretch: 'stretch',
  base: 'baseline',
  baseline: 'baseline',
};

const number = (text: string): number | undefined => {
  const value = /^-?\d+(\.\d+)?$/.test(text) ? Number(text) : NaN;
  return Number.isFinite(value) && Math.abs(value) <= 1e6 ? value : undefined;
};
const show = (n: number): string => String(round(n, 2));

export function formatSize(size: Size): string {
  switch (size.kind) {
    case 'fixed':
      return show(size.px);
    case 'fit':
      return 'fit';
    case 'fill':
      return size.weight === 1 ? 'fill' : `fill ${show(size.weight)}`;
    case 'share':
      return `${show(size.percent)}%`;
    case 'ratio':
      return `${show(size.width)}:${show(size.height)}`;
  }
}

/** Reads `fit`, `fill`, `fill 2`, `240`, `50%` or `16:9`. */
export function parseSize(text: string): Parsed<Size> {
  const wanted = 'a number of px, fit, fill, fill 2, 50% or 16:9';
  const t = text.trim().toLowerCase();
  if (t === 'fit') return ok({ kind: 'fit' });
  const fill = /^fill(?:\s+(\d+(?:\.\d+)?))?$/.exec(t);
  if (fill) {
    const weight = Number(fill[1] ?? 1);
    return weight > 0 ? ok({ kind: 'fill', weight }) : fail(text, 'a weight above 0 after fill');
  }
  const share = /^(\d+(?:\.\d+)?)\s*%$/.exec(t);
  if (share) return ok({ kind: 'share', percent: Number(share[1]) });
  const ratio = /^(\d+(?:\.\d+)?)\s*:\s*(\d+(?:\.\d+)?)$/.exec(t);
  if (ratio) {
    const [width, height] = [Number(ratio[1]), Number(ratio[2])];
    return width > 0 && height > 0
      ? ok({ kind: 'ratio', width, height })
      : fail(text, 'a ratio of numbers above 0');
  }
  const px = number(t.replace(/px$/, ''));
  return px !== undefined && px >= 0 ? ok({ kind: 'fixed', px }) : fail(text, wanted);
}

export const formatGap = (gap: Gap): string => (typeof gap === 'number' ? show(gap) : gap);

export function parseGap(text: string): Parsed<Gap> {
  const t = text.trim().toLowerCase();
  if (t === 'between' || t === 'around' || t === 'evenly' || t === 'centres') return ok(t);
  const px = number(t.replace(/px$/, ''));
  return px !== undefined ? ok(px) : fail(text, 'a number of px, between, around, evenly or centres');
}

/** The shortest of the CSS `padding` forms. */
export function formatEdges(e: Edges): string {
  const [t, r, b, l] = [show(e.top), show(e.right), show(e.bottom), show(e.left)];
  if (l !== r) return `${t} ${r} ${b} ${l}`;
  if (t !== b) return `${t} ${r} ${b}`;
  return t === r ? t : `${t} ${r}`;
}

/** Reads one to four numbers as CSS `padding` does: all; vertical horizontal; top horizontal bottom; clockwise. */
export function parseEdges(text: string): Parsed<Edges> {
  const parts = text
    .trim()
    .split(/[\s,]+/)
    .map((p) => number(p.replace(/px$/, '')));
  const wanted =
    'one to four numbers of px, 0 or more: all, or vertical horizontal, or top right bottom left';
  if (parts.length > 4 || parts.some((n) => n === undefined || n < 0)) return fail(text, wanted);
  const [top = 0, right = top, bottom = top, left = right] = parts;
  return ok({ top, right, bottom, left });
}

export const formatAlign = (align: Align): string =>
  align === 'centre' ? 'middle' : align === 'baseline' ? 'base' : align;

export function parseAlign(text: string): Parsed<Align> {
  const value = ALIGN_WORDS[text.trim().toLowerCase()];
  return value ? ok(value) : fail(text, 'start, middle, end, stretch or base');
}

export function parseJustify(text: string): Parsed<Justify> {
  const value = ALIGN_WORDS[text.trim().toLowerCase()];
  return value === 'start' || value === 'centre' || value === 'end'
    ? ok(value)
    : fail(text, 'start, middle or end');
}

export const formatFlow = (flow: Flow): string => (flow === 'column' ? 'col' : flow);

export function parseFlow(text: string): Parsed<Flow> {
  const value = FLOW_WORDS[text.trim().toLowerCase()];
  return value ? ok(value) : fail(text, 'column, row, wrap, grid or free');
}

const formatLimit = (limit: Limit): string => (limit === 'content' ? 'content' : show(limit));

/** `240`, `2fr`, `fit`, `120–240`; `120+fr` is a share that is never under 120. */
export function formatTrack(t: Track): string {
  switch (t.kind) {
    case 'fixed':
      return show(t.px);
    case 'fr':
      return `${t.min === undefined ? '' : `${formatLimit(t.min)}+`}${t.weight === 1 ? '' : show(t.weight)}fr`;
    case 'fit':
      return 'fit';
    case 'range':
      return `${formatLimit(t.min)}–${formatLimit(t.max)}`;
  }
}

/** Reads what {@link formatTrack} writes. */
export function parseTrack(text: string): Parsed<Track> {
  const t = text.trim().toLowerCase();
  if (t === 'fit') return ok({ kind: 'fit' });
  const limit = (word: string): Limit | undefined => (word === 'content' ? word : number(word));
  const fr = /^(?:(content|[\d.]+)\+)?([\d.]*)fr$/.exec(t);
  if (fr) {
    const weight = fr[2] ? number(fr[2]) : 1;
    const min = fr[1] === undefined ? undefined : limit(fr[1]);
    if (weight !== undefined && weight > 0)
      return ok({ kind: 'fr', weight, ...(min !== undefined && { min }) });
  }
  const range = /^(content|[\d.]+)(?:–|-)(content|[\d.]+)$/.exec(t);
  const [min, max] = [limit(range?.[1] ?? ''), limit(range?.[2] ?? '')];
  if (min !== undefined && max !== undefined) return ok({ kind: 'range', min, max });
  const px = number(t);
  if (px !== undefined && px >= 0) return ok({ kind: 'fixed', px });
  return fail(text, 'a track like 240, fr, 2fr, 120+fr, fit or 120–240');
}

/** `3`, `min 240`, `4 of min 240`, or the tracks one after another: `240 fr 2fr`. */
export const formatColumns = (c: Columns): string =>
  c.kind === 'count'
    ? String(c.count)
    : c.kind === 'tracks'
      ? c.tracks.map(formatTrack).join(' ')
      : `${c.most === undefined ? '' : `${c.most} of `}min ${show(c.min)}`;

/** Reads what {@link formatColumns} writes. */
export function parseColumns(text: string): Parsed<Columns> {
  const t = text.trim().toLowerCase();
  const repeat = /^(?:(\d+) of )?min ([\d.]+)$/.exec(t);
  if (repeat) {
    const [min, most] = [number(repeat[2] ?? ''), repeat[1]];
    if (min !== undefined) return ok({ kind: 'repeat', min, ...(most && { most: Number(most) }) });
  }
  if (/^\d{1,3}$/.test(t) && Number(t) >= 1) return ok({ kind: 'count', count: Number(t) });
  const tracks = t.split(/\s+/).map(parseTrack);
  const wrong = tracks.find((x) => !x.ok);
  if (wrong || t === '')
    return fail(text, 'a number of columns, min 240, 3 of min 240, or tracks like 240 fr');
  return ok({ kind: 'tracks', tracks: tracks.flatMap((x) => (x.ok ? [x.value] : [])) });
}

/** `240–360`, `≥ 240`, `≤ 360`; `content` stands for the least that the content needs. */
export function formatLimits(min: Rules['minWidth'], max: Rules['maxWidth']): string {
  const low = min === undefined ? undefined : min === 'content' ? 'content' : show(min);
  const high = max === undefined ? undefined : formatLimit(max);
  if (low !== undefined && high !== undefined) return `${low}–${high}`;
  if (low !== undefined) return `≥ ${low}`;
  return high !== undefined ? `≤ ${high}` : '';
}

/** Reads what {@link formatLimits} writes, and `min 240`, `max 360`; empty text takes both limits away. */
export function parseLimits(text: string): Parsed<{ min: Limit | null; max: Limit | null }> {
  const t = text.trim().toLowerCase();
  if (t === '' || t === 'none') return ok({ min: null, max: null });
  const wanted = 'two numbers like 240–360, or min 240, or max 360';
  const both = /^(content|[\d.]+)\s*(?:–|-|to)\s*(content|[\d.]+)$/.exec(t);
  const low = /^(?:≥|>=?|min)\s*(content|[\d.]+)$/.exec(t);
  const high = /^(?:≤|<=?|max)\s*(content|[\d.]+)$/.exec(t);
  const read = (word: string | undefined): number | 'content' | null | undefined =>
    word === undefined ? null : word === 'content' ? word : number(word);
  const min = read(both?.[1] ?? low?.[1]);
  const max = read(both?.[2] ?? high?.[1]);
  if ((min === null && max === null) || min === undefined || max === undefined) return fail(text, wanted);
  if (typeof min === 'number' && typeof max === 'number' && min > max)
    return fail(text, `a min that is not over the max`);
  return ok({ min, max });
}

const PIN_EDGES: readonly (readonly [keyof Pin, string])[] = [
  ['top', 'top'],
  ['right', 'right'],
  ['bottom', 'bottom'],
  ['left', 'left'],
  ['centreX', 'mid-x'],
  ['centreY', 'mid-y'],
];
const PIN_SHARES: readonly (readonly [keyof Pin, string])[] = [
  ['topShare', 'top'],
  ['rightShare', 'right'],
  ['bottomShare', 'bottom'],
  ['leftShare', 'left'],
];

/** `top 8 right 12`: the edges a pin hangs on, with their distances and shares. */
export const formatPin = (pin: Pin): string =>
  [
    ...PIN_EDGES.flatMap(([key, word]) => (pin[key] === undefined ? [] : [`${word} ${show(pin[key])}`])),
    ...PIN_SHARES.flatMap(([key, word]) => (pin[key] === undefined ? [] : [`${word} ${show(pin[key])}%`])),
    ...(pin.z === undefined ? [] : [`z ${show(pin.z)}`]),
  ].join(' ');

/** Reads what {@link formatPin} writes: `top 8 right 12%`, `mid-x 0 bottom 4 z 2`. */
export function parsePin(text: string): Parsed<Pin> {
  const wanted = 'edges with distances like top 8 right 12, left 10%, mid-x 0 or z 2';
  const words = text.trim().toLowerCase().split(/\s+/);
  const pin: Partial<Record<keyof Pin, number>> = {};
  for (let i = 0; i < words.length; i += 2) {
    const [edge, value = ''] = [words[i], words[i + 1]];
    const isShare = value.endsWith('%');
    const found = (isShare ? PIN_SHARES : PIN_EDGES).find(([, word]) => word === edge)?.[0];
    const key = found ?? (edge === 'z' && !isShare ? 'z' : undefined);
    const n = number(value.replace(/(px|%)$/, ''));
    if (key === undefined || n === undefined) return fail(text, wanted);
    pin[key] = n;
  }
  return ok(pin);
}

/** `top`, `bottom 16`: the side at which a part stays while the rest scrolls, and its distance from there. */
export const formatStay = ({ side, at }: Stay): string => (at === 0 ? side : `${side} ${show(at)}`);

/** Reads what {@link formatStay} writes; empty text lets the part scroll with the rest. */
export function parseStay(text: string): Parsed<Stay | null> {
  const t = text.trim().toLowerCase();
  if (t === '' || t === 'no') return ok(null);
  const [, side, px = '0'] = /^(top|bottom)(?:\s+(\S+))?$/.exec(t) ?? [];
  const at = number(px.replace(/px$/, ''));
  return (side === 'top' || side === 'bottom') && at !== undefined
    ? ok({ side, at })
    : fail(text, 'top or bottom, and a number of px from there, or nothing');
}

const AREA = /^(?:(\d+)(?:\s*[,/]\s*(\d+))?)?\s*(?:span\s+(\d+)(?:\s*[×x]\s*(\d+))?)?$/;

/** `2, 1 span 2 × 3`: column and row, counted from 1, and how many of each; what is left out is automatic, or one. */
export function formatCell({ column, row, columnSpan, rowSpan, area }: Cell): string {
  if (area !== undefined) return area;
  const place = [column, row].filter((n) => n !== undefined).join(', ');
  const span =
    columnSpan === undefined && rowSpan === undefined
      ? ''
      : `span ${columnSpan ?? 1}${rowSpan === undefined ? '' : ` × ${rowSpan}`}`;
  return [place, span].filter(Boolean).join(' ');
}

/** Reads what {@link formatCell} writes; empty text leaves the place to the grid. */
export function parseCell(text: string): Parsed<Cell | null> {
  const t = text.trim().toLowerCase();
  if (t === '' || t === 'auto') return ok(null);
  const parts = AREA.exec(t);
  if (!parts) {
    return /^[a-z][\w-]*$/.test(t)
      ? ok({ area: text.trim() })
      : fail(text, 'a column and a row like 2, 1, span 2 × 1, or the name of an area');
  }
  const [column, row, columnSpan, rowSpan] = parts.slice(1).map((n) => (n ? Number(n) : undefined));
  if ([column, row, columnSpan, rowSpan].some((n) => n === 0)) return fail(text, 'numbers from 1 on');
  return ok({
    ...(column !== undefined && { column }),
    ...(row !== undefined && { row }),
    ...(columnSpan !== undefined && { columnSpan }),
    ...(rowSpan !== undefined && { rowSpan }),
  });
}

const KEYWORDS =
  'col, row, wrap, fill, fit, gap 12, pad 16, align middle, min 240, max 360, cols 3, lines 2, w 320 or h 48';

/** Words that stand alone for a rule. */
const FLAGS: Readonly<Record<string, RuleChange>> = {
  reverse: { reverse: true },
  scroll: { scroll: true },
  clip: { clip: true },
  rtl: { direction: 'rtl' },
  ltr: { direction: 'ltr' },
};

/**
 * Reads a line of typed rules such as `col gap 12 pad 16 fill`. A size without a letter is the width; `×` or `x`
 * joins width and height (`fill×fit`).
 */
export function parseRuleLine(line: string): Parsed<RuleChange> {
  const words = line
    .trim()
    .split(/\s+/)
    .filter((w) => w !== '');
  if (words.length === 0) return fail(line, KEYWORDS);
  let set: RuleChange = {};
  let i = 0;
  /** Takes the words after a keyword while they are numbers. */
  const numbers = (): string => {
    const from = i;
    while (i < words.length && number(words[i] ?? '') !== undefined) i++;
    return words.slice(from, i).join(' ');
  };
  const take = (): string => words[i++] ?? '';
  /** Takes the words after `cols` while they read as columns. */
  const columnWords = (): string => {
    const from = i;
    while (i < words.length && parseColumns(words.slice(from, i + 1).join(' ')).ok) i++;
    if (words[i] === 'min' || words[i] === 'of')
      i = Math.min(words.length, from + (words[from] === 'min' ? 2 : 4));
    return words.slice(from, i).join(' ');
  };
  const size = (word: string): Parsed<Size> =>
    word.toLowerCase() === 'fill' && number(words[i] ?? '') !== undefined
      ? parseSize(`fill ${take()}`)
      : parseSize(word);
  while (i < words.length) {
    const at = i;
    const word = take();
    const key = word.toLowerCase();
    let read: Parsed<RuleChange>;
    const as = <T>(parsed: Parsed<T>, make: (value: T) => RuleChange): Parsed<RuleChange> =>
      parsed.ok ? ok(make(parsed.value)) : parsed;
    const cross = /^(.+)[×x](.+)$/.exec(key);
    if (FLOW_WORDS[key]) read = ok({ flow: FLOW_WORDS[key] });
    else if (key === 'gap') read = as(parseGap(take()), (gap) => ({ gap }));
    else if (key === 'cross')
      read = as(parseGap(take()), (g) => ({ crossGap: typeof g === 'number' ? g : 0 }));
    else if (key === 'pad') read = as(parseEdges(numbers()), (padding) => ({ padding }));
    else if (key === 'align') read = as(parseAlign(take()), (align) => ({ align }));
    else if (key === 'self') read = as(parseAlign(take()), (alignSelf) => ({ alignSelf }));
    else if (key === 'before')
      read = as(parseGap(take()), (g) => ({ gapBefore: typeof g === 'number' ? g : 0 }));
    else if (key === 'stay') {
      const side = take();
      const at = number(words[i] ?? '') === undefined ? '' : take();
      read = as(parseStay(`${side} ${at}`), (stay) => ({ stay }));
    } else if (key === 'order')
      read = /^-?\d{1,4}$/.test(words[i] ?? '')
        ? ok({ order: Number(take()) })
        : fail(take(), 'a whole number after order');
    else if (key === 'justify') read = as(parseJustify(take()), (justify) => ({ justify }));
    else if (key === 'min' || key === 'max')
      read = as(parseLimits(`${key} ${take()}`), ({ min, max }) =>
        min !== null ? { minWidth: min } : { maxWidth: max },
      );
    else if (key === 'w') read = as(size(take()), (width) => ({ width }));
    else if (key === 'h') read = as(size(take()), (height) => ({ height }));
    else if (key === 'cols') read = as(parseColumns(columnWords()), (columns) => ({ flow: 'grid', columns }));
    else if (key === 'lines')
      read = /^[1-9]\d?$/.test(words[i] ?? '')
        ? ok({ maxLines: Number(take()) })
        : fail(take(), 'a number of lines after lines');
    else if (FLAGS[key]) read = ok(FLAGS[key]);
    else if (key === 'hide') read = ok({ hidden: true });
    else if (key === 'show') read = ok({ hidden: null });
    else if (cross) {
      const [w, h] = [parseSize(cross[1] ?? ''), parseSize(cross[2] ?? '')];
      read = w.ok ? as(h, (height) => ({ width: w.value, height })) : w;
    } else read = as(size(word), (width) => ({ width }));
    if (!read.ok) {
      const told = FLOW_WORDS[key] || ['gap', 'pad', 'align'].includes(key) ? read : fail(word, KEYWORDS);
      return told.ok ? told : { ...told, word: Math.max(at, i - 1) };
    }
    set = { ...set, ...read.value };
  }
  return ok(set);
}

/** The rules of a part as a line that {@link parseRuleLine} reads back. */
export function formatRuleLine(rules: Rules): string {
  const words: string[] = [];
  if (rules.flow) words.push(formatFlow(rules.flow));
  if (rules.gap !== undefined) words.push(`gap ${formatGap(rules.gap)}`);
  if (rules.crossGap !== undefined) words.push(`cross ${show(rules.crossGap)}`);
  if (rules.padding && formatEdges(rules.padding) !== formatEdges(NO_PADDING))
    words.push(`pad ${formatEdges(rules.padding)}`);
  if (rules.align) words.push(`align ${formatAlign(rules.align)}`);
  if (rules.justify) words.push(`justify ${formatAlign(rules.justify)}`);
  words.push(
    `w ${formatSize(rules.width ?? { kind: 'fit' })}`,
    `h ${formatSize(rules.height ?? { kind: 'fit' })}`,
  );
  if (rules.minWidth !== undefined) words.push(`min ${rules.minWidth}`);
  if (rules.maxWidth !== undefined) words.push(`max ${formatLimit(rules.maxWidth)}`);
  if (rules.columns) words.push(`cols ${formatColumns(rules.columns)}`);
  if (rules.maxLines !== undefined) words.push(`lines ${rules.maxLines}`);
  if (rules.alignSelf) words.push(`self ${formatAlign(rules.alignSelf)}`);
  if (rules.gapBefore !== undefined) words.push(`before ${show(rules.gapBefore)}`);
  if (rules.order !== undefined) words.push(`order ${rules.order}`);
  if (rules.stay) words.push(`stay ${formatStay(rules.stay)}`);
  if (rules.reverse) words.push('reverse');
  if (rules.scroll) words.push('scroll');
  if (rules.clip) words.push('clip');
  if (rules.direction) words.push(rules.direction);
  if (rules.hidden) words.push('hide');
  return words.join(' ');
}
