import { useEffect, useLayoutEffect, useMemo, useRef } from 'react';
import { staying, type Reflow } from '@tinfold/core/layout';
import { walk, type Part } from '@tinfold/core/model';
import type { TextMeasurer } from '@tinfold/core/text';
import type { Seen } from '../workbench/useSeen';
import { paintPart } from './paintPart';
import { imageOf } from './pictures';

/** A canvas is made larger in steps of so many px: it would be emptied and made anew at each width. */
const STEP = 256;
/** No canvas is wider than this, px; what is larger is painted with fewer and stretched. */
const WIDEST = 4096;

interface MovingPaintProps {
  readonly root: Part;
  readonly reflow: Reflow;
  readonly seen: Seen;
  readonly least: number;
  /** px on the screen to one of the frame. */
  readonly scale: number;
  readonly measurer: TextMeasurer;
  /** Whether the structure changes just now; nothing is painted while it rests. */
  readonly moves: boolean;
}

/**
 * What of a structure is in sight, painted on a canvas. While a hand drags, each frame has another picture: the browser would style,
 * lay out and paint hundreds of boxes for it, and a canvas is painted in a fraction of that time.
 */
export function MovingPaint({ root, reflow, seen, least, scale, measurer, moves }: MovingPaintProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const parts = useMemo(() => [...walk(root)], [root]);
  // What is painted over all else comes last.
  const order = useMemo(() => {
    const above = staying(root);
    return above.size === 0
      ? parts
      : parts.toSorted((a, b) => Number(above.has(a.id)) - Number(above.has(b.id)));
  }, [root, parts]);
  useEffect(() => {
    for (const { content } of parts)
      if (content?.kind === 'picture' && content.href !== undefined) imageOf(content.href);
  }, [parts]);
  useLayoutEffect(() => {
    const ctx = moves ? canvas.current?.getContext('2d') : undefined;
    if (!canvas.current || !ctx) return;
    const { width, height } = reflow;
    const k = Math.min(scale * devicePixelRatio, WIDEST / width);
    // From a whole px on, so that what is painted is not blurred.
    const from = Math.floor(Math.max(0, seen.from) * k);
    const [wide, high] = [width * k, Math.max(0, Math.min(height, seen.to) * k - from)];
    const room = (px: number) => Math.ceil(px / STEP) * STEP;
    if (canvas.current.width < wide || canvas.current.height < high) {
      canvas.current.width = room(wide);
      canvas.current.height = room(high);
    }
    const { style } = canvas.current;
    style.width = `${canvas.current.width / k}px`;
    style.height = `${canvas.current.height / k}px`;
    style.top = `${from / k}px`;
    ctx.reset();
    ctx.setTransform(k, 0, 0, k, 0, -from);
    const painting = { ctx, scale: k, measurer, least };
    for (const part of order) {
      const box = reflow.parts.get(part.id);
      if (box && box.y <= seen.to && box.y + box.height >= seen.from)
        paintPart(painting, part, box, reflow.lines.get(part.id));
    }
  }, [moves, order, reflow, seen, least, scale, measurer]);
  return <canvas ref={canvas} className="sheet-moving" hidden={!moves} aria-hidden="true" />;
}
