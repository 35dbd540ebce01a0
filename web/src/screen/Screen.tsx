import { Button, Popover, Tooltip } from 'antd';
import { useQuery } from '@tanstack/react-query';
import { memo, useEffect, useMemo, useState, type KeyboardEvent } from 'react';
import { Link, Outlet, useMatch, useOutletContext, useParams } from 'react-router';
import { dropBreakpoint, moveBreakpoint } from '@tinfold/core/edit';
import type { Drawing } from '@tinfold/core/drawing';
import { Engine } from '@tinfold/core/layout';
import { breakpoints, type Structure } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { api, type ScreenDetail } from '../api/client';
import { Stages, type Stage } from '../look/Stages';
import { Trouble, Waiting } from '../look/States';
import { TopBar } from '../look/TopBar';
import { createProof, openFaults, type ProofStore } from '../proof/proofStore';
import { facesOfStructure, loadMeasurer } from '../reading/fonts';
import { fileOf, openDrawings } from '../reading/reader';
import { take } from '../workbench/taken';
import { sendUnsent } from '../workbench/unsent';
import { createWorkbench, type WorkbenchStore } from '../workbench/store';
import { drawnMarks, turnMarks } from './markLabels';
import { nextOf } from './nextOf';
import { Rail } from './Rail';

interface Opened {
  readonly screen: ScreenDetail;
  readonly structure: Structure;
  /** The drawings of the screen, their items called as in the structure. */
  readonly drawings: readonly Drawing[];
  readonly measurer: ShapedMeasurer;
  /** About edits that were kept in this browser and no longer fit. */
  readonly refused: readonly string[];
}

/** What the stages of one opened screen share: the same part in hand, the same caliper, one proof. */
export interface OpenScreen extends Opened {
  readonly use: WorkbenchStore;
  readonly proof: ProofStore;
  readonly engine: Engine;
}

export const useScreen = (): OpenScreen => useOutletContext<OpenScreen>();

async function open(id: string): Promise<Opened> {
  const found = await api.screen(id);
  const { sent, refused } = await sendUnsent(id, found.revision);
  const screen = sent > 0 ? await api.screen(id) : found;
  const { structure, fonts } = screen;
  if (!structure) throw new Error('This screen has no structure yet: import its drawing again.');
  const [measurer, drawings] = await Promise.all([
    loadMeasurer(facesOfStructure(structure, fonts), fonts),
    openDrawings(screen.drawings.map((d) => fileOf(d, fonts))).result,
  ]);
  return { screen, structure, drawings, measurer, refused };
}

/** A screen whose structure is worked on and proved. */
export function ScreenPage() {
  const { screenId = '' } = useParams();
  const opened = useQuery({
    queryKey: ['screen', screenId],
    queryFn: () => open(screenId),
    staleTime: Infinity,
    gcTime: 0,
  });
  if (opened.isPending) return <Waiting what="Opening the screen" />;
  if (opened.isError) return <Trouble message={opened.error.message} retry={() => void opened.refetch()} />;
  return <OpenedScreen key={screenId} opened={opened.data} />;
}

/** After an edit the proof runs again once nothing has changed for so long, ms. */
const QUIET_MS = 400;

function OpenedScreen({ opened }: { readonly opened: Opened }) {
  const { screen, structure, drawings, measurer, refused } = opened;
  const [{ use, listen }] = useState(() => createWorkbench(screen.id, structure, screen.revision));
  useEffect(listen, [listen]);
  useEffect(() => {
    if (refused.length > 0) use.getState().refuse(refused.join(' '));
  }, [refused, use]);
  const [engine] = useState(() => new Engine(measurer));
  const [proof] = useState(() => createProof(screen, drawings));
  const { stage } = useMatch('/screens/:screenId/:stage')?.params ?? {};
  const { undoEdit, redoEdit } = use.getState();
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
  const context = useMemo(
    (): OpenScreen => ({ ...opened, use, proof, engine }),
    [opened, use, proof, engine],
  );
  return (
    <div className="page workbench" onKeyDown={keys}>
      <Bar use={use} screen={screen} stage={stage === 'proof' || stage === 'handoff' ? stage : 'structure'} />
      <Proving use={use} proof={proof} />
      <ScreenRail {...context} />
      <Outlet context={context} />
    </div>
  );
}

/** Keeps the proof in step with the edits. It shows nothing: what does is not drawn anew for it. */
function Proving({ use, proof }: Pick<OpenScreen, 'use' | 'proof'>) {
  const doc = use((s) => s.doc);
  const saving = use((s) => s.saving);
  const revision = use((s) => s.revision);
  const phase = proof((s) => s.phase);
  useEffect(() => {
    const timer = setTimeout(() => {
      proof.getState().prove(doc, use.getState().undo.at(-1)?.label);
    }, QUIET_MS);
    return () => {
      clearTimeout(timer);
    };
  }, [doc, proof, use]);
  // While the caliper or a handle is dragged, what is seen comes first.
  useEffect(
    () =>
      use.subscribe((now, before) => {
        if (now.frameWidth !== before.frameWidth || now.preview !== before.preview)
          proof.getState().makeRoom();
      }),
    [use, proof],
  );
  useEffect(
    () => () => {
      proof.getState().close();
    },
    [proof],
  );
  useEffect(() => {
    if (saving === 'saved' && phase === 'done') proof.getState().keep(revision);
  }, [saving, phase, revision, proof]);
  return null;
}

