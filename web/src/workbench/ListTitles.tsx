import { Checkbox, Popover } from 'antd';
import { Fragment, type PointerEvent } from 'react';
import { CELLS } from './cells';
import type { ListColumns } from './useColumns';

interface ListTitlesProps {
  readonly columns: ListColumns;
  readonly nowAfter: string;
}

/** The head of the parts list; each title's right edge is dragged to widen its column. */
export function ListTitles({ columns, nowAfter }: ListTitlesProps) {
  const hasNow = columns.shown.some(({ kind }) => kind.key === nowAfter);
  const now = (
    <div className="cell cell-now" role="columnheader">
      Now
    </div>
  );
  return (
    <div className="parts-row parts-titles" role="row">
      <div className="cell cell-no" role="columnheader" aria-label="Number" />
      <div className="cell cell-name" role="columnheader">
        Part
        <Edge name="name" columns={columns} />
      </div>
      {!hasNow && now}
      {columns.shown.map(({ kind }) => (
        <Fragment key={kind.key}>
          <div className={`cell cell-${kind.key}`} role="columnheader" title={kind.label}>
            {kind.title}
            <Edge name={kind.key} columns={columns} />
          </div>
          {kind.key === nowAfter && now}
        </Fragment>
      ))}
    </div>
  );
}

function Edge({ name, columns }: { readonly name: string; readonly columns: ListColumns }) {
  const press = (event: PointerEvent<HTMLElement>) => {
    event.stopPropagation();
    const start = event.clientX;
    const from = columns.widthOf(name);
    const edge = event.currentTarget;
    edge.setPointerCapture(event.pointerId);
    const move = (e: globalThis.PointerEvent) => {
      columns.setWidth(name, from + e.clientX - start);
    };
    edge.addEventListener('pointermove', move);
    edge.addEventListener(
      'lostpointercapture',
      () => {
        edge.removeEventListener('pointermove', move);
      },
      { once: true },
    );
  };
  return <i className="column-edge" data-edge={name} onPointerDown={press} />;
}

/** Chooses the columns of the parts list. */
export function ColumnChoice({ columns }: Pick<ListTitlesProps, 'columns'>) {
  return (
    <Popover
      trigger="click"
      placement="bottomRight"
      destroyOnHidden
      content={
        <div className="column-choice" role="group" aria-label="Columns of the parts list">
          {CELLS.map((kind) => (
            <Checkbox
              key={kind.key}
              checked={columns.isShown(kind)}
              onChange={(e) => {
                columns.show(kind, e.target.checked);
              }}
            >
              {kind.title} <span>{kind.label}</span>
            </Checkbox>
          ))}
        </div>
      }
    >
      <button type="button" className="column-button" aria-haspopup="dialog">
        Columns
      </button>
    </Popover>
  );
}
