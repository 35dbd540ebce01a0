import { Segmented } from 'antd';
import type { EChartsCoreOption } from 'echarts/core';
import type { CustomSeriesRenderItem } from 'echarts/types/dist/shared';
import { useEffect, useMemo, useState } from 'react';
import { findPart, round } from '@tinfold/core/model';
import { KINDS, widthsOf, type Fault, type PartSeries, type Severity } from '@tinfold/core/proof';
import type { ProofRun } from '../api/client';
import { INKS, usePaper, type Inks } from '../look/paper';
import { useScreen } from '../screen/Screen';
import { useThrottled } from '../workbench/throttled';
import { Chart } from './Chart';
import { namesOf } from './words';

type View = 'kinds' | 'parts' | 'hand' | 'revisions';

const VIEWS: { value: View; label: string }[] = [
  { value: 'kinds', label: 'By kind' },
  { value: 'parts', label: 'By part' },
  { value: 'hand', label: 'Part in hand' },
  { value: 'revisions', label: 'Over revisions' },
];

/** How high a run stands in its row: the graver, the higher. */
const HEIGHTS: Readonly<Record<Severity, number>> = { error: 0.62, warning: 0.42, note: 0.2 };
const words = ({ ink }: Inks) => ({ fontFamily: 'Barlow', fontSize: 12, color: ink });
const numbers = ({ quiet }: Inks) => ({ fontFamily: 'Spline Sans Mono', fontSize: 11, color: quiet });
const tooltip = (inks: Inks) => ({
  textStyle: words(inks),
  backgroundColor: inks.ground,
  borderColor: inks.line,
});
/** A row of a heat strip is drawn no taller, px. */
const TALLEST = 36;
/** No more rows are in a heat strip. */
const MOST_ROWS = 9;

interface Row {
  readonly name: string;
  readonly faults: readonly Fault[];
}

/** Faults by what they are or where they show, the rows with the gravest first. */
function rowsOf(faults: readonly Fault[], nameOf: (f: Fault) => string): Row[] {
  const rows = new Map<string, Fault[]>();
  for (const fault of faults) {
    const name = nameOf(fault);
    rows.set(name, [...(rows.get(name) ?? []), fault]);
  }
  return [...rows].map(([name, own]) => ({ name, faults: own })).slice(0, MOST_ROWS);
}

const caliperLine = (width: number, { copper }: Inks) => ({
  silent: true,
  symbol: 'none',
  label: { show: false },
  lineStyle: { color: copper, width: 2, type: 'solid' as const },
  data: [{ xAxis: width }],
});

const xAxis = (range: { from: number; to: number }, inks: Inks) => ({
  type: 'value' as const,
  min: range.from,
  max: range.to,
  interval: 320,
  axisLabel: { ...numbers(inks), formatter: String },
  axisLine: { lineStyle: { color: inks.ink } },
  axisTick: { show: true },
  splitLine: { show: false },
});

/** Faults by frame width, a strip for each row. */
function stripOption(
  rows: readonly Row[],
  range: { from: number; to: number },
  width: number,
  inks: Inks,
): EChartsCoreOption {
  const data = rows.flatMap((row, y) =>
    row.faults.flatMap((f) => f.runs.map((r) => ({ value: [r.from, r.to + 1, y], severity: f.severity }))),
  );
  const renderItem: CustomSeriesRenderItem = (params, api) => {
    const item = data[params.dataIndex];
    const [from = 0, to = 0, y = 0] = item?.value ?? [];
    const severity = item?.severity ?? 'note';
    const [a = 0, middle = 0] = api.coord([from, y]);
    const [b = 0] = api.coord([to, y]);
    const rowHeight = (api.size?.([0, 1]) as [number, number] | undefined)?.[1] ?? 20;
    const height = Math.min(rowHeight, TALLEST) * HEIGHTS[severity];
    return {
      type: 'rect',
      shape: { x: a, y: middle - height / 2, width: Math.max(1.5, b - a), height },
      style: { fill: inks[severity] },
    };
  };
  return {
    animation: false,
    grid: { left: 170, right: 18, top: 8, bottom: 26 },
    tooltip: {
      trigger: 'item',
      ...tooltip(inks),
      formatter: ({ value }: { value: number[] }) =>
        `${rows[value[2] ?? 0]?.name ?? ''}: ${widthsOf({ from: value[0] ?? 0, to: (value[1] ?? 1) - 1 })}`,
    },
    xAxis: xAxis(range, inks),
    yAxis: {
      type: 'category',
      inverse: true,
      data: rows.map((r) => r.name),
      axisLabel: { ...words(inks), width: 154, overflow: 'truncate' },
      axisLine: { show: false },
      axisTick: { show: false },
      splitArea: { show: true, areaStyle: { color: [...inks.stripes] } },
    },
    series: [
      { type: 'custom', renderItem, data, encode: { x: [0, 1], y: 2 }, markLine: caliperLine(width, inks) },
    ],
  };
}

