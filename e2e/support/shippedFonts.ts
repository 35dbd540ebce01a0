import type { Part, Structure, TextStyle } from '@tinfold/core/model';
import { faceFor, type TextMeasurer } from '@tinfold/core/text';

/** The text without what no shipped font has: the machine's fonts decide how wide that is. */
function covered(text: string, style: TextStyle, measurer: TextMeasurer): string {
  const missing = new Set(measurer.uncovered(text, style));
  return Array.from(text, (ch) => (missing.has(ch) ? 'o' : ch)).join('');
}

/** Text in families that do not ship is measured with the nearest that does; the page must show that one. */
export function withShippedFonts(read: Structure, measurer: TextMeasurer): Structure {
  const swap = (part: Part): Part => ({
    ...part,
    children: part.children.map(swap),
    ...(part.content?.kind === 'text' && {
      content: {
        ...part.content,
        runs: part.content.runs.map((r) => ({
          text: covered(r.text, r.style, measurer),
          style: { ...r.style, family: faceFor(r.style).family.family },
        })),
      },
    }),
  });
  return { ...read, root: swap(read.root) };
}
