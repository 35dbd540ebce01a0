import type { ArtContent, ArtPath, PictureContent, Rect } from '@tinfold/core/model';
import type { Canvas } from './box';

const paths = new WeakMap<ArtPath, Path2D>();

/** Paints vector art, its view stretched over the box. */
export function paintArt({ ctx }: Canvas, { view, paths: all }: ArtContent, box: Rect): void {
  const [left, top, width, height] = view;
  ctx.save();
  ctx.translate(box.x, box.y);
  ctx.scale(box.width / width, box.height / height);
  ctx.translate(-left, -top);
  const { globalAlpha } = ctx;
  for (const art of all) {
    let path = paths.get(art);
    if (!path) paths.set(art, (path = new Path2D(art.d)));
    ctx.globalAlpha = globalAlpha * (art.opacity ?? 1);
    if (art.fill !== undefined) {
      ctx.fillStyle = art.fill;
      ctx.fill(path, art.fillRule ?? 'nonzero');
    }
    if (art.stroke === undefined) continue;
    ctx.strokeStyle = art.stroke;
    ctx.lineWidth = art.strokeWidth ?? 1;
    ctx.lineCap = art.cap ?? 'butt';
    ctx.lineJoin = art.join ?? 'miter';
    // As SVG has it where nothing else is said.
    ctx.miterLimit = 4;
    ctx.setLineDash([]);
    ctx.stroke(path);
  }
  ctx.restore();
}

const images = new Map<string, HTMLImageElement>();

/** The image of an address; it is asked for when it is first asked after. */
export function imageOf(href: string): HTMLImageElement {
  let image = images.get(href);
  if (!image) {
    image = new Image();
    image.src = href;
    images.set(href, image);
  }
  return image;
}

/** The part of a picture that is seen, px of the picture, and the part of the box that it takes (CSS Images 3 §5.5). */
export function fitted(
  fit: PictureContent['fit'],
  natural: Pick<Rect, 'width' | 'height'>,
  box: Rect,
): { readonly from: Rect; readonly to: Rect } {
  const whole = { x: 0, y: 0, ...natural };
  const [across, down] = [box.width / natural.width, box.height / natural.height];
  const middle = (outer: Rect, width: number, height: number): Rect => ({
    x: outer.x + (outer.width - width) / 2,
    y: outer.y + (outer.height - height) / 2,
    width,
    height,
  });
  if (fit === 'fill') return { from: whole, to: box };
  if (fit === 'contain') {
    const by = Math.min(across, down);
    return { from: whole, to: middle(box, natural.width * by, natural.height * by) };
  }
  const by = Math.max(across, down);
  return { from: middle(whole, box.width / by, box.height / by), to: box };
}

/** How wide the stripes are that stand for a picture which is not there, px. */
const STRIPE = 10;
const STRIPES = ['#dcd9ce', '#d0ccbf'];

function paintMissing({ ctx }: Canvas, box: Rect): void {
  ctx.save();
  ctx.beginPath();
  ctx.rect(box.x, box.y, box.width, box.height);
  ctx.clip();
  ctx.translate(box.x, box.y);
  ctx.rotate(-Math.PI / 4);
  const far = box.width + box.height;
  for (let x = -far, i = 0; x < far; x += STRIPE, i++) {
    ctx.fillStyle = STRIPES[i % 2] ?? '#fff';
    ctx.fillRect(x, -far, STRIPE, 2 * far);
  }
  ctx.restore();
}

/** Paints a picture as its fit says, or stripes where there is none yet; `outline` is what it is cut to. */
export function paintPicture(canvas: Canvas, content: PictureContent, box: Rect, outline?: Path2D): void {
  const { ctx } = canvas;
  const image = content.href === undefined ? undefined : imageOf(content.href);
  if (!image) {
    paintMissing(canvas, box);
    return;
  }
  const natural = { width: image.naturalWidth, height: image.naturalHeight };
  if (!image.complete || natural.width === 0 || natural.height === 0) return;
  const { from, to } = fitted(content.fit, natural, box);
  ctx.save();
  if (outline) ctx.clip(outline);
  ctx.drawImage(image, from.x, from.y, from.width, from.height, to.x, to.y, to.width, to.height);
  ctx.restore();
}
