import type { TextRun, TextStyle } from '../model/index.js';
import { beyondLatin, serves, type Subset } from './ranges.js';

/** A font family: one that ships with the program, or one that the user added. */
export interface Family {
  readonly family: string;
  /** Its short name in file names: shipped files are `@fontsource/<slug>/files/<slug>-<subset>-<weight>-<style>.woff`. */
  readonly slug: string;
  readonly weights: readonly number[];
  /** The weights that there are in italic. */
  readonly italics: readonly number[];
  readonly generic: 'sans' | 'serif' | 'mono';
  /** The parts that its files are split into; a user's file is whole. */
  readonly subsets: readonly Subset[] | 'whole';
}

const HUNDREDS = [100, 200, 300, 400, 500, 600, 700, 800, 900] as const;
const LATIN = ['latin', 'latin-ext'] as const;
const EUROPEAN = [
  ...LATIN,
  'vietnamese',
  'cyrillic',
  'cyrillic-ext',
  'greek',
  'greek-ext',
] as const satisfies readonly Subset[];

const shipped = (
  family: string,
  weights: readonly number[],
  subsets: readonly Subset[],
  generic: Family['generic'] = 'sans',
  italics = weights,
): Family => ({
  family,
  slug: family.toLowerCase().replaceAll(' ', '-'),
  weights,
  italics,
  generic,
  subsets,
});

export const SHIPPED: readonly Family[] = [
  shipped('Inter', HUNDREDS, EUROPEAN),
  shipped('Barlow', HUNDREDS, [...LATIN, 'vietnamese']),
  shipped('Lato', [100, 300, 400, 700, 900], LATIN),
  shipped('Montserrat', HUNDREDS, [...LATIN, 'vietnamese', 'cyrillic', 'cyrillic-ext']),
  shipped('Noto Sans', HUNDREDS, [...EUROPEAN, 'devanagari']),
  shipped('Open Sans', [300, 400, 500, 600, 700, 800], [...EUROPEAN, 'hebrew']),
  shipped('Poppins', HUNDREDS, [...LATIN, 'devanagari']),
  shipped('Roboto', HUNDREDS, EUROPEAN),
  shipped('Work Sans', HUNDREDS, [...LATIN, 'vietnamese']),
  shipped(
    'Source Serif 4',
    [200, 300, 400, 500, 600, 700, 800, 900],
    [...LATIN, 'vietnamese', 'cyrillic', 'cyrillic-ext', 'greek'],
    'serif',
  ),
  shipped('Spline Sans Mono', [300, 400, 500, 600, 700], LATIN, 'mono'),
];

/** What serves a script that the text's own family lacks, in this order. */
export const SCRIPT_FALLBACKS: readonly Family[] = [
  ...SHIPPED.filter((f) => f.family === 'Noto Sans'),
  shipped('Noto Sans Hebrew', HUNDREDS, ['hebrew'], 'sans', []),
  shipped('Noto Sans Arabic', HUNDREDS, ['arabic'], 'sans', []),
  shipped('Noto Sans Thai', HUNDREDS, ['thai'], 'sans', []),
  shipped('Noto Sans Symbols', HUNDREDS, ['symbols'], 'sans', []),
];

const FALLBACK = { sans: 'Inter', serif: 'Source Serif 4', mono: 'Spline Sans Mono' } as const;

/** One font file. */
export interface Face {
  readonly family: Family;
  readonly weight: number;
  readonly italic: boolean;
  readonly subset: Subset | 'whole';
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

/**
 * The family that a CSS `font-family` list gets, from the user's own fonts and the shipped ones, and whether it is the
 * very one that the list names first.
 */
export function resolveFamily(list: string, own: readonly Family[] = []): { family: Family; exact: boolean } {
  const names = familyNames(list);
  for (const [i, name] of names.entries()) {
    const isNamed = (f: Family) => f.family.toLowerCase() === name.toLowerCase();
    const family = own.find(isNamed) ?? SHIPPED.find(isNamed);
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

const faceOf = (
  family: Family,
  style: Pick<TextStyle, 'weight' | 'italic'>,
  subset: Face['subset'],
): Face => {
  const italic = style.italic && family.italics.length > 0;
  const weights = italic || family.weights.length === 0 ? family.italics : family.weights;
  return {
    family,
    weight: matchWeight(weights, style.weight),
    italic: italic || family.weights.length === 0,
    subset,
  };
};

/** The file that serves most of a style's text: its latin part, or a user's whole file. */
export function faceFor(
  style: Pick<TextStyle, 'family' | 'weight' | 'italic'>,
  own: readonly Family[] = [],
): Face {
  const { family } = resolveFamily(style.family, own);
  return faceOf(family, style, family.subsets === 'whole' ? 'whole' : 'latin');
}

/** The files that a text may take its characters from, in the order in which a browser asks them. */
export function facesFor(text: string, style: TextStyle, own: readonly Family[] = []): Face[] {
  const first = faceFor(style, own);
  const faces = [first];
  const whole = first.family.subsets === 'whole';
  // A user's file may lack anything: then the shipped files of the generic family stand behind it.
  const others = whole ? Array.from(new Set(text)) : beyondLatin(text);
  if (others.length === 0) return faces;
  const families = whole
    ? SHIPPED.filter((f) => f.family === FALLBACK[first.family.generic])
    : [first.family];
  const left = new Set(others);
  for (const family of [...families, ...SCRIPT_FALLBACKS])
    for (const subset of family.subsets === 'whole' ? [] : family.subsets) {
      const served = [...left].filter((ch) => serves(subset, ch));
      if (served.length === 0) continue;
      faces.push(faceOf(family, style, subset));
      // What the family's own file should have but lacks, a script's fallback still may have.
      if (SCRIPT_FALLBACKS.includes(family)) for (const ch of served) left.delete(ch);
    }
  return faces;
}

/** The font files that some runs of text need, each once. */
export function facesOfRuns(runs: readonly TextRun[], own: readonly Family[] = []): Face[] {
  const found = new Map<string, Face>();
  for (const { text, style } of runs)
    for (const face of facesFor(text, style, own)) found.set(faceKey(face), face);
  return [...found.values()];
}
