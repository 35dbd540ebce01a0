import { FILL, type Paint, type Part, type Pin, type Rules } from '@tinfold/core/model';
import { column, shape } from './build.js';

export const PAINT: Paint = { fill: { kind: 'solid', colour: '#e3ecea' } };

export const named = (name: string, part: Part): Part => ({ ...part, name });
export const painted = (part: Part): Part => ({ ...part, paint: PAINT });
export const pinned = (part: Part, pin: Pin): Part => ({ ...part, rules: { ...part.rules, pin } });

/** A painted box of fixed size. */
export const box = (width: number, height: number, rules: Rules = {}): Part =>
  painted(shape(width, height, rules));
/** A painted column that fills. */
export const card = (rules: Rules, ...children: Part[]): Part =>
  painted(column({ width: FILL, ...rules }, ...children));
/** A column that fills: a whole screen. */
export const frame = (rules: Rules, ...children: Part[]): Part =>
  column({ width: FILL, ...rules }, ...children);

/** A picture with as many pixels as it is drawn with. */
export const picture = (
  width: number,
  height: number,
  rules: Rules,
  fit: 'cover' | 'fill' = 'cover',
): Part => ({
  ...shape(width, height, rules),
  kind: 'picture',
  content: { kind: 'picture', fit, natural: { width, height } },
});

/** An icon. */
export const art = (width: number, height: number, rules: Rules = {}): Part => ({
  ...shape(width, height, rules),
  kind: 'picture',
  content: { kind: 'art', view: [0, 0, width, height], paths: [] },
});