const line = (
  name: string,
  data: number[][],
  colour: string,
  type: 'solid' | 'dashed' | 'dotted',
  inks: Inks,
) => ({
  name,
  type: 'line' as const,
  data,
  showSymbol: false,
  endLabel: { show: true, formatter: name, ...words(inks) },
  lineStyle: { color: colour, width: 1.8, type },
  itemStyle: { color: colour },
});

/** A part's width, height and gaps against the frame's width, with its limits. */
function handOption(
  series: PartSeries,
  limits: readonly { readonly name: string; readonly px: number }[],
  events: readonly number[],
  range: { from: number; to: number },
  width: number,
  inks: Inks,
): EChartsCoreOption {
  const at = (value: (p: PartSeries['points'][number]) => number) =>
    series.points.map((p) => [p.frame, round(value(p), 1)]);
  const gaps = series.points.some((p) => p.gaps.length > 0)
    ? [
        line(
          'gap',
          at((p) => Math.max(0, ...p.gaps)),
          inks.sea,
          'dotted',
          inks,
        ),
      ]
    : [];
  return {
    animation: false,
    grid: { left: 52, right: 62, top: 14, bottom: 26 },
    tooltip: { trigger: 'axis', ...tooltip(inks), axisPointer: { type: 'line' } },
    xAxis: xAxis(range, inks),
    yAxis: { type: 'value', axisLabel: numbers(inks), splitLine: { lineStyle: { color: inks.faint } } },
    series: [
      {
        ...line(
          'width',
          at((p) => p.width),
          inks.copper,
          'solid',
          inks,
        ),
        markLine: {
          silent: true,
          symbol: 'none',
          data: [
            ...limits.map((l) => ({
              yAxis: l.px,
              lineStyle: { color: inks.ink, type: 'dashed' as const },
              label: {
                show: true,
                position: 'insideEndTop' as const,
                formatter: `${l.name} ${l.px}`,
                ...numbers(inks),
              },
            })),
            ...events.map((e) => ({
              xAxis: e,
              lineStyle: { color: inks.line, type: 'solid' as const, width: 1 },
              label: { show: false },
            })),
            {
              xAxis: width,
              lineStyle: { color: inks.copper, width: 2, type: 'solid' as const },
              label: { show: false },
            },
          ],
        },
      },
      line(
        'height',
        at((p) => p.height),
        inks.ink,
        'dashed',
        inks,
      ),
      ...gaps,
    ],
  };
}

function revisionsOption(runs: readonly ProofRun[], inks: Inks): EChartsCoreOption {
  const of = (value: (r: ProofRun) => number) => runs.map((r) => [r.revision, value(r)]);
  return {
    animation: false,
    grid: { left: 40, right: 70, top: 14, bottom: 26 },
    tooltip: { trigger: 'axis', ...tooltip(inks) },
    xAxis: {
      type: 'value',
      minInterval: 1,
      min: 'dataMin',
      max: 'dataMax',
      axisLabel: { ...numbers(inks), formatter: 'rev {value}' },
      splitLine: { show: false },
    },
    yAxis: {
      type: 'value',
      minInterval: 1,
      axisLabel: numbers(inks),
      splitLine: { lineStyle: { color: inks.faint } },
    },
    series: [
      {
        ...line(
          'errors',
          of((r) => r.errors),
          inks.error,
          'solid',
          inks,
        ),
        step: 'end',
        showSymbol: true,
      },
      {
        ...line(
          'warnings',
          of((r) => r.warnings),
          inks.warning,
          'dashed',
          inks,
        ),
        step: 'end',
        showSymbol: true,
      },
    ],
  };
}

/** How often the charts follow a drag of the caliper, ms. */
const CALIPER_MS = 60;

