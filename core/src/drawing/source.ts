import { DrawingError } from './items.js';

/** Larger files are refused. */
export const MAX_BYTES = 20 * 1024 * 1024;

/** The text of a file without its byte order mark; throws a {@link DrawingError} for one that is empty or too large. */
export function readable(source: string): string {
  const text = source.replace(/^\uFEFF/, '');
  if (text.trim() === '') throw new DrawingError('The file is empty: export the drawing again.');
  if (text.length > MAX_BYTES)
    throw new DrawingError(
      'The file is over 20 MB: shrink its pictures or split it into one file for each screen.',
    );
  return text;
}
