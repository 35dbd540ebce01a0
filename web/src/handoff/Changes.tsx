import type { PartChange } from '@tinfold/core/handoff';

interface ChangesProps {
  readonly changes: readonly PartChange[];
  /** Takes a part in hand; absent where nothing can be. */
  readonly onSelect?: (id: string) => void;
}

/** What is otherwise, part by part, in words. */
export function Changes({ changes, onSelect }: ChangesProps) {
  return (
    <ul className="changes">
      {changes.map((c) => (
        <li key={`${c.part} ${c.name}`}>
          {onSelect ? (
            <button
              type="button"
              disabled={c.part === ''}
              onClick={() => {
                onSelect(c.part);
              }}
            >
              {c.name}
            </button>
          ) : (
            <b>{c.name}</b>
          )}
          {c.says.map((say) => (
            <span key={say}>{say}</span>
          ))}
        </li>
      ))}
    </ul>
  );
}
