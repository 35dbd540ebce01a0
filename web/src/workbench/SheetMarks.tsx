import type { Drawing } from '@tinfold/core/drawing';
import type { Reflow } from '@tinfold/core/layout';
import { walk, type Part, type Rect } from '@tinfold/core/model';
import type { Landing } from './carry';
import type { Difference } from './differences';
import type { Distance } from './distances';

/** The union of the drawn items of each child of the frame, in order. */
export function drawnCuts(root: Part, items: ReadonlyMap<string, Rect>): Rect[] {
  if (root.rules.flow !== undefined && root.rules.flow !== 'column') return [];
  return root.children
    .filter((c) => !c.rules.pin)
    .map((c) =>
      [...walk(c)]
        .flatMap((p) => p.source)
        .map((id) => items.get(id))
        .filter((b) => b !== undefined),
    )
    .filter((boxes) => boxes.length > 0)
    .map((boxes) => {
      const top = Math.min(...boxes.map((b) => b.y));
      return { x: 0, y: top, width: 0, height: Math.max(...boxes.map((b) => b.y + b.height)) - top };
    });
}

/** Where the reader has cut the frame: fold lines between the parts of the part in hand, or of the frame. */
export function FoldLines({
  boxes,
  width,
  height,
  scale,
}: {
  readonly boxes: readonly Rect[];
  readonly width: number;
  readonly height: number;
  readonly scale: number;
}) {
  const tops = boxes.slice(1).map((b, i) => {
    const above = boxes[i];
    return above ? (above.y + above.height + b.y) / 2 : b.y;
  });
  return (
    <svg className="marks" width={width} height={height} aria-hidden="true">
      {tops.map((y, i) => (
        <line
          key={i}
          x1={0}
          x2={width}
          y1={y}
          y2={y}
          stroke="var(--copper)"
          strokeWidth={1 / scale}
          strokeDasharray={`${6 / scale} ${4 / scale}`}
        />
      ))}
    </svg>
  );
}

/** A box narrower or lower than this has no room for its name, px on the screen. */
const NAMED = { width: 40, height: 14 };

interface OnReflow {
  readonly reflow: Reflow;
  readonly scale: number;
}

/** The boxes of all parts with their names, and nothing else. */
export function Outlines({ root, reflow, scale }: OnReflow & { readonly root: Part }) {
  const line = 1 / scale;
  return (
    <svg className="marks" width={reflow.width} height={reflow.height} aria-hidden="true">
      {[...walk(root)].map(({ id, name, children }) => {
        const box = reflow.parts.get(id);
        if (!box) return null;
        const room =
          children.length === 0 && box.width * scale > NAMED.width && box.height * scale > NAMED.height;
        return (
          <g key={id}>
            <rect {...box} fill="none" stroke="var(--sea)" strokeWidth={line} />
            {room && (
              <svg x={box.x} y={box.y} width={box.width} height={box.height}>
                <text x={4 * line} y={12 * line} fontSize={11 * line} className="outline-name">
                  {name}
                </text>
              </svg>
            )}
          </g>
        );
      })}
    </svg>
  );
}

/** The outline of a part that is in hand besides another. */
export function AlsoMark({ box, reflow, scale }: OnReflow & { readonly box: Rect | undefined }) {
  if (!box) return null;
  return (
    <svg className="marks" width={reflow.width} height={reflow.height} aria-hidden="true">
      <rect
        {...box}
        data-also=""
        fill="none"
        stroke="var(--copper)"
        strokeWidth={1.6 / scale}
        strokeDasharray={`${5 / scale} ${3 / scale}`}
      />
    </svg>
  );
}

/** What stands elsewhere than drawn: where it was drawn, where it stands, and the way between. */
export function DifferenceMarks({
  differences,
  items,
  reflow,
  scale,
}: OnReflow & {
  readonly differences: readonly Difference[];
  readonly items: ReadonlyMap<string, Rect>;
}) {
  const line = 1.4 / scale;
  return (
    <svg className="marks" width={reflow.width} height={reflow.height} aria-hidden="true">
      {differences.map(({ part, item }) => {
        const [was, is] = [items.get(item), reflow.parts.get(part)];
        if (!was || !is) return null;
        return (
          <g key={item} data-difference={part} fill="none" stroke="var(--copper)" strokeWidth={line}>
            <rect {...was} strokeDasharray={`${4 / scale} ${3 / scale}`} />
            <rect {...is} />
            <line x1={was.x} y1={was.y} x2={is.x} y2={is.y} />
          </g>
        );
      })}
    </svg>
  );
}

/** Where the part that is carried would stand. */
export function LandingMark({ landing, reflow, scale }: OnReflow & { readonly landing: Landing }) {
  const [x1, y1, x2, y2] = landing.line;
  const holder = reflow.parts.get(landing.parent);
  return (
    <svg className="marks" width={reflow.width} height={reflow.height} aria-hidden="true">
      {holder && (
        <rect {...holder} fill="none" stroke="var(--copper)" strokeWidth={1 / scale} strokeOpacity={0.6} />
      )}
      <line
        data-landing={landing.at}
        {...{ x1, y1, x2, y2 }}
        stroke="var(--copper)"
        strokeWidth={3 / scale}
      />
    </svg>
  );
}

/** Dimension lines without words, which would lie on those of the drawing: the line above the sheet has them. */
export function DistanceMarks({
  distances,
  pointed,
  reflow,
  scale,
}: OnReflow & { readonly distances: readonly Distance[]; readonly pointed: Rect | undefined }) {
  const tick = 4 / scale;
  return (
    <svg className="marks" width={reflow.width} height={reflow.height} aria-hidden="true">
      {pointed && (
        <rect {...pointed} fill="none" stroke="var(--ink)" strokeWidth={1 / scale} strokeOpacity={0.7} />
      )}
      {distances
        .filter((d) => d.px > 0)
        .map(({ side, line: [x1, y1, x2, y2] }) => {
          const level = side === 'left' || side === 'right';
          const end = (x: number, y: number) =>
            level ? `M${x} ${y - tick}v${2 * tick}` : `M${x - tick} ${y}h${2 * tick}`;
          return (
            <path
              key={side}
              data-distance={side}
              d={`M${x1} ${y1}L${x2} ${y2}${end(x1, y1)}${end(x2, y2)}`}
              fill="none"
              stroke="var(--copper)"
              strokeWidth={1.2 / scale}
            />
          );
        })}
    </svg>
  );
}

/** The outlines of what was drawn for the part in hand. */
export function ItemMarks({
  boxes,
  drawing,
  scale,
}: {
  readonly boxes: readonly Rect[];
  readonly drawing: Drawing;
  readonly scale: number;
}) {
  return (
    <svg className="marks" width={drawing.width} height={drawing.height} aria-hidden="true">
      {boxes.map((b, i) => (
        <rect
          key={i}
          x={b.x}
          y={b.y}
          width={b.width}
          height={b.height}
          fill="none"
          stroke="var(--copper)"
          strokeWidth={1.2 / scale}
        />
      ))}
    </svg>
  );
}
