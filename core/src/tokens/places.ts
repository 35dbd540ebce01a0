import { withChange, type LengthToken, type Part, type Rules, type TokenPlace } from '../model/index.js';

/** A value at a place of a part. */
export interface PlacedValue {
  readonly part: string;
  readonly place: TokenPlace;
  /** What sort of value it is: only those of one sort share a token. */
  readonly sort: 'space' | 'size' | 'type' | 'line' | 'fill' | 'ink';
  readonly value: number | string;
  /** What it is in narrower frames where it is another there, the widest first. */
  readonly below: NonNullable<LengthToken['below']>;
}

const SIDES = ['top', 'right', 'bottom', 'left'] as const;
const SPACES = ['gap', 'crossGap', 'gapBefore'] as const;
const LIMITS = ['minWidth', 'maxWidth', 'minHeight', 'maxHeight'] as const;

/** The px that rules say, or undefined where they say something else. */
type Saying = (rules: Rules) => number | undefined;

/** Every place of a part at which a token can stand, with the value that it has in all frames. */
export function valuesOf(part: Part): PlacedValue[] {
  const { id, content, paint, below = [], wide } = part;
  const found: PlacedValue[] = [];
  const tell = (place: TokenPlace, sort: PlacedValue['sort'], value: number | string | undefined) => {
    if (value !== undefined) found.push({ part: id, place, sort, value, below: [] });
  };
  /** A token holds in every frame: it can stand only where its place says px in every frame. */
  const tellRule = (place: TokenPlace, rule: keyof Rules, sort: PlacedValue['sort'], saying: Saying) => {
    const value = saying(part.rules);
    if (value === undefined || (wide && rule in wide)) return;
    const steps: { width: number; value: number }[] = [];
    let { rules } = part;
    for (const override of below) {
      rules = withChange(rules, override.rules);
      const there = saying(rules);
      if (there === undefined) return;
      if (there !== (steps.at(-1)?.value ?? value)) steps.push({ width: override.width, value: there });
    }
    if (value > 0 || sort === 'size' || steps.length > 0)
      found.push({ part: id, place, sort, value, below: steps });
  };
  const number = (value: unknown): number | undefined => (typeof value === 'number' ? value : undefined);
  for (const place of SPACES) tellRule(place, place, 'space', (rules) => number(rules[place]));
  for (const side of SIDES) tellRule(`padding.${side}`, 'padding', 'space', (rules) => rules.padding?.[side]);
  for (const axis of ['width', 'height'] as const)
    if (part.kind !== 'shape')
      tellRule(axis, axis, 'size', ({ [axis]: size }) => (size?.kind === 'fixed' ? size.px : undefined));
  for (const place of LIMITS) tellRule(place, place, 'size', (rules) => number(rules[place]));
  if (paint?.fill?.kind === 'solid') tell('fill', 'fill', paint.fill.colour);
  const runs = content?.kind === 'text' ? content.runs : [];
  const [first] = runs;
  // A token says what all the words of a text are: it has no place in one whose words differ.
  if (content?.kind === 'text' && first) {
    if (runs.every((r) => r.style.size === first.style.size)) {
      tell('text.size', 'type', first.style.size);
      tell('text.lineHeight', 'line', content.lineHeight);
    }
    if (runs.every((r) => r.style.colour === first.style.colour))
      tell('text.colour', 'ink', first.style.colour);
  }
  return found;
}
