import { lexer, parse } from 'css-tree';

function parsesAsColour(text: string): boolean {
  try {
    return lexer.matchType('color', parse(text, { context: 'value' })).error === null;
  } catch {
    return false;
  }
}

/** A drawing has few colours, each asked about a thousand times. */
const known = new Map<string, boolean>();
const MOST_KNOWN = 2_000;

function isColour(text: string): boolean {
  let found = known.get(text);
  if (found === undefined) {
    if (known.size >= MOST_KNOWN) known.clear();
    found = parsesAsColour(text);
    known.set(text, found);
  }
  return found;
}

const hex = (digits: string): number => Number.parseInt(digits, 16);

/** The red, green, blue (0–255) and alpha (0–1) of a hex colour. */
function fromHex(text: string): [number, number, number, number] | undefined {
  const short = /^#([\da-f])([\da-f])([\da-f])([\da-f])?$/i.exec(text);
  const long = /^#([\da-f]{2})([\da-f]{2})([\da-f]{2})([\da-f]{2})?$/i.exec(text);
  const parts = short ? short.slice(1).map((d) => (d as string | undefined) && d + d) : long?.slice(1);
  if (!parts) return undefined;
  const [r = '0', g = '0', b = '0', a] = parts;
  return [hex(r), hex(g), hex(b), a === undefined ? 1 : hex(a) / 255];
}

/** The same for `rgb()` in the older notation with commas, in numbers or percentages, which converters write. */
function fromRgb(text: string): [number, number, number, number] | undefined {
  const parts = /^rgb\(\s*([\d.]+)(%?)\s*,\s*([\d.]+)(%?)\s*,\s*([\d.]+)(%?)\s*\)$/.exec(text);
  if (!parts) return undefined;
  const part = (n: number): number => {
    const value = Number(parts[n]) * (parts[n + 1] === '%' ? 2.55 : 1);
    return Math.min(255, Math.round(value));
  };
  return [part(1), part(3), part(5), 1];
}

/**
 * A CSS colour with an opacity (0–1) worked in, or undefined for `none`, a fully transparent colour and anything
 * that is no colour. Hex and plain `rgb()` become `#rrggbb` or `rgba()`, other notations keep theirs.
 */
export function normalColour(text: string, opacity = 1): string | undefined {
  const value = text.trim().toLowerCase();
  if (value === '' || value === 'none' || value === 'transparent' || opacity <= 0) return undefined;
  const rgb = fromHex(value) ?? fromRgb(value);
  if (!rgb) {
    if (!isColour(value)) return undefined;
    return opacity >= 1
      ? value
      : `color-mix(in srgb, ${value} ${Number((opacity * 100).toFixed(1))}%, transparent)`;
  }
  const [r, g, b, a] = rgb;
  const alpha = Number((a * opacity).toFixed(3));
  if (alpha <= 0) return undefined;
  if (alpha < 1) return `rgba(${r}, ${g}, ${b}, ${alpha})`;
  return `#${[r, g, b].map((n) => n.toString(16).padStart(2, '0')).join('')}`;
}
