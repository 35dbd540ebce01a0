import { memo } from 'react';
import type { Reflow } from '@tinfold/core/layout';
import { overlap, walk, type Part, type Rect } from '@tinfold/core/model';
import type { Line } from '@tinfold/core/text';

const fillOf = (part: Part): string => {
  if (part.kind === 'picture') return 'var(--sea-light)';
  const fill = part.paint?.fill;
  return fill?.kind === 'solid' ? fill.colour : 'none';
};

interface OutlineProps {
  /** The tree as it stands, and its boxes. */
  readonly root: Part;
  readonly reflow: Reflow;
  /** What of the frame is shown, frame px. */
  readonly view: Rect;
  /** The size on the page, px. */
  readonly width: number;
  readonly height: number;
  /** A part to point out. */
  readonly mark?: string;
}

/** A small line picture of a screen or a piece of it: its boxes, its pictures, its words as bars. */
export const Outline = memo(function Outline({ root, reflow, view, width, height, mark }: OutlineProps) {
  const line = (0.8 * view.width) / width;
  const marked = mark === undefined ? undefined : reflow.parts.get(mark);
  return (
    <svg
      className="silhouette"
      width={width}
      height={height}
      viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`}
      aria-hidden="true"
    >
      {[...walk(root)].map((part) => {
        const box = reflow.parts.get(part.id);
        if (!box || !overlap(box, view).every((by) => by >= 0) || (part.kind === 'container' && !part.paint))
          return null;
        if (part.kind === 'text') return <Words key={part.id} box={box} lines={reflow.lines.get(part.id)} />;
        return (
          <rect
            key={part.id}
            {...box}
            fill={fillOf(part)}
            stroke={part.paint?.stroke || part.paint?.fill ? 'var(--line)' : 'none'}
            strokeWidth={line}
          />
        );
      })}
      {marked && <rect {...marked} fill="none" stroke="var(--copper)" strokeWidth={line * 2.2} />}
    </svg>
  );
});

/** A text as a bar for each of its lines. */
function Words({ box, lines = [] }: { readonly box: Rect; readonly lines: readonly Line[] | undefined }) {
  const pitch = box.height / Math.max(1, lines.length);
  return lines.map((l, i) => (
    <rect
      key={i}
      x={box.x}
      y={box.y + (i + 0.3) * pitch}
      width={l.width}
      height={pitch * 0.42}
      fill="var(--ink)"
    />
  ));
}
