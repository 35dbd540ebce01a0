import { length } from '../styles.js';

/** A CSS length: px, a share of something (1 is all of it), or `auto`. */
export type Length = number | { readonly share: number } | 'auto';

/** A length as declared; undefined for what is none or is not understood (`calc()`, viewport units). */
export function parseLength(text: string | undefined, fontSize: number): Length | undefined {
  const value = text?.trim().toLowerCase();
  if (value === undefined || value === '') return undefined;
  if (value === 'auto') return 'auto';
  const percent = /^([-+]?(?:\d+\.?\d*|\.\d+))%$/.exec(value);
  if (percent) return { share: Number(percent[1]) / 100 };
  return length(value, 0, fontSize);
}

/** A length in px; shares are taken of `of`, `auto` and what is absent give undefined. */
export const px = (value: Length | undefined, of: number): number | undefined =>
  value === undefined || value === 'auto' ? undefined : typeof value === 'number' ? value : value.share * of;

/** The pieces of a value, parted by spaces outside brackets and quotes. */
export const pieces = (value: string): string[] =>
  value.match(/(?:[^\s("']+|\((?:[^()]|\([^()]*\))*\)|"[^"]*"|'[^']*')+/g) ?? [];

const SIDES = ['top', 'right', 'bottom', 'left'] as const;
const BORDER_STYLE = /^(?:none|hidden|solid|dashed|dotted|double|groove|ridge|inset|outset)$/;
const BORDER_WIDTHS: Readonly<Record<string, string>> = { thin: '1px', medium: '3px', thick: '5px' };

function spread(name: string, suffix: string, value: string): [string, string][] {
  const [top = '', right = top, bottom = top, left = right] = pieces(value);
  return [top, right, bottom, left].map((v, i) => [`${name}-${SIDES[i]}${suffix}`, v]);
}

function border(side: string, value: string): [string, string][] {
  const found: [string, string][] = [
    [`border-${side}-style`, 'none'],
    [`border-${side}-width`, '3px'],
    [`border-${side}-color`, 'currentcolor'],
  ];
  for (const piece of pieces(value)) {
    const width = BORDER_WIDTHS[piece] ?? (length(piece) === undefined ? undefined : piece);
    if (BORDER_STYLE.test(piece)) found.push([`border-${side}-style`, piece]);
    else found.push(width === undefined ? [`border-${side}-color`, piece] : [`border-${side}-width`, width]);
  }
  return found;
}

/** `font`: style and weight in any order, the size with a line height, the families (CSS Fonts 4 §2.7). */
function font(value: string): [string, string][] {
  const match = /^(.*?)\s*([\d.]+(?:px|pt|em|rem|%|pc|in|cm|mm))(?:\s*\/\s*([\w.%]+))?\s+(.+)$/i.exec(
    value.trim(),
  );
  if (!match) return [];
  const [, before = '', size = '', lineHeight, family = ''] = match;
  const found: [string, string][] = [
    ['font-style', /italic|oblique/.test(before) ? 'italic' : 'normal'],
    ['font-weight', /\b(bold|bolder|lighter|[1-9]00)\b/.exec(before)?.[1] ?? 'normal'],
    ['font-size', size],
    ['line-height', lineHeight ?? 'normal'],
    ['font-family', family],
  ];
  return found;
}

/** The longhands of a declaration, as far as layout and paint ask for them. */
function longhands(name: string, value: string): [string, string][] {
  if (name === 'margin' || name === 'padding') return spread(name, '', value);
  if (name === 'inset') {
    const [top = '', right = top, bottom = top, left = right] = pieces(value);
    return [
      ['top', top],
      ['right', right],
      ['bottom', bottom],
      ['left', left],
    ];
  }
  if (name === 'border') return SIDES.flatMap((side) => border(side, value));
  const side = /^border-(top|right|bottom|left)$/.exec(name)?.[1];
  if (side !== undefined) return border(side, value);
  const aspect = /^border-(width|style|color)$/.exec(name)?.[1];
  if (aspect !== undefined) return spread('border', `-${aspect}`, value);
  if (name === 'font') return font(value);
  return [[name, value]];
}

/** `var()` references replaced by the custom properties in sight (CSS Variables 1 §3); what has no value is dropped. */
function withVariables(value: string, scope: Readonly<Record<string, string>>): string {
  let text = value;
  for (let round = 0; round < 8 && text.includes('var('); round++) {
    text = text.replace(
      /var\(\s*(--[\w-]+)\s*(?:,((?:[^()]|\([^()]*\))*))?\)/g,
      (_, name: string, other?: string) => (scope[name] ?? other ?? '').trim(),
    );
    if (text.length > 10_000) return '';
  }
  return text;
}

/** Declarations with shorthands opened and variables replaced; later ones win over earlier ones. */
export function expand(
  declarations: Readonly<Record<string, string>>,
  scope: Readonly<Record<string, string>>,
): Record<string, string> {
  const found: Record<string, string> = {};
  for (const [name, value] of Object.entries(declarations))
    if (name.startsWith('--')) found[name] = value;
    else for (const [longhand, part] of longhands(name, withVariables(value, scope))) found[longhand] = part;
  return found;
}
