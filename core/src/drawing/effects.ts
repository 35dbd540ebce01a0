import { BLENDS, type Blend, type Shadow } from '../model/index.js';
import { normalColour } from './colour.js';
import { length } from './styles.js';
import { elementsOf, type XmlElement } from './xml.js';

/** What a filter does, as far as it can be said in CSS. None of it takes room in the layout. */
export interface Effects {
  readonly shadow?: Shadow;
  readonly blur?: number;
}

const number = (text: string | undefined, fallback: number): number => length(text, 1) ?? fallback;

/** The colour that a matrix gives to whatever it is applied to: exporters write shadows' colours so. */
function matrixColour(el: XmlElement): string | undefined {
  const m = (el.attributes['values'] ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const [r, g, b, a] = [m[4], m[9], m[14], m[18]];
  if (m.length !== 20 || ![r, g, b, a].every((n) => n !== undefined && Number.isFinite(n))) return undefined;
  const byte = (n = 0) => Math.round(Math.min(1, Math.max(0, n)) * 255);
  return normalColour(
    `#${[r, g, b].map((n) => byte(n).toString(16).padStart(2, '0')).join('')}`,
    Math.min(1, Math.max(0, a ?? 1)),
  );
}

const shadow = (dx: number, dy: number, deviation: number, colour: string | undefined): Effects =>
  // A CSS blur radius is twice the standard deviation (CSS Backgrounds 3 §4.6).
  colour === undefined ? {} : { shadow: { dx, dy, blur: deviation * 2, colour } };

/**
 * The first drop shadow of a filter element, written as one primitive or as the chain offset, blur, colour; or a blur
 * of the element itself.
 */
export function filterEffects(filter: XmlElement): Effects {
  const steps = elementsOf(filter);
  const drop = steps.find((el) => el.name === 'feDropShadow');
  if (drop) {
    const at = (name: string) => number(drop.attributes[name], 0);
    const colour = normalColour(
      drop.attributes['flood-color'] ?? '#000000',
      number(drop.attributes['flood-opacity'], 1),
    );
    return shadow(at('dx'), at('dy'), at('stdDeviation'), colour);
  }
  const offset = steps.findIndex((el) => el.name === 'feOffset');
  if (offset >= 0) {
    const { attributes } = steps[offset] as XmlElement;
    const after = steps.slice(offset);
    const blurred =
      after.find((el) => el.name === 'feGaussianBlur') ?? steps.find((el) => el.name === 'feGaussianBlur');
    const matrix = after.find((el) => el.name === 'feColorMatrix');
    return shadow(
      number(attributes['dx'], 0),
      number(attributes['dy'], 0),
      number(blurred?.attributes['stdDeviation'], 0),
      (matrix && matrixColour(matrix)) ?? 'rgba(0, 0, 0, 0.5)',
    );
  }
  const blur = steps.find((el) => el.name === 'feGaussianBlur');
  const deviation = number(blur?.attributes['stdDeviation'], 0);
  return deviation > 0 ? { blur: deviation } : {};
}

/** The effects of CSS filter functions (Filter Effects 1 §7): `drop-shadow()` and `blur()`. */
export function cssEffects(value: string): Effects {
  const blur = /(?:^|\s)blur\(\s*([^)]+)\)/.exec(value)?.[1];
  const inner = /drop-shadow\(((?:[^()]|\([^()]*\))*)\)/.exec(value)?.[1];
  const radius = length(blur);
  const found = inner === undefined ? undefined : cssShadow(inner);
  return { ...(radius !== undefined && radius > 0 && { blur: radius }), ...(found && { shadow: found }) };
}

/** The first outer shadow of a CSS `box-shadow` or the inside of a `drop-shadow()`. */
export function cssShadow(value: string): Shadow | undefined {
  for (const layer of value.split(/,(?![^(]*\))/)) {
    if (/\binset\b/.test(layer)) continue;
    const tokens = layer.match(/[a-z-]+\([^)]*\)|[^\s]+/gi) ?? [];
    const lengths = tokens.flatMap((t) => length(t) ?? []);
    const colour = normalColour(tokens.find((t) => length(t) === undefined) ?? '#000000');
    const [dx, dy, blur = 0] = lengths;
    if (dx !== undefined && dy !== undefined && colour !== undefined) return { dx, dy, blur, colour };
  }
  return undefined;
}

/** A `mix-blend-mode` other than normal. */
export const blendOf = (value: string | undefined): Blend | undefined =>
  BLENDS.find((b) => b === value?.trim());