/** The rail of an opened screen: it alone follows the caliper at each frame, with what the stage shows. */
function ScreenRail({ screen, drawings, use, proof, engine }: OpenScreen) {
  const doc = use((s) => s.doc);
  const width = use((s) => s.frameWidth);
  const found = proof((s) => s.faults);
  const left = proof((s) => s.left);
  const events = proof((s) => s.events);
  const { setFrameWidth } = use.getState();
  const faults = useMemo(() => openFaults({ faults: found, left }), [found, left]);
  const turns = useMemo(() => breakpoints(doc), [doc]);
  const marks = useMemo(() => [...drawnMarks(screen.drawings), ...turnMarks(turns)], [screen, turns]);
  const nextEvent = (from: number, direction: 1 | -1) =>
    nextOf(
      [...marks.map((m) => m.width), ...events, ...faults.flatMap((f) => [f.from, f.to])],
      from,
      direction,
    );
  return (
    <Rail
      width={width}
      marks={marks}
      faults={faults}
      nextEvent={nextEvent}
      onChange={setFrameWidth}
      turns={turns}
      onTurn={(from, to) => {
        const bench = { engine, widths: drawings.map((d) => d.width) };
        take(use, to === undefined ? dropBreakpoint(doc, from, bench) : moveBreakpoint(doc, from, to, bench));
      }}
    />
  );
}

interface BarProps {
  readonly use: WorkbenchStore;
  readonly screen: ScreenDetail;
  readonly stage: Stage;
}

/** The bar above the stages. What changes with an edit are its small parts, each by itself. */
const Bar = memo(function Bar({ use, screen, stage }: BarProps) {
  return (
    <TopBar
      path={[{ label: screen.project.name, to: `/projects/${screen.project.id}` }, { label: screen.name }]}
      stages={<Stages screenId={screen.id} now={stage} />}
    >
      <HistoryButton use={use} word="Undo" />
      <HistoryButton use={use} word="Redo" />
      <EditsButton use={use} />
      <Saving use={use} screen={screen} />
    </TopBar>
  );
});

/** Whether all that was done is kept, and what it was before. */
function Saving({ use, screen }: Pick<BarProps, 'use' | 'screen'>) {
  const saving = use((s) => s.saving);
  const revision = use((s) => s.revision);
  const said = {
    saved: 'saved',
    saving: 'saving …',
    waiting: 'kept here until the server is back',
    'signed out': 'kept here until you sign in again',
  }[saving];
  return (
    <span className={`saving saving-${saving.replace(' ', '-')}`} role="status">
      <Link to={`/screens/${screen.id}/revisions`} title="What it was before: its revisions">
        rev {revision}
      </Link>{' '}
      · {said}
    </span>
  );
}

function EditsButton({ use }: Pick<BarProps, 'use'>) {
  const none = use((s) => s.undo.length + s.redo.length === 0);
  const [listed, setListed] = useState(false);
  return (
    <Popover
      trigger="click"
      placement="bottomRight"
      open={listed}
      onOpenChange={setListed}
      destroyOnHidden
      content={
        <Edits
          use={use}
          onDone={() => {
            setListed(false);
          }}
        />
      }
    >
      <Button size="small" type="text" className="bar-button" disabled={none} aria-haspopup="dialog">
        Edits
      </Button>
    </Popover>
  );
}

/** All edits since the screen was opened, those that are taken back too: each leads to where it was. */
function Edits({ use, onDone }: Pick<BarProps, 'use'> & { readonly onDone: () => void }) {
  const undo = use((s) => s.undo);
  const redo = use((s) => s.redo);
  const { goTo } = use.getState();
  const labels = [...undo, ...redo.toReversed()].map((e) => e.label);
  return (
    <ol className="edits" aria-label="Edits since the screen was opened">
      {['As it was opened', ...labels].map((label, n) => (
        <li key={n}>
          <button
            type="button"
            aria-current={n === undo.length}
            data-undone={n > undo.length}
            onClick={() => {
              goTo(n);
              onDone();
            }}
          >
            {label}
          </button>
        </li>
      ))}
    </ol>
  );
}

interface HistoryButtonProps extends Pick<BarProps, 'use'> {
  readonly word: 'Undo' | 'Redo';
}

function HistoryButton({ use, word }: HistoryButtonProps) {
  const next = use((s) => (word === 'Undo' ? s.undo : s.redo).at(-1)?.label);
  const { undoEdit, redoEdit } = use.getState();
  return (
    <Tooltip title={next === undefined ? `Nothing to ${word.toLowerCase()}` : `${word} ${next}`}>
      <Button
        size="small"
        type="text"
        className="bar-button"
        disabled={next === undefined}
        onClick={word === 'Undo' ? undoEdit : redoEdit}
      >
        {word}
      </Button>
    </Tooltip>
  );
}
