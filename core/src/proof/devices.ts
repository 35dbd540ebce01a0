/** What a frame width is usually seen on, in plain words. */
export function deviceAt(width: number): string {
  if (width < 375) return 'narrow phone';
  if (width < 480) return 'phone';
  if (width < 700) return 'large phone, small tablet';
  if (width < 900) return 'tablet';
  if (width < 1200) return 'tablet on its side';
  if (width < 1600) return 'desk';
  return 'wide desk';
}

/** The widths that are looked at where nothing else is said, px. */
export const TEST_WIDTHS = [320, 390, 600, 768, 1024, 1280, 1440, 1920] as const;

/**
 * The widths of a contact sheet, the narrowest first: the usual ones, the drawn ones, and where each of the gravest
 * faults is at its worst. Of two that differ by less than a twentieth the drawn one or the fault's stays.
 */
export function sheetWidths(
  drawn: readonly number[],
  worst: readonly number[],
  range: { readonly from: number; readonly to: number },
): number[] {
  const must = [...new Set([...drawn, ...worst].map(Math.round))].filter(
    (w) => w >= range.from && w <= range.to,
  );
  const others = TEST_WIDTHS.filter(
    (w) => w >= range.from && w <= range.to && must.every((m) => Math.abs(m - w) > w / 20),
  );
  return [...must, ...others].sort((a, b) => a - b);
}
