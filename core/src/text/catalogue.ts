import type { TextStyle } from '../model/index.js';

/** A font family that ships with the program, as npm packages of the fontsource collection name its files. */
export interface ShippedFamily {
  readonly family: string;
  /** The package's short name: files are `@fontsource/<slug>/files/<slug>-<subset>-<weight>-<style>.woff`. */
  readonly slug: string;
  readonly weights: readonly number[];
  readonly generic: 'sans' | 'serif' | 'mono';
  readonly italic: boolean;
}

const HUNDREDS = [100, 200, 300, 400, 500, 600, 700, 800, 900] as const;

export const SHIPPED: readonly ShippedFamily[] = [
  { family: 'Inter', slug: 'inter', weights: HUNDREDS, generic: 'sans', italic: true },
  { family: 'Barlow', slug: 'barlow', weights: HUNDREDS, generic: 'sans', italic: true },
  { family: 'Lato', slug: 'lato', weights: [100, 300, 400, 700, 900], generic: 'sans', italic: true },
  { family: 'Montserrat', slug: 'montserrat', weights: HUNDREDS, generic: 'sans', italic: true },
  { family: 'Noto Sans', slug: 'noto-sans', weights: HUNDREDS, generic: 'sans', italic: true },
  {
    family: 'Open Sans',
    slug: 'open-sans',
    weights: [300, 400, 500, 600, 700, 800],
    generic: 'sans',
    italic: true,
  },
  { family: 'Poppins', slug: 'poppins', weights: HUNDREDS, generic: 'sans', italic: true },
  { family: 'Roboto', slug: 'roboto', weights: HUNDREDS, generic: 'sans', italic: true },
  { family: 'Work Sans', slug: 'work-sans', weights: HUNDREDS, generic: 'sans', italic: true },
  {
    family: 'Source Serif 4',
    slug: 'source-serif-4',
    weights: [200, 300, 400, 500, 600, 700, 800, 900],
    generic: 'serif',
    italic: true,
  },
  {
    family: 'Spline Sans Mono',
    slug: 'spline-sans-mono',
    weights: [300, 400, 500, 600, 700],
    generic: 'mono',
    italic: true,
  },
];

const FALLBACK = { sans: 'Inter', serif: 'Source Serif 4', mono: 'Spline Sans Mono' } as const;

/** One font file that ships. */
export interface Face {
  readonly family: ShippedFamily;
  readonly weight: number;
  readonly italic: boolean;
  readonly subset: 'latin' | 'latin-ext';
}

export const faceKey = (f: Face): string =>
  `${f.family.slug}-${f.subset}-${f.weight}-${f.italic ? 'italic' : 'normal'}`;

const unquoted = (name: string): string => name.trim().replace(/^(['"])(.*)\1$/, '$2');

/** The names of a CSS `font-family` list, without quotes. */
export const familyNames = (list: string): string[] =>
  list
    .split(',')
    .map(unquoted)
    .filter((n) => n !== '');

/** The shipped family that a CSS `font-family` list asks for, and whether it is the very one that it names first. */
export function resolveFamily(list: string): { family: ShippedFamily; exact: boolean } {
  const names = familyNames(list);
  for (const [i, name] of names.entries()) {
    const family = SHIPPED.find((f) => f.family.toLowerCase() === name.toLowerCase());
    if (family) return { family, exact: i === 0 };
  }
  const all = names.join(' ').toLowerCase();
  const generic = /mono|courier|code|consol/.test(all)
    ? 'mono'
    : /(?<!sans[- ])serif|georgia|times|garamond|roman/.test(all)
      ? 'serif'
      : 'sans';
  const family = SHIPPED.find((f) => f.family === FALLBACK[generic]);
  if (!family) throw new Error(`The fallback family ${FALLBACK[generic]} is not in the catalogue.`);
  return { family, exact: false };
}

/** The weight that CSS font matching (CSS Fonts 4 §5.2) chooses among those that there are. */
export function matchWeight(weights: readonly number[], wanted: number): number {
  const below = weights.filter((w) => w <= wanted).toReversed();
  const above = weights.filter((w) => w >= wanted);
  const middle = wanted >= 400 && wanted <= 500 ? weights.filter((w) => w >= wanted && w <= 500) : [];
  const order =
    wanted < 400 || middle.length > 0 || wanted <= 500
      ? [...middle, ...below, ...above]
      : [...above, ...below];
  return order[0] ?? 400;
}

/** The file for a style in one subset. */
export function faceFor(
  style: Pick<TextStyle, 'family' | 'weight' | 'italic'>,
  subset: Face['subset'] = 'latin',
): Face {
  const { family } = resolveFamily(style.family);
  return {
    family,
    weight: matchWeight(family.weights, style.weight),
    italic: style.italic && family.italic,
    subset,
  };
}

/** Whether `text` has letters that the basic latin files lack and the extended ones may have. */
export const needsExtended = (text: string): boolean =>
  /[\u0100-\u02ff\u1e00-\u1eff\u20a0-\u20ab\u20ad-\u20c0]/.test(text);
