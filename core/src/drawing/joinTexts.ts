import { runWidth, type TextMeasurer } from '../text/index.js';
import type { DrawingDecisions } from './cleanUp.js';
import type { RawText } from './raw.js';
import {
  bearingOff,
  linesOf,
  nextWordWidth,
  pitchOf,
  pitchOfText,
  SAME_BASELINE,
  sameStyle,
  spaceRun,
  type DrawnLine,
} from './textLines.js';

/** Chunks that stand at unlike distances below each other are paragraphs of their own. */
export function paragraphs(raw: RawText, m: TextMeasurer): Measured[] {
  const lines = linesOf(raw.chunks, m);
  if (lines.length < 2 || pitchOfText(lines) !== undefined) return [{ raw, lines }];
  return lines.map((line, i) => ({
    raw: { ...raw, id: i === 0 ? raw.id : `${raw.id}-line-${i + 1}`, chunks: raw.chunks.slice(0, 1) },
    lines: [line],
  }));
}

export interface Measured {
  readonly raw: RawText;
  readonly lines: readonly DrawnLine[];
}

const lastLine = (t: Measured): DrawnLine | undefined => t.lines.at(-1);
const wordsOf = (line: DrawnLine | undefined): string => line?.runs.map((r) => r.text).join('') ?? '';

/**
 * Lines so near to each other, em, are of one text in files that write no texts: what stands apart does so by more, and
 * what is written in one text with breaks is not told otherwise.
 */
const TIGHT = 1.62;

/** Whether a text goes on where another ends: the next word of its line, or the next line of its paragraph. */
function continuation(a: Measured, b: Measured, m: TextMeasurer): 'line' | 'paragraph' | undefined {
  const [end, start] = [lastLine(a), b.lines[0]];
  const [ra, rb] = [end?.runs.at(-1), start?.runs[0]];
  if (!end || !start || !ra || !rb || a.raw.groups.join() !== b.raw.groups.join() || !sameStyle(ra, rb))
    return undefined;
  const { size } = ra.style;
  const space = runWidth(spaceRun(start), m);
  const gap = start.x - end.x - end.width;
  if (Math.abs(start.baseline - end.baseline) < SAME_BASELINE)
    return Math.abs(gap - space) < space * 0.45 ? 'line' : undefined;
  const pitch = start.baseline - end.baseline;
  const sameStart = Math.abs(start.x - (a.lines[0]?.x ?? NaN)) < Math.max(0.6, bearingOff([start]));
  if (!sameStart || pitch < size * 0.95 || pitch > size * 1.8) return undefined;
  // The line ends in the middle of a sentence, and the next word had no room in it.
  const isMeasured = [a, b].every((t) =>
    t.raw.chunks.every((c) => c.span !== undefined || c.runs.some((r) => r.drawn)),
  );
  const goesOn =
    !/[.!?:]$/.test(wordsOf(end)) &&
    (/^[\p{Ll},;]/u.test(wordsOf(start)) || (isMeasured && pitch < size * TIGHT));
  const widest = Math.max(...a.lines.map((l) => l.width), ...b.lines.map((l) => l.width));
  const steady = a.lines.length < 2 || Math.abs((pitchOf(a.lines) ?? NaN) - pitch) < 1.1;
  return goesOn && steady && end.width + nextWordWidth(start, m) > widest - 1 ? 'paragraph' : undefined;
}

/** How the words of two texts were read, as one. */
const outlinedOf = ({ outlined: a }: RawText, { outlined: b }: RawText): Pick<RawText, 'outlined'> =>
  a && b ? { outlined: { glyphs: a.glyphs + b.glyphs, doubtful: [...a.doubtful, ...b.doubtful] } } : {};

/** Joins texts that exporters cut into words or lines, as far as that was not taken back. */
export function joinTexts(
  texts: readonly Measured[],
  decisions: DrawingDecisions,
  m: TextMeasurer,
): { texts: Measured[]; joined: string[] } {
  const found: Measured[] = [];
  const joined = new Set<string>();
  for (const text of texts) {
    const last = found.at(-1);
    const kept = decisions.keepKinds.includes('words') || decisions.keep.includes(text.raw.id);
    const how = last && !kept ? continuation(last, text, m) : undefined;
    const [end, start] = [last && lastLine(last), text.lines[0]];
    if (!last || !how || !end || !start) {
      found.push(text);
      continue;
    }
    joined.add(last.raw.id);
    const space = spaceRun(start);
    const whole: DrawnLine = {
      ...end,
      width: start.x + start.width - end.x,
      runs: [...end.runs, space, ...start.runs],
    };
    const lines =
      how === 'line'
        ? [...last.lines.slice(0, -1), whole, ...text.lines.slice(1)]
        : [...last.lines, ...text.lines];
    found[found.length - 1] = {
      raw: {
        ...last.raw,
        chunks: [...last.raw.chunks, ...text.raw.chunks],
        ...outlinedOf(last.raw, text.raw),
      },
      lines,
    };
  }
  return { texts: found, joined: [...joined] };
}
