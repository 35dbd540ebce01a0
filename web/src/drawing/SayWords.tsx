import { Button, Input } from 'antd';
import { useState } from 'react';
import { teach, type DrawingDecisions, type TextItem } from '@tinfold/core/drawing';
import { plainText, UNREAD } from '@tinfold/core/model';

interface SayWordsProps {
  readonly item: TextItem;
  readonly onDecide: (change: (d: DrawingDecisions) => DrawingDecisions) => void;
}

/** What is known of a drawn text, a dot for every letter that is not. */
const sofar = (item: TextItem): string =>
  Array.from(plainText(item.content), (ch) => (UNREAD.test(ch) ? '·' : ch)).join('');

/** Asks what drawn words say: each letter that is typed is read wherever its shape stands. */
export function SayWords({ item, onDecide }: SayWordsProps) {
  const [typed, setTyped] = useState('');
  const [refusal, setRefusal] = useState<string>();
  const submit = () => {
    const taught = teach(item, typed);
    if ('refusal' in taught) {
      setRefusal(taught.refusal);
      return;
    }
    const glyphs = new Set(taught.said.map((s) => s.glyphs));
    onDecide((d) => ({ ...d, said: [...d.said.filter((s) => !glyphs.has(s.glyphs)), ...taught.said] }));
  };
  return (
    <form
      className="chosen-words"
      onSubmit={(e) => {
        e.preventDefault();
        if (typed.trim() !== '') submit();
      }}
    >
      <Input
        autoFocus
        value={typed}
        maxLength={5_000}
        placeholder={sofar(item)}
        aria-label="What the drawn words say"
        {...(refusal !== undefined && { status: 'error' as const })}
        onChange={(e) => {
          setTyped(e.target.value);
          setRefusal(undefined);
        }}
      />
      <Button htmlType="submit" disabled={typed.trim() === ''}>
        Say
      </Button>
      {refusal !== undefined && (
        <p className="refusal" role="alert">
          {refusal}
        </p>
      )}
    </form>
  );
}
