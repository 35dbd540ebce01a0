import { plainText, type TextContent } from '../../model/index.js';
import type { Line } from '../../text/index.js';
import { SLACK } from '../look.js';
import { each, type Check, type Plan } from '../plan.js';
import { at, type Index, type Snapshot } from '../scene.js';

/** Words are squeezed when they have less than this share of their drawn width and so many times their height. */
const SQUEEZED = { width: 0.4, height: 3 };
/** Lines of fewer words than this, so many of them, are a sliver. */
const SLIVER = { words: 2, lines: 4 };
/** Lines of more characters than this are hard to follow: WCAG 2.2 §1.4.8 has 80, and a few for short words. */
const LONGEST_LINE = 85;
/** Type smaller than this is hard to read, px: common style guides have no less than 12, fine print 11. */
const SMALLEST_TYPE = 11;

const lettersOf = (line: Line): number => line.runs.reduce((n, r) => n + r.text.length, 0);

/** A text that is shown. */
interface Text {
  readonly i: Index;
  readonly content: TextContent;
}

const textsOf = (plan: Plan): Text[] =>
  plan.shown.flatMap((i) => {
    const { content } = plan.part(i);
    return content?.kind === 'text' ? [{ i, content }] : [];
  });

const inkWidth = (s: Snapshot, i: Index): number => at(s.ink.right, i) - at(s.ink.left, i);
const inkHeight = (s: Snapshot, i: Index): number => at(s.ink.bottom, i) - at(s.ink.top, i);

/** On which sides words may reach out of their box, with the sign by which going outwards counts up. */
const OUT_OF_BOX = [
  ['bottom', 1, 'text-over'],
  ['right', 1, 'long-word'],
  ['left', -1, 'long-word'],
] as const;

/** Lines below their box, and words beside it; lines that are cut are told as such. */
export const wordsOutOfBox: Check = (plan) =>
  each(
    textsOf(plan).filter(({ i }) => {
      const { maxLines, clip, scroll } = plan.part(i).rules;
      return maxLines === undefined && !clip && !scroll;
    }),
    (look, { i }) => {
      const { first, last } = look;
      for (const [side, sign, kind] of OUT_OF_BOX) {
        const from = (at(first.ink[side], i) - at(first.box[side], i)) * sign;
        const to = (at(last.ink[side], i) - at(last.box[side], i)) * sign;
        if (from > SLACK || to > SLACK)
          look.over({ kind, part: i, other: -1, answerable: plan.parent(i) }, SLACK, from, to);
      }
    },
  );

/** Words that have far less room than in the drawing, and stand in many short lines for it. */
export const slivers: Check = (plan) =>
  each(
    textsOf(plan).flatMap(({ i, content }) => {
      const drawing = plan.drawn(i);
      if (!drawing) return [];
      const words = plainText(content).trim().split(/\s+/).length;
      return [
        {
          i,
          words,
          width: inkWidth(drawing, i),
          height: inkHeight(drawing, i),
          lines: drawing.lines[i]?.length ?? 1,
        },
      ];
    }),
    (look, { i, words, width, height, lines: before }) => {
      const { first, last } = look;
      const [from, to] = [inkWidth(first, i), inkWidth(last, i)];
      // Half of the drawn width is the widest that counts.
      if (from >= 0.5 * width && to >= 0.5 * width) return;
      const subject = { kind: 'sliver', part: i, other: -1, answerable: plan.parent(i) } as const;
      look.allOver(subject, 0, [
        [SQUEEZED.width * width - from, SQUEEZED.width * width - to],
        look.term((s) => inkHeight(s, i) - SQUEEZED.height * height + 0.01),
      ]);
      const lines = first.lines[i]?.length ?? 1;
      if (lines >= SLIVER.lines && words / lines < SLIVER.words && lines >= before * 2)
        look.over(subject, 0, 0.5 * width - from, 0.5 * width - to);
    },
  );

/** Lines that are not all shown. */
export const cutTexts: Check = (plan) =>
  each(
    textsOf(plan).flatMap(({ i, content }) => {
      const { maxLines, padding } = plan.part(i).rules;
      if (maxLines === undefined) return [];
      const edges = (padding?.left ?? 0) + (padding?.right ?? 0);
      return [{ i, one: maxLines === 1, edges, said: lettersIn(plainText(content)) }];
    }),
    (look, { i, one, edges, said }) => {
      const subject = { kind: 'text-cut', part: i, other: -1, answerable: plan.parent(i) } as const;
      const lines = look.first.lines[i] ?? [];
      if (one) {
        const width = lines[0]?.width ?? 0;
        look.over(
          subject,
          SLACK,
          ...look.term((s) => width + edges - at(s.box.right, i) + at(s.box.left, i)),
        );
        return;
      }
      const shown = lines.reduce((n, l) => n + l.runs.reduce((m, r) => m + lettersIn(r.text), 0), 0);
      if (shown < said) look.throughout(subject, 1);
    },
  );

/** Characters that are seen. */
const lettersIn = (text: string): number => text.replaceAll(/[\s\u00AD]/g, '').length;

/** Paragraphs whose lines have more characters than an eye follows; a line that always stands alone is none. */
export const longLines: Check = (plan) =>
  each(
    textsOf(plan)
      .filter(({ content }) => plainText(content).length > LONGEST_LINE)
      .map(({ i }) => ({ i, isParagraph: (plan.drawn(i)?.lines[i]?.length ?? 1) > 1 })),
    (look, { i, isParagraph }) => {
      const lines = look.first.lines[i] ?? [];
      if (lines.length < 2 && !isParagraph) return;
      const letters = lines.reduce((n, l) => Math.max(n, lettersOf(l)), 0);
      if (letters > LONGEST_LINE)
        look.throughout(
          { kind: 'long-lines', part: i, other: -1, answerable: plan.parent(i) },
          letters - LONGEST_LINE,
        );
    },
  );

/** Type that is too small, or has stepped down too far. */
export const smallType: Check = (plan) =>
  each(
    textsOf(plan).flatMap(({ i, content }) => {
      const sizes = content.runs.filter((r) => r.text.trim() !== '').map((r) => r.style.size);
      const size = Math.min(Infinity, ...sizes);
      return size < SMALLEST_TYPE ? [{ i, by: SMALLEST_TYPE - size }] : [];
    }),
    (look, { i, by }) => {
      look.throughout({ kind: 'small-type', part: i, other: -1, answerable: i }, by);
    },
  );
