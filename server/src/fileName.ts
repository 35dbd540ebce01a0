/** A name as a file may have it on any machine. */
export const fileName = (name: string): string =>
  name
    .replace(/[^\p{L}\p{N}_-]+/gu, ' ')
    .trim()
    .slice(0, 60) || 'untitled';
