import type { DrawnWord, Rect, TextContent, TextStyle } from '@tinfold/core/model';
import { baselineInLine, resolveFamily, runWidth, type Line, type TextMeasurer } from '@tinfold/core/text';
import { fontFamilies } from '../reading/fonts';
import type { Canvas } from './box';

const fonts = new WeakMap<TextStyle, string>();

/** A type style as the canvas takes it, made once: a screen has few, and they are set for each word. */
function fontOf(style: TextStyle, { own }: TextMeasurer): string {
  const known = fonts.get(style);
  if (known !== undefined) return known;
  const { family, exact } = resolveFamily(style.family, own);
  const size = style.size * (exact ? 1 : (style.sizeAdjust ?? 1));
  const font = `${style.italic ? 'italic ' : ''}${style.weight} ${size}px ${fontFamilies(family)}`;
  fonts.set(style, font);
  return font;
}

const outlines = new WeakMap<DrawnWord, Path2D>();

/** A word that is kept as it was drawn, from its start on the baseline. */
function paintDrawn({ ctx }: Canvas, drawn: DrawnWord, style: TextStyle, x: number, y: number): void {
  let path = outlines.get(drawn);
  if (!path) outlines.set(drawn, (path = new Path2D(drawn.d)));
  ctx.save();
  ctx.translate(x, y);
  ctx.scale(style.size / drawn.size, style.size / drawn.size);
  ctx.fill(path, drawn.rule ?? 'nonzero');
  ctx.restore();
}

/** Where a line begins in its box: one that is too long for it begins at its start whatever its alignment. */
function startOf(line: Line, { align }: TextContent, box: Rect): number {
  const free = Math.max(0, box.width - line.width);
  return box.x + (align === 'centre' ? free / 2 : align === 'end' ? free : 0);
}

/** Paints the lines of a text from the top of its box. */
export function paintWords(
  canvas: Canvas,
  content: TextContent,
  lines: readonly Line[],
  box: Rect,
  measurer: TextMeasurer,
): void {
  const { ctx } = canvas;
  for (const [i, line] of lines.entries()) {
    // The lowest of the runs' baselines is that of all.
    const down = line.runs.map((r) => baselineInLine(measurer.metrics(r.style), content.lineHeight));
    const y = box.y + i * content.lineHeight + Math.max(0, ...down);
    let x = startOf(line, content, box);
    for (const run of line.runs) {
      ctx.fillStyle = run.style.colour;
      if (run.drawn) paintDrawn(canvas, run.drawn, run.style, x, y);
      else {
        ctx.font = fontOf(run.style, measurer);
        ctx.letterSpacing = `${run.style.letterSpacing}px`;
        ctx.fillText(run.text, x, y);
      }
      x += runWidth(run, measurer);
    }
  }
}

/** Paints words that are too small to be read as bars, as long as they are; see `BAR`. */
export function paintBars({ ctx }: Canvas, content: TextContent, lines: readonly Line[], box: Rect): void {
  const { lineHeight } = content;
  const alpha = ctx.globalAlpha;
  ctx.globalAlpha = alpha * BAR.strength;
  ctx.fillStyle = content.runs[0]?.style.colour ?? '#000';
  for (const [i, line] of lines.entries())
    ctx.fillRect(
      startOf(line, content, box),
      box.y + (i + BAR.from) * lineHeight,
      line.width,
      BAR.height * lineHeight,
    );
  ctx.globalAlpha = alpha;
}

/** A bar in place of a line of words: where it begins and how high it is, in heights of the line, and how strong its colour. */
export const BAR = { from: 0.3, height: 0.4, strength: 0.55 };
