import { useState, type CSSProperties } from 'react';

interface TypedProps {
  readonly label: string;
  readonly value: string;
  readonly note?: string | undefined;
  readonly take: (typed: string) => boolean;
}

/** A value that is typed over in place: Enter and leaving it take it, Escape leaves it as it was. */
export function Typed({ label, value, note, take }: TypedProps) {
  const [typed, setTyped] = useState<string>();
  return (
    <input
      className="token-typed"
      aria-label={label}
      title={note}
      value={typed ?? value}
      placeholder={note}
      onFocus={(e) => {
        e.currentTarget.select();
      }}
      onChange={(e) => {
        setTyped(e.currentTarget.value);
      }}
      onBlur={() => {
        // What is refused stays to be mended.
        if (typed === undefined || typed === value || take(typed)) setTyped(undefined);
      }}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') setTyped(undefined);
      }}
    />
  );
}

/** Longer lengths are drawn so long, px. */
const LONGEST = 36;

/** A colour as a chip, a length as a bar of its size. */
export function Sample({ value }: { readonly value: number | string }) {
  return typeof value === 'number' ? (
    <i
      className="token-bar"
      style={{ '--long': `${Math.max(1, Math.min(LONGEST, value))}px` } as CSSProperties}
    />
  ) : (
    <i className="token-chip" style={{ background: value }} />
  );
}

const places = (n: number): string => (n === 1 ? '1 place' : `${n} places`);

interface PlacesProps {
  /** The parts at which a value stands, each as often as it does. */
  readonly parts: readonly string[];
  readonly onTake: (parts: readonly string[]) => void;
}

/** How often a value stands somewhere; takes the parts in hand at which it does. */
export function Places({ parts, onTake }: PlacesProps) {
  return (
    <button
      type="button"
      className="token-used"
      disabled={parts.length === 0}
      title="Take the parts in hand at which it stands"
      onClick={() => {
        onTake([...new Set(parts)]);
      }}
    >
      {places(parts.length)}
    </button>
  );
}
