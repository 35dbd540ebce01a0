/** The parts into which font files are split by script, as web font services and the fontsource packages split them. */
export type Subset =
  | 'latin'
  | 'latin-ext'
  | 'vietnamese'
  | 'cyrillic'
  | 'cyrillic-ext'
  | 'greek'
  | 'greek-ext'
  | 'devanagari'
  | 'hebrew'
  | 'arabic'
  | 'thai'
  | 'symbols';

/** What each part serves, as CSS `unicode-range` (CSS Fonts 4 §4.5). */
export const UNICODE_RANGES: Readonly<Record<Subset, string>> = {
  latin:
    'U+0000-00FF, U+0131, U+0152-0153, U+02BB-02BC, U+02C6, U+02DA, U+02DC, U+0304, U+0308, U+0329, U+2000-206F, U+20AC, U+2122, U+2191, U+2193, U+2212, U+2215, U+FEFF, U+FFFD',
  'latin-ext':
    'U+0100-02BA, U+02BD-02C5, U+02C7-02CC, U+02CE-02D7, U+02DD-02FF, U+0304, U+0308, U+0329, U+1D00-1DBF, U+1E00-1E9F, U+1EF2-1EFF, U+2020, U+20A0-20AB, U+20AD-20C0, U+2113, U+2C60-2C7F, U+A720-A7FF',
  vietnamese:
    'U+0102-0103, U+0110-0111, U+0128-0129, U+0168-0169, U+01A0-01A1, U+01AF-01B0, U+0300-0301, U+0303-0304, U+0308-0309, U+0323, U+0329, U+1EA0-1EF9, U+20AB',
  cyrillic: 'U+0301, U+0400-045F, U+0490-0491, U+04B0-04B1, U+2116',
  'cyrillic-ext': 'U+0460-052F, U+1C80-1C8A, U+20B4, U+2DE0-2DFF, U+A640-A69F, U+FE2E-FE2F',
  greek: 'U+0370-0377, U+037A-037F, U+0384-038A, U+038C, U+038E-03A1, U+03A3-03FF',
  'greek-ext': 'U+1F00-1FFF',
  devanagari:
    'U+0900-097F, U+1CD0-1CF9, U+200C-200D, U+20A8, U+20B9, U+20F0, U+25CC, U+A830-A839, U+A8E0-A8FF, U+11B00-11B09',
  hebrew: 'U+0307-0308, U+0590-05FF, U+200C-2010, U+20AA, U+25CC, U+FB1D-FB4F',
  arabic:
    'U+0600-06FF, U+0750-077F, U+0870-088E, U+0890-0891, U+0897-08E1, U+08E3-08FF, U+200C-200E, U+2010-2011, U+204F, U+2E41, U+FB50-FDFF, U+FE70-FE74, U+FE76-FEFC',
  thai: 'U+02D7, U+0303, U+0331, U+0E01-0E5B, U+200C-200D, U+25CC',
  symbols:
    'U+20DD-20E0, U+20E2-20E4, U+2150-218F, U+2190, U+2192, U+2194-2199, U+21AF, U+21E6-21F0, U+21F3, U+2218-2219, U+2299, U+22C4-22C6, U+2300-243F, U+2440-244A, U+2460-24FF, U+25A0-27BF, U+2800-28FF, U+2921-2922, U+2981, U+29BF, U+29EB, U+2B00-2BFF',
};

const asClass = (range: string): RegExp =>
  new RegExp(
    `[${range
      .split(/,\s*/)
      .map((r) =>
        r
          .slice(2)
          .split('-')
          .map((code) => `\\u{${code}}`)
          .join('-'),
      )
      .join('')}]`,
    'u',
  );

const CLASSES = Object.fromEntries(
  Object.entries(UNICODE_RANGES).map(([subset, range]) => [subset, asClass(range)]),
) as Readonly<Record<Subset, RegExp>>;

/** Whether a part serves any of these characters. */
export const serves = (subset: Subset, text: string): boolean => CLASSES[subset].test(text);

/** The characters of a text that the basic latin files do not serve. */
export const beyondLatin = (text: string): string[] =>
  // The control and latin-1 blocks are all that most texts hold.
  // eslint-disable-next-line no-control-regex -- the range starts at zero on purpose
  /^[\u0000-\u00ff]*$/.test(text) ? [] : Array.from(text).filter((ch) => !CLASSES.latin.test(ch));
