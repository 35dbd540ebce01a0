import type { Fill, Paint, Rect, Shadow } from '@tinfold/core/model';

/** What is painted on: its px are `scale` to one of the frame. */
export interface Canvas {
  readonly ctx: CanvasRenderingContext2D;
  readonly scale: number;
}

/** The outline of a box, so far within it. Radii that do not fit shrink together, as in CSS Backgrounds 3 §5.5. */
export function outlineOf({ x, y, width, height }: Rect, radius: Paint['radius'], within = 0): Path2D {
  const path = new Path2D();
  const [w, h] = [Math.max(0, width - 2 * within), Math.max(0, height - 2 * within)];
  if (radius === 'round') path.ellipse(x + width / 2, y + height / 2, w / 2, h / 2, 0, 0, 2 * Math.PI);
  else {
    const corners = typeof radius === 'object' ? radius : [radius ?? 0];
    path.roundRect(
      x + within,
      y + within,
      w,
      h,
      corners.map((r) => Math.max(0, r - within)),
    );
  }
  return path;
}

/** A gradient's stops, which a canvas takes from 0 to 1 alone, and where these begin and end on the gradient's line. */
function stopsOf(stops: readonly { at: number; colour: string }[]): {
  readonly from: number;
  readonly to: number;
  readonly addTo: (gradient: CanvasGradient) => CanvasGradient;
} {
  const from = Math.min(0, ...stops.map((s) => s.at));
  const to = Math.max(1, ...stops.map((s) => s.at));
  const addTo = (gradient: CanvasGradient) => {
    for (const { at, colour } of stops) gradient.addColorStop((at - from) / (to - from), colour);
    return gradient;
  };
  return { from, to, addTo };
}

/** Fills a box within an outline; the line and the ellipse of gradients are those of CSS Images 3 §3. */
function paintFill({ ctx }: Canvas, fill: Fill, box: Rect, outline: Path2D): void {
  const { x, y, width, height } = box;
  if (fill.kind === 'solid') {
    ctx.fillStyle = fill.colour;
    ctx.fill(outline);
    return;
  }
  const { from, to, addTo } = stopsOf(fill.stops);
  if (fill.kind === 'linear') {
    const angle = (fill.angle * Math.PI) / 180;
    const half = (Math.abs(width * Math.sin(angle)) + Math.abs(height * Math.cos(angle))) / 2;
    const at = (share: number): [number, number] => [
      x + width / 2 + Math.sin(angle) * half * (2 * share - 1),
      y + height / 2 - Math.cos(angle) * half * (2 * share - 1),
    ];
    ctx.fillStyle = addTo(ctx.createLinearGradient(...at(from), ...at(to)));
    ctx.fill(outline);
    return;
  }
  ctx.save();
  ctx.clip(outline);
  ctx.translate(x + fill.cx * width, y + fill.cy * height);
  ctx.scale(fill.rx * width, fill.ry * height);
  // What lies before the middle is not seen.
  ctx.fillStyle = addTo(ctx.createRadialGradient(0, 0, 0, 0, 0, to - from));
  const far = 2 / Math.max(1e-3, Math.min(fill.rx, fill.ry));
  ctx.fillRect(-far, -far, 2 * far, 2 * far);
  ctx.restore();
}

/** Casts a box's shadow, which CSS does not paint under the box itself (Backgrounds 3 §6.1.1). */
function castShadow(
  { ctx, scale }: Canvas,
  { dx, dy, blur, colour }: Shadow,
  box: Rect,
  outline: Path2D,
): void {
  const reach = Math.abs(dx) + Math.abs(dy) + 2 * blur;
  const outside = new Path2D();
  outside.rect(box.x - reach, box.y - reach, box.width + 2 * reach, box.height + 2 * reach);
  outside.addPath(outline);
  ctx.save();
  ctx.clip(outside, 'evenodd');
  // Shadows of a canvas do not know its scale.
  ctx.shadowColor = colour;
  ctx.shadowOffsetX = dx * scale;
  ctx.shadowOffsetY = dy * scale;
  ctx.shadowBlur = blur * scale;
  ctx.fillStyle = '#000';
  ctx.fill(outline);
  ctx.restore();
}

/** Paints what a part shows apart from its content: shadow, fill and stroke. */
export function paintBox(canvas: Canvas, { fill, stroke, shadow, radius }: Paint, box: Rect): void {
  const { ctx } = canvas;
  const outline = outlineOf(box, radius);
  if (shadow) castShadow(canvas, shadow, box, outline);
  if (fill) paintFill(canvas, fill, box, outline);
  if (!stroke) return;
  ctx.strokeStyle = stroke.colour;
  ctx.lineWidth = stroke.width;
  // As browsers lay dashes: longer ones where the line is thin.
  const [dash, gap] = stroke.width < 3 ? [3, 2] : [2, 1];
  ctx.setLineDash(stroke.dashed ? [dash * stroke.width, gap * stroke.width] : []);
  ctx.stroke(outlineOf(box, radius, stroke.width / 2));
}
