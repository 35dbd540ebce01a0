import {
  createContext,
  Fragment,
  memo,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
} from 'react';
import type { Reflow } from '@tinfold/core/layout';
import type { Part } from '@tinfold/core/model';
import { CELLS, type CellKind } from './cells';
import { PartGlyph } from './glyphs';
import { counterparts, rowsOf, shownRow, type Row } from './rows';
import type { WorkbenchStore } from './store';

interface PartsListProps {
  readonly use: WorkbenchStore;
  /** The tree as it stands at the frame's width. */
  readonly root: Part;
  /** A width in the range between breakpoints that the frame's is in. */
  readonly width: number;
}

/** The cell in hand: a row and a column, column -1 being the part's name. */
interface Cell {
  readonly row: number;
  readonly column: number;
}

/** The size that a part has now stands behind its size rules. */
const NOW_AFTER = 'height';

const size = (n: number): string => String(Math.round(n));

/** The sizes that parts have now. By context, so that a drag draws these cells anew and not the whole list. */
export const Sizes = createContext<Reflow['parts']>(new Map());

function NowCell({ id }: { readonly id: string }) {
  const box = useContext(Sizes).get(id);
  return (
    <div className="cell cell-now" role="gridcell">
      {box ? `${size(box.width)} × ${size(box.height)}` : 'not shown'}
    </div>
  );
}

/** The narrowest breakpoint above this width whose override says one of these rules: what is seen is what is changed. */
const saidBelow = (part: Part, names: readonly string[], width: number): number | undefined =>
  part.below?.findLast((o) => width < o.width && names.some((n) => n in o.rules))?.width;

