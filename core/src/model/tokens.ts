/** A named length, px; it may have other values in frames narrower than a breakpoint, the widest first. */
export interface LengthToken {
  readonly kind: 'length';
  readonly name: string;
  readonly value: number;
  readonly below?: readonly { readonly width: number; readonly value: number }[];
}

/** A named CSS colour; it may have other values in colour modes, such as dark. */
export interface ColourToken {
  readonly kind: 'colour';
  readonly name: string;
  readonly value: string;
  readonly modes?: Readonly<Record<string, string>>;
}

export type Token = LengthToken | ColourToken;

/** The places of a part that a token can stand for. */
export const LENGTH_PLACES = [
  'gap',
  'crossGap',
  'gapBefore',
  'width',
  'height',
  'minWidth',
  'maxWidth',
  'minHeight',
  'maxHeight',
  'padding.top',
  'padding.right',
  'padding.bottom',
  'padding.left',
  'text.size',
  'text.lineHeight',
] as const;
export type LengthPlace = (typeof LENGTH_PLACES)[number];
export type TokenPlace = LengthPlace | 'fill' | 'text.colour';

/** Which token stands at which place of a part. */
export type Bound = { readonly [K in TokenPlace]?: string };

/** What a token may be called: it is written into style sheets as a custom property. */
export const TOKEN_NAME = /^[a-z][a-z0-9-]{0,59}$/;

/** A text in the letters that a token's name has; what has no letter from a to z gives no name. */
export const tokenNameOf = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^[^a-z]+|-+$/g, '')
    .slice(0, 60);

/** A colour's value in a colour mode; its own where it has none there. */
export const colourIn = ({ value, modes = {} }: ColourToken, mode: string | undefined): string =>
  (mode !== undefined && Object.hasOwn(modes, mode) ? modes[mode] : undefined) ?? value;

/** The colour modes that any token has values in, in the order of the alphabet. */
export const modesOf = (tokens: readonly Token[] = []): string[] =>
  [...new Set(tokens.flatMap((t) => (t.kind === 'colour' ? Object.keys(t.modes ?? {}) : [])))].sort();

/** A length's value in a frame of this width: that of the narrowest breakpoint which the frame is below. */
export function lengthAt(token: LengthToken, width: number): number {
  let value = token.value;
  for (const step of token.below ?? []) if (width < step.width) value = step.value;
  return value;
}
