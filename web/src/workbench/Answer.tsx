import { useMemo } from 'react';
import { reflow, type Engine } from '@tinfold/core/layout';
import { pathTo, standing, type Structure } from '@tinfold/core/model';
import { Outline } from '../look/Outline';

/** So much of a frame's height is seen at the most, frame px. */
const MOST_SEEN = 1200;
/** The size of a small picture, px. */
const PICTURE = { width: 92, height: 62 };

interface AnswerProps {
  readonly number: string;
  readonly words: string;
  /** The document with this answer. */
  readonly doc: Structure;
  /** The part that it is about, and the widths at which it is shown. */
  readonly part: string;
  readonly widths: readonly number[];
  readonly engine: Engine;
  readonly onWidth: (width: number) => void;
  /** Called with true when the pointer or the focus comes, with false when it goes. */
  readonly onPoint: (over: boolean) => void;
  readonly onTake: () => void;
  /** What follows from it, in a few signs. */
  readonly note?: string;
}

/** One answer: what it says, and what it looks like at three widths. */
export function Answer({
  number,
  words,
  doc,
  part,
  widths,
  engine,
  onWidth,
  onPoint,
  onTake,
  note,
}: AnswerProps) {
  const pictures = useMemo(
    () =>
      widths.map((width) => {
        const root = standing(doc, { width });
        const result = reflow(root, width, engine);
        // What is not shown is looked for where it would stand.
        const seen = pathTo(root, part).findLast((p) => result.parts.has(p.id));
        const box = result.parts.get(seen?.id ?? root.id);
        // The whole width of the frame, and as much of its height as the part and some of what is around it.
        const ratio = PICTURE.height / PICTURE.width;
        const height = Math.min(MOST_SEEN, Math.max(width * ratio, (box?.height ?? 0) * 1.3));
        const y = Math.max(0, Math.min((box?.y ?? 0) - height * 0.1, result.height - height));
        const across = height / ratio;
        return { width, root, result, view: { x: (width - across) / 2, y, width: across, height } };
      }),
    [doc, part, widths, engine],
  );
  return (
    <div
      className="answer"
      onPointerEnter={() => {
        onPoint(true);
      }}
      onPointerLeave={() => {
        onPoint(false);
      }}
    >
      <button
        type="button"
        className="answer-take"
        onClick={onTake}
        onFocus={() => {
          onPoint(true);
        }}
        onBlur={() => {
          onPoint(false);
        }}
      >
        <kbd>{number}</kbd> <b>{words}</b>
        {note !== undefined && <span className="answer-note">{note}</span>}
      </button>
      <div className="answer-pictures">
        {pictures.map(({ width, root, result, view }) => (
          <button
            key={width}
            type="button"
            title={`Set the caliper to ${width}`}
            onClick={() => {
              onWidth(width);
            }}
          >
            <Outline root={root} reflow={result} view={view} mark={part} {...PICTURE} />
            <span>{width}</span>
          </button>
        ))}
      </div>
    </div>
  );
}
