import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Button } from 'antd';
import { useRef, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import {
  facesOfRuns,
  factsOf,
  gridOf,
  NO_DECISIONS,
  type CleanUpKind,
  type Drawing,
  type DrawingDecisions,
  type Note,
} from '@tinfold/core/drawing';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { api, type ScreenDetail } from '../api/client';
import { Stages } from '../look/Stages';
import { Trouble, Waiting } from '../look/States';
import { TopBar } from '../look/TopBar';
import { loadMeasurer } from '../reading/fonts';
import { Cancelled, openDrawing, startReading, type Job } from '../reading/reader';
import type { ReadResult } from '../reading/reading.worker';
import { STAGES } from '../reading/stages';
import { ItemSheet } from './ItemSheet';

type Source = ScreenDetail['drawings'][number];

interface Shown {
  readonly drawing: Drawing;
  readonly measurer: ShapedMeasurer;
}

async function show(source: Source, decisions: DrawingDecisions): Promise<Shown> {
  const drawing = await openDrawing(source.source, source.name, decisions).result;
  const runs = drawing.items.flatMap((i) => (i.kind === 'text' ? i.content.runs : []));
  return { drawing, measurer: await loadMeasurer(facesOfRuns(runs)) };
}

/** The Drawing stage: what was read, what was cleaned up, what needs a look. */
export function DrawingPage() {
  const { screenId = '' } = useParams();
  const screen = useQuery({
    queryKey: ['screen-detail', screenId],
    queryFn: () => api.screen(screenId),
    gcTime: 0,
  });
  if (screen.isPending) return <Waiting what="Opening the drawing" />;
  if (screen.isError) return <Trouble message={screen.error.message} retry={() => void screen.refetch()} />;
  const [source] = screen.data.drawings;
  if (!source) return <Trouble message="This screen has no drawing: import one on the project's page." />;
  return <DrawingStage key={source.id} screen={screen.data} source={source} />;
}

const toggled = <T,>(list: readonly T[], value: T): T[] =>
  list.includes(value) ? list.filter((v) => v !== value) : [...list, value];

function DrawingStage({ screen, source }: { readonly screen: ScreenDetail; readonly source: Source }) {
  const [decisions, setDecisions] = useState(source.decisions ?? NO_DECISIONS);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const shown = useQuery({
    queryKey: ['drawing', source.id, decisions],
    queryFn: () => show(source, decisions),
    placeholderData: (before) => before,
    gcTime: 0,
  });
  const changed = JSON.stringify(decisions) !== JSON.stringify(source.decisions ?? NO_DECISIONS);
  if (shown.isPending) return <Waiting what="Reading the file" />;
  if (shown.isError) return <Trouble message={shown.error.message} />;
  const { drawing, measurer } = shown.data;
  const grid = gridOf(drawing);
  const [only] = chosen;
  return (
    <div className="page">
      <TopBar
        path={[{ label: screen.project.name, to: `/projects/${screen.project.id}` }, { label: screen.name }]}
        stages={<Stages screenId={screen.id} now="drawing" />}
      >
        <span className="saving" role="status">
          rev {screen.revision}
          {changed ? ' · not read yet' : ''}
        </span>
      </TopBar>
      <div className="drawing-main">
        <section className="drawing-sheet" aria-label="The drawing and its items">
          <header>
            <b>{source.name}</b> {drawing.width} × {drawing.height} · {drawing.items.length} items
            <p>
              Follows a step of {grid.step} ({Math.round(grid.stepFit * 100)} %), margin {grid.margin} (
              {Math.round(grid.marginFit * 100)} %)
            </p>
          </header>
          <ItemSheet
            drawing={drawing}
            measurer={measurer}
            margin={grid.margin}
            chosen={chosen}
            onChoose={setChosen}
          />
          <Legend />
        </section>
        <aside className="drawing-side">
          <Facts drawing={drawing} />
          <Notes
            notes={drawing.notes}
            decisions={decisions}
            chosen={chosen}
            onShow={setChosen}
            onTakeBack={(kind) => {
              setDecisions((d) => ({ ...d, keepKinds: toggled(d.keepKinds, kind) }));
            }}
            onRestore={(id) => {
              setDecisions((d) => ({ ...d, ignore: d.ignore.filter((i) => i !== id) }));
            }}
          />
          <footer className="drawing-foot">
            {only !== undefined && drawing.items.some((i) => i.id === only) && (
              <Button
                onClick={() => {
                  setDecisions((d) => ({ ...d, ignore: [...d.ignore, ...chosen] }));
                  setChosen([]);
                }}
              >
                Leave {chosen.length > 1 ? `these ${chosen.length}` : `“${only}”`} out
              </Button>
            )}
            <ReadAgain screen={screen} source={source} decisions={decisions} changed={changed} />
          </footer>
        </aside>
      </div>
    </div>
  );
}

function Facts({ drawing }: { readonly drawing: Drawing }) {
  const f = factsOf(drawing);
  const rows: [number, string][] = [
    [
      f.texts,
      `${f.texts === 1 ? 'text' : 'texts'}, in ${f.typeStyles} type ${f.typeStyles === 1 ? 'style' : 'styles'}`,
    ],
    [f.boxes, `${f.boxes === 1 ? 'box' : 'boxes'}, of which ${f.holders} hold others`],
    [f.icons, f.icons === 1 ? 'icon or other vector art' : 'icons and other vector art'],
    [f.pictures, f.pictures === 1 ? 'picture' : 'pictures'],
  ];
  return (
    <>
      <header className="panel-head">
        <b>What was read</b>
        <span>{drawing.items.length} items</span>
      </header>
      <ul className="facts">
        {rows.map(([count, words]) => (
          <li key={words}>
            <b>{count}</b> {words}
          </li>
        ))}
      </ul>
    </>
  );
}

interface NotesProps {
  readonly notes: readonly Note[];
  readonly decisions: DrawingDecisions;
  readonly chosen: readonly string[];
  readonly onShow: (items: readonly string[]) => void;
  readonly onTakeBack: (kind: CleanUpKind) => void;
  readonly onRestore: (id: string) => void;
}

function Notes({ notes, decisions, onShow, onTakeBack, onRestore }: NotesProps) {
  const cleaned = notes.filter((n) => n.cleanUp !== undefined);
  const look = notes.filter((n) => n.kind === 'fell back' || n.kind === 'not understood');
  const nothing = cleaned.length + decisions.keepKinds.length + decisions.ignore.length === 0;
  return (
    <>
      <header className="panel-head">
        <b>Cleaned up</b>
        <span>
          {cleaned.length === 0
            ? 'nothing'
            : `${cleaned.length} ${cleaned.length === 1 ? 'thing' : 'things'}`}
        </span>
      </header>
      <ul className="facts">
        {nothing && <li className="facts-none">The file was clean: nothing was left out or put together.</li>}
        {cleaned.map(({ text, items, cleanUp }) => (
          <li key={text}>
            <b>{items.length}</b>
            <button
              type="button"
              className="link-button facts-words"
              onClick={() => {
                onShow(items);
              }}
            >
              {text}
            </button>
            <button
              type="button"
              className="link-button"
              onClick={() => {
                if (cleanUp) onTakeBack(cleanUp);
              }}
            >
              take back
            </button>
          </li>
        ))}
        {decisions.keepKinds.map((kind) => (
          <li key={kind} className="facts-kept">
            <b>–</b>
            <span className="facts-words">“{kind}” taken back for all</span>
            <button
              type="button"
              className="link-button"
              onClick={() => {
                onTakeBack(kind);
              }}
            >
              do it after all
            </button>
          </li>
        ))}
        {decisions.ignore.map((id) => (
          <li key={id} className="facts-kept">
            <b>1</b>
            <span className="facts-words">“{id}” left out by you</span>
            <button
              type="button"
              className="link-button"
              onClick={() => {
                onRestore(id);
              }}
            >
              bring back
            </button>
          </li>
        ))}
      </ul>
      <header className="panel-head">
        <b>Needs a look</b>
        <span>{look.length}</span>
      </header>
      <ul className="looks">
        {look.length === 0 && <li className="looks-none">Everything in the file was understood.</li>}
        {look.map(({ text, items, kind }) => (
          <li key={text} className={kind === 'fell back' ? 'look look-fell' : 'look look-lost'}>
            <p>{text}</p>
            <span>
              {kind === 'fell back' ? 'fell back' : 'not understood'}
              {items.length > 0 ? ` · ${items.length} ${items.length === 1 ? 'place' : 'places'}` : ''}
            </span>
            {items.length > 0 && (
              <Button
                size="small"
                onClick={() => {
                  onShow(items);
                }}
              >
                Show
              </Button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

interface ReadAgainProps {
  readonly screen: ScreenDetail;
  readonly source: Source;
  readonly decisions: DrawingDecisions;
  readonly changed: boolean;
}

/** The button that reads the structure again, with its progress. */
function ReadAgain({ screen, source, decisions, changed }: ReadAgainProps) {
  const [said, setSaid] = useState<string>();
  const [reason, setReason] = useState<string>();
  const job = useRef<Job<ReadResult>>(undefined);
  const client = useQueryClient();
  const navigate = useNavigate();
  const read = async () => {
    setReason(undefined);
    setSaid(STAGES.opening);
    try {
      job.current = startReading(source.source, screen.name, decisions, ({ stage }) => {
        setSaid(STAGES[stage]);
      });
      const result = await job.current.result;
      if (!result.ok) throw new Error(result.reason);
      setSaid(STAGES.saving);
      await api.writeStructure(screen.id, screen.revision, result.structure, source.id, decisions);
      await client.invalidateQueries();
      await navigate(`/screens/${screen.id}`);
    } catch (error) {
      if (!(error instanceof Cancelled))
        setReason(error instanceof Error ? error.message : 'The reading broke off.');
      setSaid(undefined);
    }
  };
  return (
    <>
      {reason !== undefined && (
        <p className="refusal" role="alert">
          {reason}
        </p>
      )}
      <div className="read-again">
        <Button type="primary" disabled={said !== undefined} onClick={() => void read()}>
          Read the structure again
        </Button>
        {said === undefined ? (
          <span>
            {changed ? 'with what you changed here' : 'makes it anew from the drawing; edits are replaced'}
          </span>
        ) : (
          <>
            <span role="status">{said} …</span>
            <Button size="small" onClick={() => job.current?.cancel()}>
              Stop
            </Button>
          </>
        )}
      </div>
    </>
  );
}

const LEGEND = [
  ['shape', 'box'],
  ['text', 'text'],
  ['art', 'icon'],
  ['picture', 'picture'],
  ['chosen', 'chosen'],
] as const;

function Legend() {
  return (
    <ul className="legend" aria-label="Legend">
      {LEGEND.map(([key, label]) => (
        <li key={key}>
          <i className={`key key-${key}`} /> {label}
        </li>
      ))}
    </ul>
  );
}
