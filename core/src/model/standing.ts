import { walk, type Part, type Structure } from './part.js';
import { NO_PADDING, withChange, type Edges, type Rules, type Side } from './rules.js';
import { colourIn, lengthAt, type LengthPlace, type Token } from './tokens.js';

/** Where a structure stands: in a frame of a size, on a device with insets, read from left or right. */
export interface Conditions {
  readonly width: number;
  /** How high the frame is, px; without it the frame is as high as what is in it, and not said to be wider than high. */
  readonly height?: number;
  /** What the device covers of each side, px. */
  readonly insets?: Edges;
  readonly direction?: 'ltr' | 'rtl';
  /** The colour mode; colours have their own values without one. */
  readonly mode?: string;
}

const turns = new WeakMap<Structure, readonly number[]>();

/** The widths, widest first, below which other rules or lengths hold. */
export function breakpoints(structure: Structure): readonly number[] {
  const before = turns.get(structure);
  if (before) return before;
  const found = new Set<number>();
  const visit = (part: Part): void => {
    for (const o of part.below ?? []) found.add(o.width);
    part.children.forEach(visit);
  };
  visit(structure.root);
  for (const token of structure.tokens ?? [])
    if (token.kind === 'length') for (const step of token.below ?? []) found.add(step.width);
  const sorted = [...found].sort((a, b) => b - a);
  turns.set(structure, sorted);
  return sorted;
}

/** Whether some part says other rules in frames that are wider than high. */
export const turnsWide = (structure: Structure): boolean =>
  [...walk(structure.root)].some((p) => p.wide !== undefined);

/** An object with one entry, or none where its value is not known. */
const defined = <K extends string, V>(name: K, value: V | undefined): { readonly [P in K]?: V } =>
  value === undefined ? {} : ({ [name]: value } as { readonly [P in K]?: V });

/** What the tokens at a part's places are worth in a frame of this width. */
function withTokens(part: Part, tokens: ReadonlyMap<string, Token>, { width, mode }: Conditions): Part {
  const { bound } = part;
  if (!bound) return part;
  const length = (place: LengthPlace): number | undefined => {
    const token = tokens.get(bound[place] ?? '');
    return token?.kind === 'length' ? lengthAt(token, width) : undefined;
  };
  const set: Record<string, unknown> = {};
  for (const place of [
    'gap',
    'crossGap',
    'gapBefore',
    'minWidth',
    'maxWidth',
    'minHeight',
    'maxHeight',
  ] as const) {
    const px = length(place);
    if (px !== undefined) set[place] = px;
  }
  for (const place of ['width', 'height'] as const) {
    const px = length(place);
    if (px !== undefined) set[place] = { kind: 'fixed', px };
  }
  const sides = (['top', 'right', 'bottom', 'left'] as const).flatMap((side) => {
    const px = length(`padding.${side}`);
    return px === undefined ? [] : [[side, px] as const];
  });
  if (sides.length > 0)
    set['padding'] = { ...(part.rules.padding ?? NO_PADDING), ...Object.fromEntries(sides) };
  const colour = (place: 'fill' | 'text.colour'): string | undefined => {
    const token = tokens.get(bound[place] ?? '');
    return token?.kind === 'colour' ? colourIn(token, mode) : undefined;
  };
  const fill = colour('fill');
  const style = {
    ...defined('size', length('text.size')),
    ...defined('colour', colour('text.colour')),
  };
  const { content } = part;
  return {
    ...part,
    rules: { ...part.rules, ...set },
    ...(fill !== undefined && { paint: { ...part.paint, fill: { kind: 'solid', colour: fill } } }),
    ...(content?.kind === 'text' && {
      content: {
        ...content,
        ...defined('lineHeight', length('text.lineHeight')),
        runs: content.runs.map((r) => ({ ...r, style: { ...r.style, ...style } })),
      },
    }),
  };
}

function clearOf(rules: Rules, insets: Edges | undefined): Rules {
  const sides: readonly Side[] = rules.safeArea ?? [];
  if (!insets || sides.length === 0) return rules;
  const padding = { ...(rules.padding ?? NO_PADDING) };
  for (const side of sides) padding[side] = Math.max(padding[side], insets[side]);
  return { ...rules, padding };
}

const known = new WeakMap<readonly Token[], Map<string, WeakMap<Part, Part>>>();
const NO_TOKENS: readonly Token[] = [];

/** Parts that stood so before: what an edit did not touch stays the same object, and keeps what is known of it. */
function memory(tokens: readonly Token[], key: string): WeakMap<Part, Part> {
  const byKey = known.get(tokens) ?? new Map<string, WeakMap<Part, Part>>();
  known.set(tokens, byKey);
  const found = byKey.get(key) ?? new WeakMap<Part, Part>();
  byKey.set(key, found);
  return found;
}

/**
 * The tree as it stands under these conditions: the overrides that hold at this width over the rules (cascading from
 * the widest breakpoint down, and those of frames wider than high last), tokens worth what they are there, the direction of lines on every part, and paddings
 * clear of the device's insets. Without any of these it is the structure's own root.
 */
export function standing(structure: Structure, conditions: Conditions): Part {
  const { width, height = Infinity, insets, direction, mode } = conditions;
  // Wider than high, as in Media Queries 4 §4.3: a square is not.
  const wide = width > height;
  const tokens = structure.tokens ?? NO_TOKENS;
  // What holds is what holds just below the narrowest breakpoint above this width.
  const next = breakpoints(structure).findLast((b) => width < b) ?? 'all';
  const named = new Map(tokens.map((t) => [t.name, t]));
  const seenIn = (lines: 'ltr' | 'rtl') =>
    memory(tokens, `${next}/${JSON.stringify([insets, mode, wide])}/${lines}`);
  const seenBoth = { ltr: seenIn('ltr'), rtl: seenIn('rtl') };
  const visit = (part: Part, inherited: 'ltr' | 'rtl'): Part => {
    const seen = seenBoth[inherited];
    const before = seen.get(part);
    if (before) return before;
    let rules = part.rules;
    for (const o of part.below ?? []) if (width < o.width) rules = withChange(rules, o.rules);
    if (wide && part.wide) rules = withChange(rules, part.wide);
    const lines = rules.direction ?? inherited;
    if (lines === 'rtl' && rules.direction !== 'rtl') rules = { ...rules, direction: 'rtl' };
    const valued = withTokens(rules === part.rules ? part : { ...part, rules }, named, conditions);
    const clear = clearOf(valued.rules, insets);
    const children = part.children.map((c) => visit(c, lines));
    const same = children.every((c, i) => c === part.children[i]);
    const result =
      valued === part && clear === part.rules && same
        ? part
        : { ...valued, rules: clear, children: same ? part.children : children };
    seen.set(part, result);
    return result;
  };
  return visit(structure.root, direction ?? 'ltr');
}
