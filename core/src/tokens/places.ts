import { type Part, type TokenPlace } from '../model/index.js';

/** A value at a place of a part. */
export interface PlacedValue {
  readonly part: string;
  readonly place: TokenPlace;
  /** What sort of value it is: only those of one sort share a token. */
  readonly sort: 'space' | 'size' | 'type' | 'line' | 'fill' | 'ink';
  readonly value: number | string;
}

const SIDES = ['top', 'right', 'bottom', 'left'] as const;
const SPACES = ['gap', 'crossGap', 'gapBefore'] as const;
const LIMITS = ['minWidth', 'maxWidth', 'minHeight', 'maxHeight'] as const;

/** Every place of a part at which a token can stand, with the value that it has in all frames. */
export function valuesOf(part: Part): PlacedValue[] {
  const { id, rules, content, paint } = part;
  const found: PlacedValue[] = [];
  const tell = (place: TokenPlace, sort: PlacedValue['sort'], value: number | string | undefined) => {
    if (value !== undefined) found.push({ part: id, place, sort, value });
  };
  for (const place of SPACES) {
    const px = rules[place];
    if (typeof px === 'number' && px > 0) tell(place, 'space', px);
  }
  for (const side of SIDES) {
    const px = rules.padding?.[side];
    if (px !== undefined && px > 0) tell(`padding.${side}`, 'space', px);
  }
  for (const axis of ['width', 'height'] as const) {
    const size = rules[axis];
    if (size?.kind === 'fixed' && part.kind !== 'shape') tell(axis, 'size', size.px);
  }
  for (const place of LIMITS) {
    const px = rules[place];
    if (typeof px === 'number') tell(place, 'size', px);
  }
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
