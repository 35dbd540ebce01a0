import type { Drawing, Item } from '@tinfold/core/drawing';
import { Engine, reflow, textBox } from '@tinfold/core/layout';
import {
  FILL,
  fixed,
  ruleOf,
  walk,
  type Content,
  type Paint,
  type Part,
  type Rules,
  type Size,
} from '@tinfold/core/model';
import { baselineInLine, normalLineHeight, type TextMeasurer } from '@tinfold/core/text';
import { style, words } from './build.js';

let count = 0;
const id = (what: string): string => `${what}${++count}`;

const CARD: Paint = { fill: { kind: 'solid', colour: '#e3ecea' }, radius: 8 };

const container = (rules: Rules, children: readonly Part[], paint?: Paint): Part => {
  const name = id(paint ? 'box' : 'group');
  return {
    id: name,
    name,
    kind: 'container',
    rules,
    children,
    source: paint ? [name] : [],
    ...(paint && { paint }),
  };
};

/** A container that is drawn: a card, a bar, a button, a field. */
export const box = (rules: Rules, ...children: Part[]): Part => container(rules, children, CARD);
/** A container that only keeps things together. */
export const group = (rules: Rules, ...children: Part[]): Part => container(rules, children);

const leaf = (kind: Part['kind'], rules: Rules, paint?: Paint, content?: Content): Part => {
  const name = id(kind);
  return {
    id: name,
    name,
    kind,
    rules,
    children: [],
    source: [name],
    ...(paint && { paint }),
    ...(content && { content }),
  };
};

/** A line of words: as wide as they are. */
export const line = (text: string, size = 16, rules: Rules = {}): Part =>
  leaf('text', rules, undefined, words(text, NaN, style(size)));
/** Words that fill lines of 24 px. */
export const prose = (text: string, rules: Rules = { width: { kind: 'fill', weight: 1 } }): Part =>
  leaf('text', rules, undefined, words(text, 24));
export const icon = (side: number, rules: Rules = {}): Part =>
  leaf(
    'shape',
    { width: fixed(side), height: fixed(side), ...rules },
    { fill: { kind: 'solid', colour: '#3f7f75' }, radius: 'round' },
  );
export const bar = (rules: Rules): Part =>
  leaf('shape', rules, { fill: { kind: 'solid', colour: '#b5562a' } });
/** What takes the room that is left and shows nothing. */
export const spring = (): Part => ({
  ...leaf('shape', { width: FILL, height: FILL }, {}),
  source: [],
});
/** A picture; with something on it, it holds that. */
export const picture = (rules: Rules, ...children: Part[]): Part => ({
  ...leaf('picture', rules, {}, { kind: 'picture', fit: 'cover' }),
  ...(children.length > 0 && { kind: 'container', children }),
});
/** What dims all that was drawn before. */
export const scrim = (rules: Rules, ...children: Part[]): Part =>
  container(rules, children, { fill: { kind: 'solid', colour: 'rgba(20, 30, 40, 0.5)' } });

/** Single lines are as high as lines of their size usually are. */
function measured(part: Part, m: TextMeasurer): Part {
  const children = part.children.map((c) => measured(c, m));
  const { content } = part;
  if (content?.kind !== 'text' || !Number.isNaN(content.lineHeight)) return { ...part, children };
  const { size } = content.runs[0]?.style ?? style();
  return { ...part, children, content: { ...content, lineHeight: usualLineHeight(size) } };
}

