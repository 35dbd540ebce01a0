import type { ReactNode } from 'react';
import { placesOf, type Parsed, type Step, type Token } from '@tinfold/core/model';
import type { WorkbenchStore } from './store';
import { renamed, takenAway } from './tokenEdits';
import { Places, Sample, Typed } from './tokenFields';

/** A column of values: those in all frames, below a width, or in a colour mode. */
export interface ValueColumn<T extends Token> {
  readonly key: string;
  readonly title: string;
  /** What a screen reader calls the field of a token. */
  readonly label: (token: T) => string;
  readonly value: (token: T) => string;
  /** What is said where there is no value. */
  readonly note?: string;
  /** Whether its colour is shown beside it. */
  readonly sampled?: boolean;
  readonly change: (token: T, typed: string) => Parsed<Step>;
}

interface TokenTableProps<T extends Token> {
  readonly use: WorkbenchStore;
  readonly caption: ReactNode;
  readonly tokens: readonly T[];
  readonly columns: readonly ValueColumn<T>[];
}

/** Tokens of one kind with their values, typed over in place. */
export function TokenTable<T extends Token>({ use, caption, tokens, columns }: TokenTableProps<T>) {
  const doc = use((s) => s.doc);
  const { edit, refuse, selectAll } = use.getState();
  /** Takes an edit of a token, or says why it cannot be. */
  const take = (label: string, parsed: Parsed<Step>): boolean => {
    if (parsed.ok) return edit(label, parsed.value);
    refuse(parsed.reason);
    return false;
  };
  return (
    <table className="token-table">
      <caption>{caption}</caption>
      <thead>
        <tr>
          <th scope="col">Name</th>
          {columns.map((c) => (
            <th scope="col" key={c.key}>
              {c.title}
            </th>
          ))}
          <th scope="col">Stands at</th>
          <td />
        </tr>
      </thead>
      <tbody>
        {tokens.map((token) => (
          <tr key={token.name} data-token={token.name}>
            <th scope="row">
              <Sample value={token.value} />
              <Typed
                label={`Name of the token ${token.name}`}
                value={token.name}
                take={(typed) => take(`Name “${typed}”`, renamed(token, typed))}
              />
            </th>
            {columns.map((c) => {
              const value = c.value(token);
              return (
                <td key={c.key}>
                  <span className="token-value">
                    {c.sampled && value !== '' && <Sample value={value} />}
                    <Typed
                      label={c.label(token)}
                      value={value}
                      note={c.note}
                      take={(typed) => take(`${c.label(token)}: ${typed}`, c.change(token, typed))}
                    />
                  </span>
                </td>
              );
            })}
            <td>
              <Places parts={placesOf(doc.root, token.name).map((p) => p.part.id)} onTake={selectAll} />
            </td>
            <td>
              <button
                type="button"
                className="token-away"
                aria-label={`Take the token ${token.name} away`}
                title="Take it away; its places keep its value"
                onClick={() => take(`Take ${token.name} away`, takenAway(doc, token))}
              >
                ×
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
