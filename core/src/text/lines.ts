import LineBreaker from 'linebreak';

/** A place where a line may or must end; `position` is an index into the text. */
export interface BreakPoint {
  readonly position: number;
  readonly required: boolean;
}

const isPlainAscii = (code: number): boolean => code > 0x20 && code < 0x7f;

const isDigit = (code: number): boolean => code >= 0x30 && code <= 0x39;
const isAlphanumeric = (code: number): boolean =>
  isDigit(code) || (code >= 0x41 && code <= 0x5a) || (code >= 0x61 && code <= 0x7a);

/** A hyphen before a digit is a minus sign unless something stands before it: `H-01` may break, ` -1` may not. */
const breaksAtHyphen = (text: string, at: number): boolean =>
  text[at - 1] === '-' && isDigit(text.charCodeAt(at)) && isAlphanumeric(text.charCodeAt(at - 2));

/**
 * The break opportunities of a text by UAX #14, tailored as Chromium does: between two printable ASCII characters
 * only after a hyphen or a question mark, and always after a space.
 */
export function breakPoints(text: string): BreakPoint[] {
  const points: BreakPoint[] = [];
  const breaker = new LineBreaker(text);
  const seen = new Set<number>();
  for (let b = breaker.nextBreak(); b; b = breaker.nextBreak()) {
    const [before, after] = [text.charCodeAt(b.position - 1), text.charCodeAt(b.position)];
    const inWord = isPlainAscii(before) && isPlainAscii(after);
    if (inWord && !b.required && before !== 0x2d && before !== 0x3f) continue;
    points.push({ position: b.position, required: b.required && b.position < text.length });
    seen.add(b.position);
  }
  for (let i = 1; i < text.length; i++)
    if (((text[i - 1] === ' ' && text[i] !== ' ') || breaksAtHyphen(text, i)) && !seen.has(i))
      points.push({ position: i, required: false });
  return points.sort((a, b) => a.position - b.position);
}