/** The parts list: a tree and a table in one, edited in place. */
export const PartsList = memo(function PartsList({ use, root, width }: PartsListProps) {
  const selected = use((s) => s.selected);
  const column = use((s) => s.column);
  const { edit, select, setColumn, refuse } = use.getState();
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const [editing, setEditing] = useState<string>();
  const grid = useRef<HTMLDivElement>(null);
  /** Closing an input takes the focus from it: what was taken or given up must not be taken then. */
  const closed = useRef(false);
  const rows = useMemo(() => rowsOf(root, opened), [root, opened]);
  const at = selected === undefined ? -1 : shownRow(root, selected, rows, opened);

  useEffect(() => {
    grid.current?.querySelector('[data-current="true"]')?.scrollIntoView({ block: 'nearest' });
  }, [at, column]);

  const go = ({ row, column: to }: Cell) => {
    const target = rows[Math.min(rows.length - 1, Math.max(0, row))];
    if (target) select(target.part.id);
    setColumn(Math.min(CELLS.length - 1, Math.max(-1, to)));
    setEditing(undefined);
  };

  const take = (kind: CellKind, part: Part, text: string): boolean => {
    if (text === kind.show(part) || !kind.parse) return true;
    const parsed = kind.parse(text);
    if (!parsed.ok) {
      refuse(parsed.reason);
      return false;
    }
    const parts = counterparts(root, part.id, opened).filter((p) => kind.applies(p, p === root));
    const below = saidBelow(part, Object.keys(parsed.value), width);
    return edit(`${kind.label} of ${part.name}`, {
      kind: 'setRules',
      ...(below !== undefined && { below }),
      parts: parts.map((p) => ({ id: p.id, set: parsed.value })),
    });
  };

  const toggle = (pattern: string) => {
    setOpened((now) => {
      const next = new Set(now);
      if (!next.delete(pattern)) next.add(pattern);
      return next;
    });
  };

  const keys = (event: KeyboardEvent) => {
    if (editing !== undefined) return;
    const row = rows[at];
    const kind = CELLS[column];
    const step: Partial<Record<string, Cell>> = {
      ArrowUp: { row: at - 1, column },
      ArrowDown: { row: at + 1, column },
      ArrowLeft: { row: at, column: column - 1 },
      ArrowRight: { row: at, column: column + 1 },
      Home: { row: 0, column },
      End: { row: rows.length - 1, column },
    };
    const to = step[event.key];
    const editable = row && kind?.parse && kind.applies(row.part, row.part === root);
    if (to) go(to);
    else if (event.key === ' ' && row?.part.pattern !== undefined) toggle(row.part.pattern);
    else if ((event.key === 'Enter' || event.key === 'F2') && editable) setEditing(kind.show(row.part));
    else if (event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey && editable)
      setEditing(event.key);
    else return;
    event.preventDefault();
  };

  const cell = (row: Row, index: number, kind: CellKind, i: number) => {
    const current = index === at && i === column;
    const editable = kind.parse !== undefined && kind.applies(row.part, row.part === root);
    const text = kind.show(row.part);
    const below = saidBelow(row.part, kind.rules, width);
    return (
      <div
        role="gridcell"
        className={`cell cell-${kind.key}${editable ? '' : ' cell-fixed'}${below === undefined ? '' : ' cell-below'}`}
        data-current={current}
        data-cell={kind.key}
        aria-readonly={!editable}
        title={below !== undefined ? `${text}, below ${below}` : text.length > 8 ? text : undefined}
        onPointerDown={() => {
          if (!(current && editing !== undefined)) go({ row: index, column: i });
        }}
        onDoubleClick={() => {
          if (editable) setEditing(text);
        }}
      >
        {current && editing !== undefined ? (
          <input
            className="cell-input"
            autoFocus
            aria-label={`${kind.label} of ${row.part.name}`}
            value={editing}
            onChange={(e) => {
              setEditing(e.currentTarget.value);
            }}
            onFocus={() => {
              closed.current = false;
            }}
            onBlur={() => {
              if (!closed.current) take(kind, row.part, editing);
              setEditing(undefined);
            }}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === 'Escape') {
                closed.current = true;
                setEditing(undefined);
                grid.current?.focus();
              }
              if (e.key !== 'Enter' && e.key !== 'Tab') return;
              e.preventDefault();
              if (!take(kind, row.part, editing)) return;
              closed.current = true;
              setEditing(undefined);
              if (e.key === 'Tab') go({ row: index, column: i + (e.shiftKey ? -1 : 1) });
              grid.current?.focus();
            }}
          />
        ) : (
          text
        )}
      </div>
    );
  };

  return (
    <section className="parts" aria-label="Parts list">
      <header className="panel-head">
        <b>Parts list</b>
        <span>{rows.length} rows</span>
      </header>
      <div
        className="parts-grid"
        role="treegrid"
        aria-label="Parts and their rules"
        tabIndex={0}
        ref={grid}
        onKeyDown={keys}
      >
        <div className="parts-row parts-titles" role="row">
          <div className="cell cell-no" role="columnheader" aria-label="Number" />
          <div className="cell cell-name" role="columnheader">
            Part
          </div>
          {CELLS.map((c) => (
            <Fragment key={c.key}>
              <div className={`cell cell-${c.key}`} role="columnheader">
                {c.title}
              </div>
              {c.key === NOW_AFTER && (
                <div className="cell cell-now" role="columnheader">
                  Now
                </div>
              )}
            </Fragment>
          ))}
        </div>
        {rows.map((row, index) => {
          const { pattern } = row.part;
          return (
            <div
              key={row.part.id}
              className="parts-row"
              role="row"
              aria-level={row.depth + 1}
              aria-selected={index === at}
              data-row={row.part.id}
            >
              <div className="cell cell-no">{index + 1}</div>
              <div
                className="cell cell-name"
                role="gridcell"
                data-current={index === at && column === -1}
                style={{ paddingLeft: 4 + Math.min(row.depth, 9) * 12 }}
                onPointerDown={() => {
                  go({ row: index, column: -1 });
                }}
              >
                <PartGlyph part={row.part} />
                <span className="part-name">{row.part.name}</span>
                {pattern !== undefined && (row.copies > 1 || opened.has(pattern)) && (
                  <button
                    type="button"
                    className="copies"
                    tabIndex={-1}
                    title={
                      opened.has(pattern) ? 'Show and edit the copies as one' : 'Show each copy by itself'
                    }
                    onClick={() => {
                      toggle(pattern);
                    }}
                  >
                    {opened.has(pattern) ? '÷' : `×${row.copies}`}
                  </button>
                )}
              </div>
              {CELLS.map((kind, i) => (
                <Fragment key={kind.key}>
                  {cell(row, index, kind, i)}
                  {kind.key === NOW_AFTER && <NowCell id={row.part.id} />}
                </Fragment>
              ))}
            </div>
          );
        })}
      </div>
    </section>
  );
});
