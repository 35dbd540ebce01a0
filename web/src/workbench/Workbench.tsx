import { Button, Tooltip } from 'antd';
import { useQuery } from '@tanstack/react-query';
import { memo, useEffect, useMemo, useState, type KeyboardEvent } from 'react';
import { useParams } from 'react-router';
import type { Drawing } from '@tinfold/core/drawing';
import { Engine, reflow as layOut } from '@tinfold/core/layout';
import { breakpoints, standing, type Structure } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { api, type ScreenDetail } from '../api/client';
import { facesOfStructure, loadMeasurer } from '../reading/fonts';
import { fileOf, openDrawings } from '../reading/reader';
import { Waiting, Trouble } from '../look/States';
import { Stages } from '../look/Stages';
import { TopBar } from '../look/TopBar';
import { nextEvent } from './events';
import { PartsList, Sizes } from './PartsList';
import { previewed } from './previewed';
import { QuestionLine } from './QuestionLine';
import { Rail } from './Rail';
import { RuleLine } from './RuleLine';
import { Sheets } from './Sheets';
import { createWorkbench, type WorkbenchStore } from './store';
import { useThrottled } from './throttled';

interface Opened {
  readonly screen: ScreenDetail;
  readonly structure: Structure;
  /** The drawings of the screen, their items called as in the structure. */
  readonly drawings: readonly Drawing[];
  readonly measurer: ShapedMeasurer;
}

async function open(id: string): Promise<Opened> {
  const screen = await api.screen(id);
  const { structure, fonts } = screen;
  if (!structure) throw new Error('This screen has no structure yet: import its drawing again.');
  const [measurer, drawings] = await Promise.all([
    loadMeasurer(facesOfStructure(structure, fonts), fonts),
    openDrawings(screen.drawings.map((d) => fileOf(d, fonts))).result,
  ]);
  return { screen, structure, drawings, measurer };
}

/** The drawing that is nearest to a frame width, in ratio. */
const nearest = (drawings: readonly Drawing[], width: number): Drawing | undefined =>
  drawings.toSorted((a, b) => Math.abs(Math.log(a.width / width)) - Math.abs(Math.log(b.width / width)))[0];

/** One width for all of a range between breakpoints, so that what depends on the range alone stays as it is. */
const rangeOf = (doc: Structure, width: number): number =>
  (breakpoints(doc).findLast((b) => width < b) ?? Number.MAX_SAFE_INTEGER) - 0.5;

/** How often the parts list follows a drag, ms. */
const LIST_MS = 160;

/** The workbench of one screen. */
export function WorkbenchPage() {
  const { screenId = '' } = useParams();
  const opened = useQuery({
    queryKey: ['screen', screenId],
    queryFn: () => open(screenId),
    staleTime: Infinity,
    gcTime: 0,
  });
  if (opened.isPending) return <Waiting what="Opening the screen" />;
  if (opened.isError) return <Trouble message={opened.error.message} retry={() => void opened.refetch()} />;
  return <Workbench key={screenId} {...opened.data} />;
}

function Workbench({ screen, structure, drawings, measurer }: Opened) {
  const [use] = useState(() => createWorkbench(screen.id, structure, screen.revision));
  const [engine] = useState(() => new Engine(measurer));
  const doc = use((s) => s.doc);
  const width = use((s) => s.frameWidth);
  const selected = use((s) => s.selected);
  const mode = use((s) => s.mode);
  const { select, setFrameWidth, setMode, undoEdit, redoEdit } = use.getState();
  const preview = use((s) => s.preview);
  const shown = useMemo(() => previewed(doc, preview), [doc, preview]);
  const root = useMemo(() => standing(shown, { width }), [shown, width]);
  const reflow = useMemo(() => layOut(root, width, engine), [root, width, engine]);
  // The sheet follows the hand; the list's numbers come a few times a second while it moves.
  const stands = useMemo(() => ({ root, reflow }), [root, reflow]);
  const listed = useThrottled(stands, LIST_MS);

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (use.getState().saving !== 'saved') event.preventDefault();
    };
    window.addEventListener('beforeunload', warn);
    return () => {
      window.removeEventListener('beforeunload', warn);
    };
  }, [use]);

  const keys = (event: KeyboardEvent) => {
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
    if ((event.target as Element).tagName === 'INPUT') return;
    if (event.shiftKey) redoEdit();
    else undoEdit();
    event.preventDefault();
  };
  return (
    <div className="page workbench" onKeyDown={keys}>
      <Bar use={use} screen={screen} />
      <Rail
        width={width}
        marks={[
          ...screen.drawings.map((d) => ({ width: d.width, label: `drawn ${d.width}` })),
          ...breakpoints(doc).map((b) => ({ width: b, label: `below ${b}` })),
        ]}
        nextEvent={(from, direction) => nextEvent(doc, engine, from, direction)}
        onChange={setFrameWidth}
      />
      <div className="workbench-main">
        <div className="workbench-left">
          <Sizes value={listed.reflow.parts}>
            <PartsList use={use} root={listed.root} width={rangeOf(doc, listed.reflow.width)} />
          </Sizes>
          <RuleLine use={use} asRead={screen.asRead} engine={engine} />
        </div>
        <Sheets
          root={root}
          reflow={reflow}
          drawing={nearest(drawings, width)}
          measurer={measurer}
          selected={selected}
          mode={mode}
          onSelect={select}
          onMode={setMode}
        />
      </div>
      <QuestionLine use={use} screen={screen} engine={engine} />
    </div>
  );
}

interface BarProps {
  readonly use: WorkbenchStore;
  readonly screen: ScreenDetail;
}

/** The bar above the workbench: it changes with edits, not with the frame's width. */
const Bar = memo(function Bar({ use, screen }: BarProps) {
  const saving = use((s) => s.saving);
  const revision = use((s) => s.revision);
  const undo = use((s) => s.undo);
  const redo = use((s) => s.redo);
  const { undoEdit, redoEdit } = use.getState();
  const said = { saved: 'saved', saving: 'saving …', waiting: 'waiting for the server' }[saving];
  return (
    <TopBar
      path={[{ label: screen.project.name, to: `/projects/${screen.project.id}` }, { label: screen.name }]}
      stages={<Stages screenId={screen.id} now="structure" />}
    >
      <HistoryButton word="Undo" next={undo.at(-1)?.label} onClick={undoEdit} />
      <HistoryButton word="Redo" next={redo.at(-1)?.label} onClick={redoEdit} />
      <span className={`saving saving-${saving}`} role="status">
        rev {revision} · {said}
      </span>
    </TopBar>
  );
});

interface HistoryButtonProps {
  readonly word: 'Undo' | 'Redo';
  /** What would be undone or done again; absent when there is nothing. */
  readonly next: string | undefined;
  readonly onClick: () => void;
}

function HistoryButton({ word, next, onClick }: HistoryButtonProps) {
  return (
    <Tooltip title={next === undefined ? `Nothing to ${word.toLowerCase()}` : `${word} ${next}`}>
      <Button size="small" type="text" className="bar-button" disabled={next === undefined} onClick={onClick}>
        {word}
      </Button>
    </Tooltip>
  );
}
