import { Button } from 'antd';
import type { Note } from '@tinfold/core/drawing';

interface NeedsALookProps {
  readonly notes: readonly Note[];
  readonly onShow: (items: readonly string[]) => void;
}

/** What fell back and what could not be read, each with its places on the drawing. */
export function NeedsALook({ notes, onShow }: NeedsALookProps) {
  const look = notes.filter((n) => n.kind === 'fell back' || n.kind === 'not understood');
  return (
    <>
      <header className="panel-head">
        <b>Needs a look</b>
        <span>{look.length}</span>
      </header>
      <ul className="looks">
        {look.length === 0 && <li className="looks-none">Everything in the file was understood.</li>}
        {look.map(({ text, items, kind }) => (
          <li key={text} className={kind === 'fell back' ? 'look look-fell' : 'look look-lost'}>
            <p>{text}</p>
            <span>
              {kind === 'fell back' ? 'fell back' : 'not understood'}
              {items.length > 0 ? ` · ${items.length} ${items.length === 1 ? 'place' : 'places'}` : ''}
            </span>
            {items.length > 0 && (
              <Button
                size="small"
                onClick={() => {
                  onShow(items);
                }}
              >
                Show
              </Button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
