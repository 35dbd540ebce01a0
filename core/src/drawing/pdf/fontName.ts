import { SHIPPED, type Family } from '../../text/index.js';

const WEIGHTS: readonly (readonly [RegExp, number])[] = [
  [/thin|hairline/i, 100],
  [/extra-?light|ultra-?light/i, 200],
  [/semi-?bold|demi/i, 600],
  [/extra-?bold|ultra-?bold/i, 800],
  [/light/i, 300],
  [/medium/i, 500],
  [/black|heavy/i, 900],
  [/bold/i, 700],
];

const bare = (name: string): string => name.toLowerCase().replaceAll(/[^a-z0-9]/g, '');

/**
 * Family, weight and slant that the PostScript name of a PDF's font says: `AAAAAA+Barlow-SemiBoldItalic`. Families that
 * are here come under their own names.
 */
export function fontNamed(
  name: string,
  own: readonly Family[] = [],
): { family: string; weight: number; italic: boolean; isHere: boolean } {
  const plain = name.replace(/^[A-Z]{6}\+/, '').replace(/_/g, ' ');
  const [stem = '', ...rest] = plain.split('-');
  const style = rest.join('-');
  const known = [...own, ...SHIPPED]
    .filter((f) => bare(plain).startsWith(bare(f.family)))
    .sort((a, b) => b.family.length - a.family.length)[0];
  const said = style === '' && known ? bare(plain).slice(bare(known.family).length) : style;
  return {
    family: known?.family ?? (stem.replaceAll(/([a-z])([A-Z])/g, '$1 $2').trim() || 'sans-serif'),
    isHere: known !== undefined,
    weight: WEIGHTS.find(([words]) => words.test(said))?.[1] ?? 400,
    italic: /italic|oblique/i.test(said),
  };
}
