import type { LengthToken, TextContent } from '../model/index.js';

/** The one size of a text's type, px; undefined where it has several. */
export function typeSize(content: TextContent): number | undefined {
  const sizes = new Set(content.runs.map((r) => r.style.size));
  return sizes.size === 1 ? [...sizes][0] : undefined;
}

/** The length that is `value` and, below a frame width, `then`; after the steps of the one bound so far. */
export function steppedLength(
  what: 'type' | 'line',
  { value, then, below }: { readonly value: number; readonly then: number; readonly below: number },
  before?: LengthToken,
): LengthToken {
  return {
    kind: 'length',
    name: `${before?.name ?? `${what}-${value}`}-${then}`.replaceAll('.', '_'),
    value: before?.value ?? value,
    below: [...(before?.below ?? []), { width: below, value: then }],
  };
}
