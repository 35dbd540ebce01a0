import { inFlow } from '@tinfold/core/layout';
import { formatSize, right, bottom, ruleOf, type Part, type Rect, type Side } from '@tinfold/core/model';
import type { Reflow } from '@tinfold/core/layout';

/** A space of a container: a padding at one side, or the gap before one of its parts. */
export type Hatch = Rect &
  (
    | { readonly kind: 'padding'; readonly side: Side }
    | {
        readonly kind: 'gap';
        /** The part after it. */
        readonly before: string;
        /** The axis that it measures. */
        readonly axis: 'x' | 'y';
        /** Whether it lies between two lines of a wrap or grid. */
        readonly isCross: boolean;
      }
  );

const positive = (r: Rect): boolean => r.width > 0.4 && r.height > 0.4;

/** The paddings and the gaps of a container as boxes to hatch. */
export function hatches(part: Part, reflow: Reflow): Hatch[] {
  const box = reflow.parts.get(part.id);
  if (!box || part.kind !== 'container') return [];
  const found: Hatch[] = [];
  const p = part.rules.padding;
  if (p) {
    const inner = { x: box.x + p.left, width: box.width - p.left - p.right };
    found.push(
      { kind: 'padding', side: 'left', x: box.x, y: box.y, width: p.left, height: box.height },
      {
        kind: 'padding',
        side: 'right',
        x: right(box) - p.right,
        y: box.y,
        width: p.right,
        height: box.height,
      },
      { kind: 'padding', side: 'top', ...inner, y: box.y, height: p.top },
      { kind: 'padding', side: 'bottom', ...inner, y: bottom(box) - p.bottom, height: p.bottom },
    );
  }
  const shown = inFlow(part).flatMap(({ id }) => {
    const own = reflow.parts.get(id);
    return own ? [{ id, box: own }] : [];
  });
  const boxes = shown.map((s) => s.box);
  for (const [i, { id: before, box: next }] of shown.entries()) {
    const last = boxes[i - 1];
    if (!last) continue;
    const beside = next.x >= right(last) - 0.5 && next.y < bottom(last);
    if (beside) {
      const y = Math.min(last.y, next.y);
      found.push({
        kind: 'gap',
        before,
        axis: 'x',
        isCross: false,
        x: right(last),
        y,
        width: next.x - right(last),
        height: Math.max(bottom(last), bottom(next)) - y,
      });
    } else if (ruleOf(part.rules, 'flow') === 'column')
      found.push({
        kind: 'gap',
        before,
        axis: 'y',
        isCross: false,
        x: box.x + (p?.left ?? 0),
        y: bottom(last),
        width: box.width - (p?.left ?? 0) - (p?.right ?? 0),
        height: next.y - bottom(last),
      });
    else {
      const line = boxes.slice(0, i).filter((b) => bottom(b) <= next.y + 0.5);
      const end = Math.max(...line.map(bottom), 0);
      found.push({
        kind: 'gap',
        before,
        axis: 'y',
        isCross: true,
        x: box.x + (p?.left ?? 0),
        y: end,
        width: box.width - (p?.left ?? 0) - (p?.right ?? 0),
        height: next.y - end,
      });
    }
  }
  return found.filter(positive);
}

/** A part narrower than this has its size written from its left edge on, px on the screen. */
const LABEL = 110;

/** The marks around the part in hand: outline, hatched gaps and paddings, and its width as a dimension line. */
export function SelectionMarks({
  part,
  reflow,
  scale,
}: {
  readonly part: Part;
  readonly reflow: Reflow;
  readonly scale: number;
}) {
  const box = reflow.parts.get(part.id);
  if (!box) return null;
  const line = 1 / scale;
  const size = `${Math.round(box.width * 10) / 10} = ${formatSize(ruleOf(part.rules, 'width'))}`;
  // In the margin below the sheet, as on a plan: its words never lie on those of the drawing.
  const y = reflow.height + 12 * line;
  const tick = 4 * line;
  return (
    <svg className="marks" width={reflow.width} height={reflow.height} aria-hidden="true">
      <defs>
        <pattern
          id="hatch"
          width={7 * line}
          height={7 * line}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <line
            x1={0}
            y1={0}
            x2={0}
            y2={7 * line}
            stroke="var(--copper)"
            strokeWidth={1.1 * line}
            strokeOpacity={0.55}
          />
        </pattern>
      </defs>
      {hatches(part, reflow).map((h, i) => (
        <rect
          key={i}
          data-hatch={h.kind}
          x={h.x}
          y={h.y}
          width={h.width}
          height={h.height}
          fill="url(#hatch)"
        />
      ))}
      <rect
        x={box.x}
        y={box.y}
        width={box.width}
        height={box.height}
        fill="none"
        stroke="var(--copper)"
        strokeWidth={1.6 * line}
      />
      <g stroke="var(--copper)" strokeWidth={line} fill="var(--copper)">
        <line x1={box.x} y1={y} x2={right(box)} y2={y} />
        {[box.x, right(box)].map((x) => (
          <line
            key={x}
            x1={x}
            y1={bottom(box) + tick}
            x2={x}
            y2={y + tick}
            strokeDasharray={`${2 * line} ${3 * line}`}
          />
        ))}
        <path
          d={`M${box.x} ${y}l${tick} ${-tick / 2}v${tick}z M${right(box)} ${y}l${-tick} ${-tick / 2}v${tick}z`}
          stroke="none"
        />
      </g>
      <text
        x={box.width * scale < LABEL ? box.x : box.x + box.width / 2}
        y={y + 14 * line}
        fontSize={12 * line}
        textAnchor={box.width * scale < LABEL ? 'start' : 'middle'}
        className="dimension"
        strokeWidth={4 * line}
      >
        {size}
      </text>
    </svg>
  );
}
