import {
  createContext,
  Fragment,
  memo,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type CSSProperties,
  type KeyboardEvent,
} from 'react';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { Bench } from '@tinfold/core/edit';
import type { Reflow } from '@tinfold/core/layout';
import { pathTo, rangeWords, type Conditions, type Part } from '@tinfold/core/model';
import { CELLS, isTyped, nextWord, stepped, type CellKind } from './cells';
import { nearestValid } from './nearestValid';
import { PartGlyph } from './glyphs';
import { Holds } from './Holds';
import { LedgerTabs } from './LedgerTabs';
import { counterparts, filtered, FILTER_WORDS, rowsOf, shownRow, type Known, type Row } from './rows';
import { bindingOf, leavingRange, saidIn, settingOf, tokensAt } from './said';
import type { WorkbenchStore } from './store';
import { marksOf } from './marks';
import { ColumnChoice, ListTitles } from './ListTitles';
import { useColumns } from './useColumns';
import { useRowDrag } from './useRowDrag';

interface PartsListProps {
  readonly use: WorkbenchStore;
  /** The tree as it stands at the frame's width. */
  readonly root: Part;
  /** A frame in the range that the one looked at is in. */
  readonly frame: Pick<Conditions, 'width' | 'height'>;
  readonly bench: Bench;
  readonly known: Known;
}

/** How high a row is, px. */
const ROW = 25;
/** So many rows beyond those in sight are there already when the list is scrolled. */
const BEYOND = 40;
/** How far a level is set in, px, and how many levels are. */
const INDENT = 12;
const LEVELS = 9;

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

