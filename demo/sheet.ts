import type { TextStyle } from '@tinfold/core/model';
import type { TextMeasurer } from '@tinfold/core/text';

/** Things drawn at fixed places, as a designer's program holds them before it exports. */
export type Drawn =
  | {
      readonly kind: 'rect';
      id: string;
      x: number;
      y: number;
      w: number;
      h: number;
      fill?: string;
      stroke?: string;
      r?: number;
      shadow?: boolean;
    }
  | { readonly kind: 'disc'; id: string; cx: number; cy: number; r: number; fill: string }
  | { readonly kind: 'path'; id: string; x: number; y: number; d: string; stroke: string; width: number }
  | {
      readonly kind: 'text';
      id: string;
      x: number;
      y: number;
      lines: readonly string[];
      pitch: number;
      type: Type;
    }
  | {
      readonly kind: 'image';
      id: string;
      x: number;
      y: number;
      w: number;
      h: number;
      href: string;
      r?: number;
    }
  | { readonly kind: 'group'; id: string; x: number; y: number; items: readonly Drawn[] };

export interface Type {
  readonly size: number;
  readonly weight: number;
  readonly colour: string;
  readonly tracking?: number;
}

export interface Sheet {
  readonly width: number;
  readonly height: number;
  readonly background: string;
  readonly family: string;
  readonly items: readonly Drawn[];
}

export const styleOf = (family: string, t: Type): TextStyle => ({
  family,
  size: t.size,
  weight: t.weight,
  italic: false,
  letterSpacing: t.tracking ?? 0,
  colour: t.colour,
});

/** Helpers that place words against an edge, as a designer does by eye and the program by measuring. */
export function words(measurer: TextMeasurer, family: string) {
  const width = (text: string, type: Type) => measurer.width(text, styleOf(family, type));
  const line = (id: string, x: number, y: number, text: string, type: Type): Drawn => ({
    kind: 'text',
    id,
    x,
    y,
    lines: [text],
    pitch: 0,
    type,
  });
  return {
    width,
    left: line,
    right: (id: string, edge: number, y: number, text: string, type: Type) =>
      line(id, edge - width(text, type), y, text, type),
    middle: (id: string, centre: number, y: number, text: string, type: Type) =>
      line(id, centre - width(text, type) / 2, y, text, type),
  };
}
