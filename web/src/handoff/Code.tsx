import { Segmented } from 'antd';
import { useMemo, useState } from 'react';
import { codeOf } from '@tinfold/core/handoff';
import { findPart, type Structure } from '@tinfold/core/model';

interface CodeProps {
  readonly doc: Structure;
  /** The structure as it was handed over last. */
  readonly last: Structure | null;
  readonly selected: string | undefined;
}

const FILES = [
  { value: 'css', label: 'styles.css' },
  { value: 'html', label: 'index.html' },
] as const;

/** The code of the part in hand as it will be in the file; lines that were not in the last handoff are marked. */
export function Code({ doc, last, selected }: CodeProps) {
  const [file, setFile] = useState<'css' | 'html'>('css');
  const part = selected === undefined ? undefined : findPart(doc.root, selected);
  const lines = useMemo(
    () => (part ? codeOf(doc, part.id)[file].trimEnd().split('\n') : []),
    [doc, part, file],
  );
  const before = useMemo(
    () =>
      part && last
        ? new Set(
            codeOf(last, part.id)
              [file].split('\n')
              .map((l) => l.trim()),
          )
        : undefined,
    [last, part, file],
  );
  return (
    <section className="code" aria-label="Code of the part in hand">
      <div className="code-head">
        <h2>{part ? part.name : 'Code'}</h2>
        <Segmented
          size="small"
          value={file}
          options={[...FILES]}
          onChange={setFile}
          aria-label="Which file"
        />
      </div>
      {part ? (
        <pre className="code-lines" tabIndex={0}>
          {lines.map((line, i) => (
            <span key={i} data-new={before !== undefined && line.trim() !== '' && !before.has(line.trim())}>
              {line}
              {'\n'}
            </span>
          ))}
        </pre>
      ) : (
        <p className="handoff-empty">Point at something on the page: its code is shown here.</p>
      )}
    </section>
  );
}
