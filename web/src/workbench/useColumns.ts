import { useState } from 'react';
import * as v from 'valibot';
import { CELLS, type CellKind } from './cells';

const KEPT_AS = 'tinfold.list-columns';
/** Columns stay between these widths, px. */
const NARROWEST = 34;
const WIDEST = 400;
/** What stands before the rules: the number and the name; and the size that a part has now, px. */
const NUMBER = 26;
const NAME = 180;
const NOW = 84;

const Kept = v.object({
  hidden: v.array(v.string()),
  shown: v.array(v.string()),
  widths: v.record(v.string(), v.number()),
});
type Kept = v.InferOutput<typeof Kept>;
const NOTHING: Kept = { hidden: [], shown: [], widths: {} };

function kept(): Kept {
  try {
    const parsed = v.safeParse(Kept, JSON.parse(localStorage.getItem(KEPT_AS) ?? 'null'));
    return parsed.success ? parsed.output : NOTHING;
  } catch {
    return NOTHING;
  }
}

export interface ListColumns {
  /** The columns that are shown, in order, with their numbers among all. */
  readonly shown: readonly { readonly kind: CellKind; readonly at: number }[];
  readonly isShown: (kind: CellKind) => boolean;
  readonly show: (kind: CellKind, shown: boolean) => void;
  /** How wide a column is, by its key; `name` for the part's. */
  readonly widthOf: (key: string) => number;
  readonly setWidth: (key: string, px: number) => void;
  /** CSS `grid-template-columns` of a row, and how wide it is at least, px. */
  readonly template: string;
  readonly least: number;
}

/** Which columns the parts list has and how wide they are, kept in this browser from one visit to the next. */
export function useColumns(nowAfter: string): ListColumns {
  const [state, setState] = useState(kept);
  const keep = (next: Kept) => {
    setState(next);
    localStorage.setItem(KEPT_AS, JSON.stringify(next));
  };
  const isShown = ({ key, extra }: CellKind): boolean =>
    extra ? state.shown.includes(key) : !state.hidden.includes(key);
  const shown = CELLS.map((kind, at) => ({ kind, at })).filter(({ kind }) => isShown(kind));
  const widthOf = (key: string): number =>
    state.widths[key] ?? (key === 'name' ? NAME : (CELLS.find((c) => c.key === key)?.width ?? NARROWEST));
  const widths = [
    NUMBER,
    widthOf('name'),
    ...shown.flatMap(({ kind }) => (kind.key === nowAfter ? [widthOf(kind.key), NOW] : [widthOf(kind.key)])),
    ...(shown.some(({ kind }) => kind.key === nowAfter) ? [] : [NOW]),
  ];
  return {
    shown,
    isShown,
    show: (kind, isNow) => {
      const list = kind.extra ? 'shown' : 'hidden';
      const on = kind.extra ? isNow : !isNow;
      const others = state[list].filter((k) => k !== kind.key);
      keep({ ...state, [list]: on ? [...others, kind.key] : others });
    },
    widthOf,
    setWidth: (key, px) => {
      const width = Math.round(Math.min(WIDEST, Math.max(NARROWEST, px)));
      keep({ ...state, widths: { ...state.widths, [key]: width } });
    },
    template: `${widths.map((w) => `${w}px`).join(' ')} 1fr`,
    least: widths.reduce((sum, w) => sum + w, 0),
  };
}