/** The parts list: a tree and a table in one, edited in place. */
export const PartsList = memo(function PartsList({ use, root, frame, bench, known }: PartsListProps) {
  const selected = use((s) => s.selected);
  const column = use((s) => s.column);
  const also = use((s) => s.also);
  const { edit, select, alsoSelect, setColumn, refuse } = use.getState();
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const [editing, setEditing] = useState<string>();
  const grid = useRef<HTMLDivElement>(null);
  /** Closing an input takes the focus from it: what was taken or given up must not be taken then. */
  const closed = useRef(false);
  /** What was copied from a cell. */
  const copied = useRef<string>(undefined);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [filter, setFilter] = useState('');
  const { drop, press } = useRowDrag(use, bench);
  const columns = useColumns(NOW_AFTER);
  const { shown } = columns;
  const hasNow = shown.some(({ kind }) => kind.key === NOW_AFTER);
  /** The columns in the order in which keys go through them; -1 is the name. */
  const order = [-1, ...shown.map((s) => s.at)];
  const beside = (from: number, by: number): number =>
    order[Math.min(order.length - 1, Math.max(0, order.indexOf(from) + by))] ?? -1;
  const all = useMemo(
    () => rowsOf(root, opened, filter === '' ? folded : undefined),
    [root, opened, folded, filter],
  );
  const rows = useMemo(() => filtered(all, filter, known), [all, filter, known]);
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => grid.current,
    estimateSize: () => ROW,
    overscan: BEYOND,
    // The titles stand over the first row.
    scrollPaddingStart: ROW,
  });
  const at = selected === undefined ? -1 : shownRow(root, selected, rows, opened);

  // What is folded away and taken in hand on a sheet is shown again.
  useEffect(() => {
    if (selected === undefined || at >= 0 || filter !== '') return;
    const path = new Set(pathTo(root, selected).map((p) => p.id));
    setFolded((now) => new Set([...now].filter((id) => !path.has(id) || id === selected)));
  }, [at, selected, root, filter]);
  useEffect(() => {
    if (at >= 0) list.scrollToIndex(at, { align: 'auto' });
    grid.current
      ?.querySelector('[data-current="true"]')
      ?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [at, column, list]);

  const go = ({ row, column: to }: Cell) => {
    const target = rows[Math.min(rows.length - 1, Math.max(0, row))];
    if (target) select(target.part.id);
    setColumn(to);
    setEditing(undefined);
  };

  const take = (kind: CellKind, part: Part, text: string): boolean => {
    if (text === kind.show(part)) return true;
    const said = kind.say?.(part, text);
    if (said) return edit(`${kind.label} of ${part.name}`, said);
    if (!kind.parse) {
      refuse(`The ${kind.label} of “${part.name}” cannot be nothing: type at least one letter.`);
      return false;
    }
    // What is typed in a row in hand holds for all that are in hand.
    const rowsInHand = part.id === selected ? [part.id, ...also] : [part.id];
    const parts = [...new Set(rowsInHand.flatMap((id) => counterparts(root, id, opened)))]
      .filter((p) => kind.applies(p, p === root))
      .map((p) => p.id);
    const label =
      parts.length > 1 && also.size > 0
        ? `${kind.label} of ${parts.length} parts`
        : `${kind.label} of ${part.name}`;
    const binding = bindingOf(use.getState(), parts, kind.rules, text);
    if (binding) return edit(`${label} as ${text.trim()}`, binding);
    const parsed = kind.parse(text);
    if (!parsed.ok) {
      const near = nearestValid(kind, text);
      refuse(
        parsed.reason,
        near === undefined
          ? undefined
          : {
              value: near,
              take: () => {
                if (take(kind, part, near)) setEditing(undefined);
              },
            },
      );
      return false;
    }
    return edit(label, settingOf(use.getState(), part.id, parts, parsed.value));
  };

  const toggle = (pattern: string) => {
    setOpened((now) => {
      const next = new Set(now);
      if (!next.delete(pattern)) next.add(pattern);
      return next;
    });
  };

  const fold = (id: string, away: boolean) => {
    setFolded((now) => new Set(away ? [...now, id] : [...now].filter((f) => f !== id)));
  };

  const rename = (part: Part, name: string): boolean =>
    name.trim() === part.name || edit(`Name “${name.trim()}”`, { kind: 'rename', id: part.id, name });

  /** Copies what the cell in hand shows, or takes what was copied as if it had been typed. */
  const clip = (event: KeyboardEvent): boolean => {
    const [row, kind] = [rows[at], CELLS[column]];
    if (!row || !kind || !(event.ctrlKey || event.metaKey) || event.shiftKey || event.altKey) return false;
    if (event.key === 'c') copied.current = kind.show(row.part);
    else if (
      event.key === 'v' &&
      copied.current !== undefined &&
      isTyped(kind) &&
      kind.applies(row.part, row.part === root)
    )
      take(kind, row.part, copied.current);
    else return false;
    return true;
  };

  const keys = (event: KeyboardEvent) => {
    if (editing === undefined && clip(event)) {
      event.preventDefault();
      return;
    }
    if (editing !== undefined || event.altKey || event.ctrlKey || event.metaKey) return;
    const row = rows[at];
    const onName = column === -1 && row !== undefined;
    if (onName && row.part.children.length > 0 && event.key === (row.folded ? 'ArrowRight' : 'ArrowLeft')) {
      fold(row.part.id, !row.folded);
      event.preventDefault();
      return;
    }
    if (onName && (event.key === 'Enter' || event.key === 'F2')) {
      setEditing(row.part.name);
      event.preventDefault();
      return;
    }
    const kind = CELLS[column];
    if (row && kind && (event.key === 'Delete' || event.key === 'Backspace')) {
      const alike = counterparts(root, row.part.id, opened).map((p) => p.id);
      const leave = leavingRange(row.part, alike, kind.rules, frame);
      if (leave) edit(`${kind.label} of ${row.part.name} as in wider frames`, leave);
      else refuse(`The ${kind.label} of “${row.part.name}” holds in all frames: type another.`);
      event.preventDefault();
      event.stopPropagation();
      return;
    }
    const step: Partial<Record<string, Cell>> = {
      ArrowUp: { row: at - 1, column },
      ArrowDown: { row: at + 1, column },
      ArrowLeft: { row: at, column: beside(column, -1) },
      ArrowRight: { row: at, column: beside(column, 1) },
      Home: { row: 0, column },
      End: { row: rows.length - 1, column },
    };
    const to = step[event.key];
    const editable = row && kind && isTyped(kind) && kind.applies(row.part, row.part === root);
    if (to) go(to);
    else if (event.key === ' ' && row?.part.pattern !== undefined) toggle(row.part.pattern);
    else if ((event.key === 'Enter' || event.key === 'F2') && editable) setEditing(kind.show(row.part));
    else if (event.key.length === 1 && editable) setEditing(event.key);
    else return;
    event.preventDefault();
  };

  /** The box in which a cell is typed; Tab goes on to the next, Shift Tab to the one before. */
  const input = (
    label: string,
    take: (value: string) => boolean,
    next: Cell,
    before: Cell,
    words: readonly string[] = [],
  ) => (
    <input
      className="cell-input"
      autoFocus
      aria-label={label}
      value={editing}
      onChange={(e) => {
        setEditing(e.currentTarget.value);
      }}
      onFocus={(e) => {
        closed.current = false;
        // What is there is typed over, unless the first letter of it was typed already.
        if (e.currentTarget.value.length > 1) e.currentTarget.select();
      }}
      onBlur={() => {
        if (!closed.current && editing !== undefined) take(editing);
        setEditing(undefined);
      }}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Escape') {
          closed.current = true;
          setEditing(undefined);
          grid.current?.focus();
        }
        if ((e.key === 'ArrowUp' || e.key === 'ArrowDown') && editing !== undefined) {
          const isUp = e.key === 'ArrowUp';
          setEditing(
            words.length > 0 && !/^-?\d+$/.test(editing)
              ? nextWord(words, editing, isUp ? -1 : 1)
              : stepped(
                  editing,
                  e.currentTarget.selectionStart ?? 0,
                  (isUp ? 1 : -1) * (e.shiftKey ? 10 : 1),
                ),
          );
          e.preventDefault();
        }
        if (e.key !== 'Enter' && e.key !== 'Tab') return;
        e.preventDefault();
        if (editing !== undefined && !take(editing)) return;
        closed.current = true;
        setEditing(undefined);
        if (e.key === 'Tab') go(e.shiftKey ? before : next);
        grid.current?.focus();
      }}
    />
  );

  const cell = (row: Row, index: number, kind: CellKind, i: number) => {
    const current = index === at && i === column;
    const editable = isTyped(kind) && kind.applies(row.part, row.part === root);
    const text = kind.show(row.part);
    const range = saidIn(row.part, kind.rules, frame);
    const tokens = tokensAt(row.part, kind.rules);
    return (
      <div
        role="gridcell"
        className={`cell cell-${kind.key}${editable ? '' : ' cell-fixed'}${range === undefined ? '' : ' cell-below'}${tokens === '' ? '' : ' cell-token'}`}
        data-current={current}
        data-cell={kind.key}
        aria-readonly={!editable}
        title={
          tokens !== ''
            ? `${text}, by ${tokens}`
            : range !== undefined
              ? `${text}, ${rangeWords(range)}`
              : text.length > 8
                ? text
                : undefined
        }
        onPointerDown={() => {
          if (!(current && editing !== undefined)) go({ row: index, column: i });
        }}
        onDoubleClick={() => {
          if (editable) setEditing(text);
        }}
      >
        {current && editing !== undefined
          ? input(
              `${kind.label} of ${row.part.name}`,
              (value) => take(kind, row.part, value),
              {
                row: index,
                column: beside(i, 1),
              },
              { row: index, column: beside(i, -1) },
              kind.words,
            )
          : text}
        {current && editing !== undefined && kind.words && (
          <ul className="cell-words" aria-label={`Words for the ${kind.label}`}>
            {kind.words.map((word) => (
              <li
                key={word}
                aria-current={word === editing}
                onPointerDown={(event) => {
                  event.preventDefault();
                  event.stopPropagation();
                  if (!take(kind, row.part, word)) return;
                  closed.current = true;
                  setEditing(undefined);
                  grid.current?.focus();
                }}
              >
                {word}
              </li>
            ))}
          </ul>
        )}
      </div>
    );
  };

  const line = (row: Row, index: number, top: number) => {
    const { part, folded: isFolded } = row;
    const { pattern } = part;
    const isCurrent = index === at && column === -1;
    return (
      <div
        key={part.id}
        className="parts-row"
        role="row"
        style={{ transform: `translateY(${top}px)` }}
        aria-level={row.depth + 1}
        aria-rowindex={index + 2}
        aria-selected={index === at || also.has(part.id)}
        {...(part.children.length > 0 && { 'aria-expanded': !isFolded })}
        data-row={part.id}
        data-holds={part.kind === 'container'}
        data-drop={drop?.over === part.id ? drop.where : undefined}
      >
        <div className="cell cell-no">{index + 1}</div>
        <div
          className="cell cell-name"
          role="gridcell"
          data-current={isCurrent}
          style={{ paddingLeft: 4 + Math.min(row.depth, LEVELS) * INDENT }}
          onPointerDown={(event) => {
            if (isCurrent && editing !== undefined) return;
            if (event.ctrlKey || event.metaKey || event.shiftKey) {
              alsoSelect(part.id);
              event.preventDefault();
              return;
            }
            go({ row: index, column: -1 });
            press(part.id)(event);
          }}
          onDoubleClick={() => {
            setEditing(part.name);
          }}
        >
          {part.children.length > 0 ? (
            <button
              type="button"
              className="fold"
              tabIndex={-1}
              aria-label={`${isFolded ? 'Unfold' : 'Fold'} ${part.name}`}
              data-folded={isFolded}
              onPointerDown={(event) => {
                event.stopPropagation();
                fold(part.id, !isFolded);
              }}
            />
          ) : (
            <span className="fold-none" />
          )}
          <PartGlyph part={part} />
          {isCurrent && editing !== undefined ? (
            input(
              `Name of ${part.name}`,
              (value) => rename(part, value),
              { row: index + 1, column: -1 },
              { row: index - 1, column: -1 },
            )
          ) : (
            <span className="part-name" title={part.name}>
              {part.name}
            </span>
          )}
          {marksOf(root, part, known).map(({ kind, says }) => (
            <span key={kind} className={`mark mark-${kind}`} role="img" aria-label={says} title={says} />
          ))}
          {pattern !== undefined && (row.copies > 1 || opened.has(pattern)) && (
            <button
              type="button"
              className="copies"
              tabIndex={-1}
              title={opened.has(pattern) ? 'Show and edit the copies as one' : 'Show each copy by itself'}
              onPointerDown={(event) => {
                event.stopPropagation();
              }}
              onClick={() => {
                toggle(pattern);
              }}
            >
              {opened.has(pattern) ? '÷' : `×${row.copies}`}
            </button>
          )}
        </div>
        {!hasNow && <NowCell id={part.id} />}
        {shown.map(({ kind, at: i }) => (
          <Fragment key={kind.key}>
            {cell(row, index, kind, i)}
            {kind.key === NOW_AFTER && <NowCell id={part.id} />}
          </Fragment>
        ))}
      </div>
    );
  };

  return (
    <section className="parts" aria-label="Parts list">
      <header className="panel-head">
        <LedgerTabs use={use} />
        <Holds use={use} />
        <input
          className="parts-filter"
          type="search"
          value={filter}
          placeholder={`Filter: a name, ${FILTER_WORDS.slice(0, 3).join(', ')} …`}
          aria-label="Filter the parts"
          title={`Words of a name, or: ${FILTER_WORDS.join(', ')}`}
          onChange={(e) => {
            setFilter(e.currentTarget.value);
          }}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === 'Escape') setFilter('');
          }}
        />
        <span>{filter === '' ? `${rows.length} rows` : `${rows.length} of ${all.length} rows`}</span>
        <ColumnChoice columns={columns} />
      </header>
      <div
        className="parts-grid"
        role="treegrid"
        style={{ '--columns': columns.template, '--row': `${columns.least}px` } as CSSProperties}
        aria-label="Parts and their rules"
        tabIndex={0}
        ref={grid}
        onKeyDown={keys}
      >
        <ListTitles columns={columns} nowAfter={NOW_AFTER} />
        <div className="parts-rows" role="rowgroup" style={{ height: list.getTotalSize() }}>
          {list.getVirtualItems().map(({ index, start }) => {
            const row = rows[index];
            return row && line(row, index, start);
          })}
        </div>
        {rows.length === 0 && (
          <p className="parts-none">
            No part answers to “{filter}”: type a piece of its name, or {FILTER_WORDS.join(', ')}.
          </p>
        )}
      </div>
    </section>
  );
});
