import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import {
  isDrawn,
  joinRefusal,
  kindOfItem,
  otherKinds,
  type Drawing,
  type DrawingDecisions,
  type Item,
  type ItemKind,
  type TextItem,
} from '@tinfold/core/drawing';
import { plainText, UNREAD } from '@tinfold/core/model';
import { SayWords } from './SayWords';

interface ChosenItemsProps {
  readonly drawing: Drawing;
  readonly chosen: readonly string[];
  readonly onDecide: (change: (d: DrawingDecisions) => DrawingDecisions) => void;
  /** As `onDecide`, with the items staying chosen. */
  readonly onSay: (change: (d: DrawingDecisions) => DrawingDecisions) => void;
}

const article = (kind: ItemKind): string => (kind === 'icon' ? 'an icon' : `a ${kind}`);

const shared = (items: readonly Item[]): ItemKind[] => {
  const [first, ...rest] = items.map(otherKinds);
  return (first ?? []).filter((kind) => rest.every((kinds) => kinds.includes(kind)));
};

const isUnread = (item: Item): item is TextItem =>
  item.kind === 'text' && UNREAD.test(plainText(item.content));

/** How a text was read whose words were outlines. */
function howRead(item: Item): string {
  if (item.kind !== 'text') return '';
  const style = item.content.runs[0]?.style;
  if (isDrawn(item)) return `Drawn words: ${style?.family}, ${style?.size} px`;
  if (!item.outlined) return '';
  const { glyphs, doubtful } = item.outlined;
  const doubts = [...new Set(doubtful.map((d) => `${d.read} or ${d.or}`))].join(', ');
  const sure = `${glyphs - doubtful.length} of ${glyphs} glyphs surely`;
  return `Read from outlines as ${style?.family} ${style?.size}: ${sure}${doubts === '' ? '' : `, in doubt ${doubts}`}`;
}

/** What can be done with the chosen items: leave them out, take them for something else, make them one. */
export function ChosenItems({ drawing, chosen, onDecide, onSay }: ChosenItemsProps) {
  const [words, setWords] = useState('');
  const [asking, setAsking] = useState(false);
  const items = drawing.items.filter((i) => chosen.includes(i.id));
  const [only] = items;
  if (!only)
    return <p className="chosen-none">Point at an item to leave it out or take it for something else.</p>;
  const take = (kind: ItemKind) => {
    if (kind === 'text' && !asking) {
      setAsking(true);
      return;
    }
    const ids = new Set(items.map((i) => i.id));
    const said = kind === 'text' ? { words: words.trim() } : {};
    onDecide((d) => ({
      ...d,
      force: [...d.force.filter((f) => !ids.has(f.id)), ...items.map((i) => ({ id: i.id, kind, ...said }))],
    }));
    setAsking(false);
    setWords('');
  };
  const refusal = items.length > 1 ? joinRefusal(items) : undefined;
  const name = items.length === 1 ? `“${only.id}”` : `${items.length} items`;
  return (
    <div className="chosen" role="group" aria-label="The chosen items">
      <span className="chosen-name">
        {name}
        {items.length === 1 ? `, ${article(kindOfItem(only))}` : ''}
      </span>
      {items.length === 1 && howRead(only) !== '' && <p className="chosen-none">{howRead(only)}</p>}
      {items.length === 1 && isUnread(only) && (
        <SayWords key={plainText(only.content)} item={only} onDecide={onSay} />
      )}
      <div className="chosen-acts">
        <Button
          onClick={() => {
            onDecide((d) => ({ ...d, ignore: [...d.ignore, ...items.map((i) => i.id)] }));
          }}
        >
          Leave out
        </Button>
        <Select<ItemKind>
          aria-label="Take for"
          placeholder="Take for …"
          value={null}
          options={shared(items).map((kind) => ({ value: kind, label: article(kind) }))}
          onChange={take}
          style={{ width: 130 }}
        />
        {items.length > 1 && refusal === undefined && (
          <Button
            onClick={() => {
              onDecide((d) => ({ ...d, join: [...d.join, items.map((i) => i.id)] }));
            }}
          >
            Make one
          </Button>
        )}
      </div>
      {refusal !== undefined && <p className="chosen-none">{refusal}</p>}
      {asking && (
        <form
          className="chosen-words"
          onSubmit={(e) => {
            e.preventDefault();
            if (words.trim() !== '') take('text');
          }}
        >
          <Input
            autoFocus
            value={words}
            maxLength={500}
            placeholder="The words that it shows"
            aria-label="The words that it shows"
            onChange={(e) => {
              setWords(e.target.value);
            }}
          />
          <Button htmlType="submit" disabled={words.trim() === ''}>
            Take
          </Button>
        </form>
      )}
    </div>
  );
}