/** What a known structure looks like in a frame of its width: items at fixed places, in no groups. */
export function drawingOf(known: Part, width: number, m: TextMeasurer): Drawing {
  const root = measured(known, m);
  const { parts, lines, height } = reflow(root, width, new Engine(m));
  const items = [...walk(root)].flatMap((part): Item[] => {
    const at = parts.get(part.id);
    const [source] = part.source;
    if (!at || source === undefined || part === root) return [];
    const common = { id: source, groups: [], paint: part.paint ?? {} };
    const { content } = part;
    if (content?.kind === 'picture') return [{ ...common, kind: 'picture', box: at, content }];
    if (content?.kind !== 'text') return [{ ...common, kind: 'shape', box: at }];
    const laid = lines.get(part.id) ?? [];
    const own = textBox(content, laid, at);
    const metrics = m.metrics(content.runs[0]?.style ?? style());
    const drop = baselineInLine(metrics, content.lineHeight);
    if (laid.length === 1) {
      // A single line's drawing shows its letters, not how high the line is.
      const lineHeight = normalLineHeight(metrics);
      const box = { ...own, y: own.y + drop - baselineInLine(metrics, lineHeight), height: lineHeight };
      const drawn = [{ x: own.x, baseline: own.y + drop, width: laid[0]?.width ?? own.width }];
      const guessed = {
        content: { ...content, lineHeight },
        loneLine: { letters: metrics.ascent + metrics.descent },
      } as const;
      return [{ ...common, kind: 'text', box, ...guessed, lines: drawn }];
    }
    return [
      {
        ...common,
        kind: 'text',
        box: own,
        content,
        lines: laid.map((l, i) => ({
          x: own.x,
          baseline: own.y + i * content.lineHeight + drop,
          width: l.width,
        })),
      },
    ];
  });
  return { name: 'Screen', width, height, background: {}, backgroundIds: [], items, notes: [] };
}

/** How high most screens set lines: closer for headings than for running text. A drawing of single lines does not tell it. */
const usualLineHeight = (size: number): number => size * (size < 20 ? 1.5 : 1.2);

const itemsOf = (part: Part): string[] => [...walk(part)].flatMap((p) => p.source).sort();
const EXACT = 1.1;
const near = (a: number, b: number, by = EXACT): boolean => Math.abs(a - b) <= by;

function sizeDiffers(read: Size, known: Size): boolean {
  if (read.kind !== known.kind) return true;
  if (read.kind === 'fixed' && known.kind === 'fixed') return !near(read.px, known.px);
  if (read.kind === 'share' && known.kind === 'share') return !near(read.percent, known.percent);
  if (read.kind === 'ratio' && known.kind === 'ratio')
    return !near(read.width / read.height, known.width / known.height, 0.02);
  return false;
}

/**
 * By how much spaces beside single lines may be other than known, px: where the lines of what was read are higher or lower, they
 * stand in the same places with as much less or more between them. More than this is no line height that anybody sets.
 */
const LINES = 3;
function slackOf(read: Part): number {
  const off = [...walk(read)].map(({ content }) => {
    const size = content?.kind === 'text' ? content.runs[0]?.style.size : undefined;
    return content?.kind === 'text' && size ? Math.abs(content.lineHeight - usualLineHeight(size)) : 0;
  });
  return Math.min(LINES, Math.max(0, ...off));
}