/** What people would rather look at than read; each with a table for those who do not see it. */
export function Charts({ faults }: { readonly faults: readonly Fault[] }) {
  const { use, proof } = useScreen();
  const doc = use((s) => s.doc);
  const width = useThrottled(
    use((s) => s.frameWidth),
    CALIPER_MS,
  );
  const selected = use((s) => s.selected);
  const range = proof((s) => s.range);
  const events = proof((s) => s.events);
  const runs = proof((s) => s.runs);
  const [view, setView] = useState<View>('kinds');
  const [asTable, setAsTable] = useState(false);
  const part = findPart(doc.root, selected ?? doc.root.id) ?? doc.root;
  const series = useSeries(view === 'hand', part.id);
  const rows = useMemo(() => {
    const nameOf = namesOf(doc);
    return rowsOf(faults, (f) => (view === 'parts' ? nameOf(f.parts[0] ?? '') : KINDS[f.kind].label));
  }, [doc, faults, view]);
  const limits = useMemo(() => {
    const { minWidth, maxWidth } = part.rules;
    return [
      ...(typeof minWidth === 'number' ? [{ name: 'min', px: minWidth }] : []),
      ...(typeof maxWidth === 'number' ? [{ name: 'max', px: maxWidth }] : []),
    ];
  }, [part]);
  const inks = INKS[usePaper((s) => s.paper)];
  const option = useMemo(() => {
    if (view === 'hand') return handOption(series, limits, events, range, width, inks);
    return view === 'revisions' ? revisionsOption(runs, inks) : stripOption(rows, range, width, inks);
  }, [view, series, limits, events, range, width, runs, rows, inks]);
  const title = {
    kinds: 'Faults by width',
    parts: 'Faults by width',
    hand: `“${part.name}” against the frame`,
    revisions: 'Faults over revisions',
  }[view];
  const isEmpty = view === 'revisions' ? runs.length === 0 : view !== 'hand' && rows.length === 0;
  return (
    <section className="panel charts" aria-label="Charts">
      <header className="panel-head">
        <b>{title}</b>
        <div className="charts-head">
          <Segmented size="small" value={view} options={VIEWS} onChange={setView} aria-label="Which chart" />
          <button
            type="button"
            className="charts-table-switch"
            aria-pressed={asTable}
            onClick={() => {
              setAsTable(!asTable);
            }}
          >
            Table
          </button>
        </div>
      </header>
      {isEmpty ? (
        <p className="panel-hint">
          {view === 'revisions' ? 'No run of the proof has been kept yet.' : 'No faults to show.'}
        </p>
      ) : asTable ? (
        <ChartTable view={view} rows={rows} series={series} runs={runs} />
      ) : (
        <Chart
          option={option}
          label={`${title}, ${range.from} to ${range.to}`}
          {...(view !== 'revisions' && { onWidth: use.getState().setFrameWidth })}
        />
      )}
    </section>
  );
}

const NO_SERIES: PartSeries = { points: [] };

function useSeries(wanted: boolean, part: string): PartSeries {
  const { use, proof } = useScreen();
  const doc = use((s) => s.doc);
  const phase = proof((s) => s.phase);
  const [series, setSeries] = useState<PartSeries>(NO_SERIES);
  useEffect(() => {
    if (!wanted || phase !== 'done') return undefined;
    let current = true;
    proof
      .getState()
      .series(part)
      .then(
        (found) => {
          if (current) setSeries(found);
        },
        () => undefined,
      );
    return () => {
      current = false;
    };
  }, [wanted, part, doc, phase, proof]);
  return series;
}

interface ChartTableProps {
  readonly view: View;
  readonly rows: readonly Row[];
  readonly series: PartSeries;
  readonly runs: readonly ProofRun[];
}

/** A row of the table of a part's size stands for no less than this, frame px. */
const TABLE_STEP = 80;

function ChartTable({ view, rows, series, runs }: ChartTableProps) {
  const [heads, body] = tableOf(view, rows, series, runs);
  return (
    <div className="chart-table" tabIndex={0}>
      <table>
        <thead>
          <tr>
            {heads.map((h) => (
              <th key={h} scope="col">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {body.map((row, i) => (
            <tr key={i}>
              {row.map((cell, k) => (
                <td key={k}>{cell}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function tableOf(
  view: View,
  rows: readonly Row[],
  series: PartSeries,
  runs: readonly ProofRun[],
): [readonly string[], readonly (readonly (string | number)[])[]] {
  if (view === 'revisions')
    return [
      ['Revision', 'Errors', 'Warnings', 'Notes'],
      runs.map((r) => [r.revision, r.errors, r.warnings, r.notes]),
    ];
  if (view === 'hand') {
    let last = -Infinity;
    const kept = series.points.filter((p) => p.frame - last >= TABLE_STEP && ((last = p.frame), true));
    return [
      ['Frame', 'Width', 'Height', 'Gaps'],
      kept.map((p) => [
        p.frame,
        round(p.width, 1),
        round(p.height, 1),
        p.gaps.map((g) => round(g, 1)).join(', '),
      ]),
    ];
  }
  return [
    ['', 'Severity', 'Widths'],
    rows.flatMap((row) =>
      row.faults.map((f) => [row.name, f.severity, f.runs.map((r) => widthsOf(r)).join(', ')]),
    ),
  ];
}
