import { useState } from 'react';
import type { CleanUpKind, Drawing, DrawingDecisions, Note } from '@tinfold/core/drawing';
import type { Rect } from '@tinfold/core/model';

type Decide = (change: (d: DrawingDecisions) => DrawingDecisions) => void;

interface CleanedUpProps {
  readonly drawing: Drawing;
  readonly decisions: DrawingDecisions;
  readonly onShow: (items: readonly string[], places?: readonly Rect[]) => void;
  readonly onDecide: Decide;
}

/** More items of one clean-up are counted, not named. */
const NAMED = 12;

const without = <T,>(list: readonly T[], value: T): T[] => list.filter((v) => v !== value);

interface CleanUpProps {
  readonly note: Note;
  readonly kind: CleanUpKind;
  readonly places: (ids: readonly string[]) => readonly Rect[];
  readonly onShow: CleanedUpProps['onShow'];
  readonly onDecide: Decide;
}

/** One clean-up: its items with their places, each to be taken back by itself or all alike. */
function CleanUp({ note, kind, places, onShow, onDecide }: CleanUpProps) {
  const [open, setOpen] = useState(false);
  const { items, text } = note;
  return (
    <li className="facts-group">
      <div className="facts-line">
        <b>{items.length}</b>
        <button
          type="button"
          className="link-button facts-words"
          aria-expanded={open}
          onClick={() => {
            setOpen(!open);
            onShow(items, places(items));
          }}
        >
          {text}
        </button>
        <button
          type="button"
          className="link-button"
          onClick={() => {
            onDecide((d) => ({ ...d, keepKinds: [...d.keepKinds, kind] }));
          }}
        >
          take back{items.length > 1 ? ' all' : ''}
        </button>
      </div>
      {open && (
        <ul className="facts-items">
          {items.slice(0, NAMED).map((id) => (
            <li key={id}>
              <button
                type="button"
                className="link-button facts-words"
                onClick={() => {
                  onShow([id], places([id]));
                }}
              >
                {id}
              </button>
              <button
                type="button"
                className="link-button"
                onClick={() => {
                  onDecide((d) => ({ ...d, keep: [...d.keep, id] }));
                }}
              >
                take back
              </button>
            </li>
          ))}
          {items.length > NAMED && <li>and {items.length - NAMED} more</li>}
        </ul>
      )}
    </li>
  );
}

interface DoneProps {
  readonly mark: string;
  readonly words: string;
  readonly undo: string;
  readonly onUndo: () => void;
}

/** Something that the designer has decided here, with the way back. */
function Decided({ mark, words, undo, onUndo }: DoneProps) {
  return (
    <li className="facts-kept">
      <b>{mark}</b>
      <span className="facts-words">{words}</span>
      <button type="button" className="link-button" onClick={onUndo}>
        {undo}
      </button>
    </li>
  );
}

/** What was cleaned up and what the designer has decided about it. */
export function CleanedUp({ drawing, decisions, onShow, onDecide }: CleanedUpProps) {
  const cleaned = drawing.notes.flatMap((note) => (note.cleanUp ? [{ note, kind: note.cleanUp }] : []));
  const { keepKinds, keep, ignore, force, join } = decisions;
  const decided = keepKinds.length + keep.length + ignore.length + force.length + join.length;
  return (
    <>
      <header className="panel-head">
        <b>Cleaned up</b>
        <span>
          {cleaned.length === 0
            ? 'nothing'
            : `${cleaned.length} ${cleaned.length === 1 ? 'thing' : 'things'}`}
        </span>
      </header>
      <ul className="facts">
        {cleaned.length + decided === 0 && (
          <li className="facts-none">The file was clean: nothing was left out or put together.</li>
        )}
        {cleaned.map(({ note, kind }) => (
          <CleanUp
            key={note.text}
            note={note}
            kind={kind}
            places={(ids) => ids.flatMap((id) => note.places?.[note.items.indexOf(id)] ?? [])}
            onShow={onShow}
            onDecide={onDecide}
          />
        ))}
        {keepKinds.map((kind) => (
          <Decided
            key={kind}
            mark="–"
            words={`“${kind}” taken back for all`}
            undo="do it after all"
            onUndo={() => {
              onDecide((d) => ({ ...d, keepKinds: without(d.keepKinds, kind) }));
            }}
          />
        ))}
        {keep.map((id) => (
          <Decided
            key={id}
            mark="1"
            words={`“${id}” kept as it was drawn`}
            undo="clean up"
            onUndo={() => {
              onDecide((d) => ({ ...d, keep: without(d.keep, id) }));
            }}
          />
        ))}
        {ignore.map((id) => (
          <Decided
            key={id}
            mark="1"
            words={`“${id}” left out by you`}
            undo="bring back"
            onUndo={() => {
              onDecide((d) => ({ ...d, ignore: without(d.ignore, id) }));
            }}
          />
        ))}
        {force.map((f) => (
          <Decided
            key={f.id}
            mark="1"
            words={`“${f.id}” taken for ${f.kind === 'icon' ? 'an icon' : `a ${f.kind}`} by you`}
            undo="as read"
            onUndo={() => {
              onDecide((d) => ({ ...d, force: without(d.force, f) }));
            }}
          />
        ))}
        {join.map((ids) => (
          <Decided
            key={ids.join()}
            mark={String(ids.length)}
            words={`made one by you: “${ids[0] ?? ''}”`}
            undo="take apart"
            onUndo={() => {
              onDecide((d) => ({ ...d, join: without(d.join, ids) }));
            }}
          />
        ))}
      </ul>
    </>
  );
}
