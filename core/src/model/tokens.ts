/** A named length, px; it may have other values in frames narrower than a breakpoint, the widest first. */
export interface LengthToken {
  readonly kind: 'length';
  readonly name: string;
  readonly value: number;
  readonly below?: readonly { readonly width: number; readonly value: number }[];
}

/** A named CSS colour. */
export interface ColourToken {
  readonly kind: 'colour';
  readonly name: string;
  readonly value: string;
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

/** A length's value in a frame of this width: that of the narrowest breakpoint which the frame is below. */
export function lengthAt(token: LengthToken, width: number): number {
  let value = token.value;
  for (const step of token.below ?? []) if (width < step.width) value = step.value;
  return value;
}
