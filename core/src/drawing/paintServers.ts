import type { Fill, GradientStop, Shadow } from '../model/index.js';
import { normalColour } from './colour.js';
import { cascade, length, type Declarations, type StyleSheet } from './styles.js';
import type { XmlElement } from './xml.js';

/** The id in `url(#id)`, or undefined. */
export const urlId = (value: string | undefined): string | undefined =>
  /^url\(\s*['"]?#([^'")]+)['"]?\s*\)/.exec(value ?? '')?.[1];

/** The target of a `use`, an image or a gradient: `href` with or without the old prefix. */
export const hrefOf = (el: XmlElement): string | undefined => el.attributes['href'];

const elementsOf = (el: XmlElement): XmlElement[] => el.children.filter((c) => typeof c !== 'string');

const numberOr = (text: string | undefined, fallback: number): number => length(text, 1) ?? fallback;

function gradientStops(
  gradient: XmlElement,
  sheet: StyleSheet,
  inherited: Declarations,
  opacity: number,
): GradientStop[] {
  return elementsOf(gradient)
    .filter((el) => el.name === 'stop')
    .map((el) => {
      const style = cascade(inherited, sheet.own(el));
      const stopOpacity = numberOr(style['stop-opacity'], 1) * opacity;
      const named = style['stop-color'] ?? '#000000';
      const colour = normalColour(
        named === 'currentColor' ? (style['color'] ?? '#000000') : named,
        stopOpacity,
      );
      return {
        at: Math.min(1, Math.max(0, numberOr(el.attributes['offset'], 0))),
        colour: colour ?? 'transparent',
      };
    });
}

/** A gradient as a CSS fill. A radial one, and the exact place of a slanted one's ends, become the nearest linear one. */
export function gradientFill(
  gradient: XmlElement,
  find: (id: string) => XmlElement | undefined,
  sheet: StyleSheet,
  inherited: Declarations,
  opacity: number,
): Fill | undefined {
  let stops = gradientStops(gradient, sheet, inherited, opacity);
  const template = hrefOf(gradient)?.replace(/^#/, '');
  if (stops.length === 0 && template) {
    const other = find(template);
    if (other && other !== gradient) stops = gradientStops(other, sheet, inherited, opacity);
  }
  const [first] = stops;
  if (!first) return undefined;
  if (stops.every((s) => s.colour === first.colour))
    return first.colour === 'transparent' ? undefined : { kind: 'solid', colour: first.colour };
  const at = (name: string, fallback: number) => numberOr(gradient.attributes[name], fallback);
  const dx = gradient.name === 'linearGradient' ? at('x2', 1) - at('x1', 0) : 0;
  const dy = gradient.name === 'linearGradient' ? at('y2', 0) - at('y1', 0) : 1;
  const angle = dx === 0 && dy === 0 ? 180 : (Math.atan2(dx, -dy) * 180) / Math.PI;
  return { kind: 'linear', angle: Math.round(((angle + 360) % 360) * 10) / 10, stops };
}

/** The first drop shadow of a filter. */
export function shadowOf(filter: XmlElement): Shadow | undefined {
  const drop = elementsOf(filter).find((el) => el.name === 'feDropShadow');
  if (!drop) return undefined;
  const colour = normalColour(
    drop.attributes['flood-color'] ?? '#000000',
    numberOr(drop.attributes['flood-opacity'], 1),
  );
  if (!colour) return undefined;
  const deviation = numberOr(drop.attributes['stdDeviation'], 0);
  return {
    dx: numberOr(drop.attributes['dx'], 0),
    dy: numberOr(drop.attributes['dy'], 0),
    // A CSS blur radius is twice the standard deviation (CSS Backgrounds 3 §4.6).
    blur: deviation * 2,
    colour,
  };
}