/** The rules of a known part that one read part says otherwise. */
function differences(read: Part, seat: Part, known: Part): string[] {
  const k = known.rules;
  const r = read.rules;
  const slack = slackOf(read);
  const found: string[] = [];
  const say = (rule: string, got: unknown, wanted: unknown) =>
    found.push(`${known.id}: ${rule} is ${JSON.stringify(got)}, not ${JSON.stringify(wanted)}`);
  const several = known.children.filter((c) => !c.rules.pin).length > 1;
  if (several && ruleOf(r, 'flow') !== ruleOf(k, 'flow')) say('flow', ruleOf(r, 'flow'), ruleOf(k, 'flow'));
  if (several && k.gap !== undefined) {
    const same =
      typeof k.gap === 'number' && typeof r.gap === 'number'
        ? near(r.gap, k.gap, EXACT + slack)
        : r.gap === k.gap;
    if (!same) say('gap', r.gap, k.gap);
  }
  if (k.padding && known.paint) {
    const p = r.padding;
    const sides = ['top', 'right', 'bottom', 'left'] as const;
    const by = (s: (typeof sides)[number]) => EXACT + (s === 'top' || s === 'bottom' ? slack : 0);
    if (!p || sides.some((s) => !near(p[s], k.padding?.[s] ?? 0, by(s)))) say('padding', p, k.padding);
  }
  if (k.width && sizeDiffers(ruleOf(seat.rules, 'width'), k.width)) say('width', seat.rules.width, k.width);
  if (k.height && sizeDiffers(ruleOf(r, 'height'), k.height)) say('height', r.height, k.height);
  if (
    typeof k.maxWidth === 'number' &&
    !near((seat.rules.maxWidth ?? r.maxWidth ?? NaN) as number, k.maxWidth)
  )
    say('maxWidth', seat.rules.maxWidth, k.maxWidth);
  if (k.columns && r.columns?.kind !== k.columns.kind) say('columns', r.columns, k.columns);
  if (k.columns?.kind === 'repeat' && r.columns?.kind === 'repeat' && r.columns.most !== k.columns.most)
    say('columns', r.columns, k.columns);
  if (k.cell && JSON.stringify(r.cell) !== JSON.stringify(k.cell)) say('cell', r.cell, k.cell);
  if (k.align && several && ruleOf(r, 'align') !== k.align) say('align', r.align, k.align);
  if (k.pin) {
    const keys = Object.keys(k.pin) as (keyof NonNullable<Rules['pin']>)[];
    const same =
      keys.length === Object.keys(seat.rules.pin ?? {}).length &&
      keys.every((key) => near(seat.rules.pin?.[key] ?? NaN, k.pin?.[key] ?? NaN));
    if (!same) say('pin', seat.rules.pin, k.pin);
  }
  return found;
}

/**
 * Where what was read differs from the known structure, rule by rule, as sentences. A known part is found by the items
 * in it; of wrappers around the same items the outermost says how it sits, the one that fits best all else.
 */
export function differencesFrom(known: Part, read: Part): string[] {
  const parts = [...walk(read)];
  const keyed = new Map<string, Part[]>();
  for (const part of parts) {
    const key = itemsOf(part).join();
    keyed.set(key, [...(keyed.get(key) ?? []), part]);
  }
  return [...walk(known)].slice(1).flatMap((part) => {
    const alike = keyed.get(itemsOf(part).join()) ?? [];
    const [seat] = alike;
    if (!seat) return [`${part.id}: no part holds ${itemsOf(part).join(', ')}`];
    return alike.map((a) => differences(a, seat, part)).sort((a, b) => a.length - b.length)[0] ?? [];
  });
}

/** Frames that are looked at, as shares of the drawn width. */
const FRAMES = [0.8, 0.9, 1.1, 1.25];

/** Which drawn things of a known structure stand elsewhere in what was read, in frames around the drawn one, as sentences. */
export function misplacedIn(known: Part, read: Part, width: number, m: TextMeasurer): string[] {
  const engine = new Engine(m);
  const root = measured(known, m);
  const found = new Map([...walk(read)].flatMap((p) => p.source.map((id) => [id, p.id] as const)));
  return FRAMES.map((f) => Math.round(f * width)).flatMap((frame) => {
    const [wanted, got] = [reflow(root, frame, engine).parts, reflow(read, frame, engine).parts];
    return [...walk(root)].flatMap((part) =>
      part.source.flatMap((id) => {
        const [a, b] = [got.get(found.get(id) ?? ''), wanted.get(part.id)];
        // A text's box may be wider than its words.
        const isEnd = part.kind === 'text' || (a && b && near(a.x + a.width, b.x + b.width, PLACE));
        const same = a && b && near(a.x, b.x, PLACE) && isEnd;
        return same ? [] : [`${id} is from ${a?.x} to ${a && a.x + a.width} in ${frame}, not from ${b?.x}`];
      }),
    );
  });
}
/** What the letters of a line may be off, px. */
const PLACE = 1.6;
