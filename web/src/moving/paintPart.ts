import type { Part, Rect } from '@tinfold/core/model';
import type { Line, TextMeasurer } from '@tinfold/core/text';
import { outlineOf, paintBox, type Canvas } from './box';
import { paintArt, paintPicture } from './pictures';
import { paintBars, paintWords } from './words';

/** How the parts of a screen are painted. */
export interface Painting extends Canvas {
  readonly measurer: TextMeasurer;
  /** Type smaller than this, px of the frame, is shown as bars. */
  readonly least: number;
}

/** A box on whole px of the frame, as browsers paint it. */
function onPixels({ x, y, width, height }: Rect): Rect {
  const [left, top] = [Math.round(x), Math.round(y)];
  return { x: left, y: top, width: Math.round(x + width) - left, height: Math.round(y + height) - top };
}

function paintContent(painting: Painting, part: Part, box: Rect, lines: readonly Line[]): void {
  const { ctx, measurer, least } = painting;
  const { content, paint } = part;
  if (content?.kind === 'text') {
    const isSmall = (content.runs[0]?.style.size ?? 0) < least;
    if (isSmall) paintBars(painting, content, lines, box);
    else paintWords(painting, content, lines, box, measurer);
  } else if (content?.kind === 'art') paintArt(painting, content, box);
  else if (content?.kind === 'picture')
    paintPicture(
      painting,
      content,
      box,
      paint?.radius === undefined ? undefined : outlineOf(box, paint.radius),
    );
  else if (content?.kind === 'turned') {
    const { width, height, angle, text } = content;
    ctx.save();
    ctx.translate(box.x + box.width / 2, box.y + box.height / 2);
    ctx.rotate((angle * Math.PI) / 180);
    const upright = { x: -width / 2, y: -height / 2, width, height };
    paintWords(painting, text, [{ runs: text.runs, width }], upright, measurer);
    ctx.restore();
  }
}

/** Paints one part, without what is in it, where it stands. */
export function paintPart(painting: Painting, part: Part, box: Rect, lines: readonly Line[] = []): void {
  const { ctx, scale } = painting;
  const { paint, content, rules } = part;
  if (!paint && !content) return;
  const isSet =
    paint?.opacity !== undefined || paint?.blur !== undefined || paint?.blend !== undefined || rules.clip;
  if (isSet) ctx.save();
  if (paint?.opacity !== undefined) ctx.globalAlpha = paint.opacity;
  if (paint?.blur !== undefined) ctx.filter = `blur(${paint.blur * scale}px)`;
  if (paint?.blend !== undefined) ctx.globalCompositeOperation = paint.blend;
  const drawn = onPixels(box);
  if (paint) paintBox(painting, paint, drawn);
  if (rules.clip) ctx.clip(outlineOf(drawn, paint?.radius));
  paintContent(painting, part, content?.kind === 'text' ? box : drawn, lines);
  if (isSet) ctx.restore();
}
