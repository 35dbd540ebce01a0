import { Button, Input, Select } from 'antd';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { changesSince } from '@tinfold/core/handoff';
import { Engine, reflow } from '@tinfold/core/layout';
import { breakpoints, standing, type Structure } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { api, type Revision, type ScreenDetail } from '../api/client';
import { Changes } from '../handoff/Changes';
import { Stages } from '../look/Stages';
import { Trouble, Waiting } from '../look/States';
import { TopBar } from '../look/TopBar';
import { facesOfStructure, loadMeasurer } from '../reading/fonts';
import { drawnMarks } from '../screen/markLabels';
import { Rail } from '../screen/Rail';
import { OwnFamilies, ReflowPaint } from '../workbench/Paint';
import { useRoom } from '../workbench/room';
import { clampFrame } from '../workbench/store';

/** What a screen was before: one of its revisions beside what it is now, and what is otherwise. */
export function RevisionsPage() {
  const { screenId = '' } = useParams();
  const screen = useQuery({
    queryKey: ['screen-detail', screenId],
    queryFn: () => api.screen(screenId),
    gcTime: 0,
  });
  const list = useQuery({
    queryKey: ['revisions', screenId],
    queryFn: () => api.revisions(screenId),
    gcTime: 0,
  });
  const failed = screen.error ?? list.error;
  if (failed) return <Trouble message={failed.message} retry={() => void screen.refetch()} />;
  if (!screen.data || !list.data) return <Waiting what="Opening the revisions" />;
  const { structure } = screen.data;
  if (!structure) return <Trouble message="This screen has no structure yet: import its drawing again." />;
  return (
    <Compared screen={screen.data} now={structure} revisions={list.data.revisions} more={list.data.more} />
  );
}

interface ComparedProps {
  readonly screen: ScreenDetail;
  readonly now: Structure;
  readonly revisions: readonly Revision[];
  /** Whether there are older ones than are listed. */
  readonly more: boolean;
}

/** Two structures of a screen, with what lays them out. */
interface Laid {
  readonly then: Structure;
  readonly other: Structure;
  /** The revision that the other one is of; undefined for how the screen is now. */
  readonly against: number | undefined;
  readonly measurer: ShapedMeasurer;
}

/** Stands for no revision, in the choice of what to compare with. */
const NOW = -1;

const day = new Intl.DateTimeFormat('en', { dateStyle: 'medium' });
const hour = new Intl.DateTimeFormat('en', { timeStyle: 'short' });

function Compared({ screen, now, revisions, more }: ComparedProps) {
  const [chosen, setChosen] = useState(revisions[1]?.revision ?? revisions[0]?.revision ?? 0);
  /** What it is compared with: another revision, or how the screen is now. */
  const [against, setAgainst] = useState<number>();
  const [width, setWidth] = useState(clampFrame(now.drawn.width));
  const [older, setOlder] = useState<readonly Revision[]>([]);
  const [rest, setRest] = useState(more);
  const shown = useQuery({
    queryKey: ['revision', screen.id, chosen, against],
    queryFn: async () => {
      const [then, other] = await Promise.all([
        api.revision(screen.id, chosen),
        against === undefined ? { structure: now } : api.revision(screen.id, against),
      ]);
      const measurer = await loadMeasurer(
        [then, other].flatMap(({ structure }) => facesOfStructure(structure, screen.fonts)),
        screen.fonts,
      );
      return { then: then.structure, other: other.structure, against, measurer };
    },
    placeholderData: (before: Laid | undefined) => before,
    retry: false,
  });
  const pair = shown.data;
  const changes = useMemo(() => (pair ? changesSince(pair.then, pair.other) : []), [pair]);
  const otherName = pair?.against === undefined ? 'Now' : `Rev ${pair.against}`;
  const marks = useMemo(() => drawnMarks(screen.drawings), [screen]);
  const turns = useMemo(() => breakpoints(now), [now]);
  const all = [...revisions, ...older];
  const earlier = useMutation({
    mutationFn: () => api.revisions(screen.id, all.at(-1)?.revision),
    onSuccess: (found) => {
      setOlder([...older, ...found.revisions]);
      setRest(found.more);
    },
  });
  return (
    <div className="page">
      <TopBar
        path={[
          { label: screen.project.name, to: `/projects/${screen.project.id}` },
          { label: screen.name, to: `/screens/${screen.id}` },
          { label: 'Revisions' },
        ]}
        stages={<Stages screenId={screen.id} now={undefined} />}
      />
      <Rail
        width={width}
        marks={marks}
        faults={[]}
        nextEvent={(from, direction) =>
          [...turns, ...marks.map((m) => m.width)]
            .filter((w) => (w - from) * direction > 0)
            .sort((a, b) => (a - b) * direction)[0] ?? from
        }
        onChange={setWidth}
        turns={[]}
        onTurn={() => undefined}
      />
      <main className="revisions">
        <h1 className="unseen">Revisions of {screen.name}</h1>
        <ol className="revisions-list" aria-label="Revisions, the newest first">
          {all.map((r, i) => {
            const made = new Date(r.createdAt);
            const isFirst = i === 0 || day.format(new Date(all[i - 1]?.createdAt ?? '')) !== day.format(made);
            return (
              <li key={r.revision}>
                {isFirst && <h2>{day.format(made)}</h2>}
                <button
                  type="button"
                  aria-current={r.revision === chosen}
                  onClick={() => {
                    setChosen(r.revision);
                    if (against === r.revision) setAgainst(undefined);
                  }}
                >
                  <span className="revision-number">{r.revision}</span>
                  <span className="revision-words">
                    {r.name !== null && <b>{r.name}</b>}
                    {r.label}
                  </span>
                  <span className="revision-when">
                    {hour.format(made)}
                    {r.proved && <i>proved</i>}
                    {r.handedOver && <i>handed over</i>}
                  </span>
                </button>
              </li>
            );
          })}
          {rest && (
            <li>
              <Button
                size="small"
                loading={earlier.isPending}
                onClick={() => {
                  earlier.mutate();
                }}
              >
                Earlier ones
              </Button>
            </li>
          )}
        </ol>
        <div className="revisions-sheets">
          {pair ? (
            <>
              <Sheet title={`Rev ${chosen}`} structure={pair.then} width={width} measurer={pair.measurer} />
              <Sheet title={otherName} structure={pair.other} width={width} measurer={pair.measurer} />
            </>
          ) : shown.isError ? (
            <p role="alert">{shown.error.message}</p>
          ) : (
            <p role="status">Opening revision {chosen} …</p>
          )}
        </div>
        <section className="revisions-changes" aria-label={`What is otherwise than at revision ${chosen}`}>
          <div className="revision-kept">
            <Kept
              screen={screen}
              revision={all.find((r) => r.revision === chosen)}
              current={screen.revision}
            />
            <label className="revision-against">
              Compared with
              <Select
                size="small"
                aria-label="Compared with"
                value={against ?? NOW}
                onChange={(value: number) => {
                  setAgainst(value === NOW ? undefined : value);
                }}
                options={[
                  { value: NOW, label: 'how it is now' },
                  ...all
                    .filter((r) => r.revision !== chosen)
                    .map((r) => ({
                      value: r.revision,
                      label: `rev ${r.revision}${r.name === null ? '' : `, ${r.name}`}`,
                    })),
                ]}
              />
            </label>
          </div>
          <h2>{against === undefined ? 'Otherwise now' : `Otherwise at rev ${against}`}</h2>
          {changes.length === 0 ? (
            <p className="handoff-empty">Nothing: it stands as it did.</p>
          ) : (
            <Changes changes={changes} />
          )}
        </section>
      </main>
    </div>
  );
}

interface SheetProps {
  readonly title: string;
  readonly structure: Structure;
  readonly measurer: ShapedMeasurer;
  readonly width: number;
}

function Sheet({ title, structure, width, measurer }: SheetProps) {
  const [ref, room] = useRoom();
  // One engine for all widths: it keeps what did not change.
  const engine = useMemo(() => new Engine(measurer), [measurer]);
  const { root, laid } = useMemo(() => {
    const tree = standing(structure, { width });
    return { root: tree, laid: reflow(tree, width, engine, structure.drawn.height) };
  }, [structure, width, engine]);
  const scale = Math.min(1, room.width / width);
  return (
    <figure ref={ref} aria-label={`${title} at ${width}`}>
      <figcaption>
        <b>{title}</b> {width} × {Math.round(laid.height)}
      </figcaption>
      <div className="revision-paper" style={{ width: width * scale, height: laid.height * scale }}>
        <div style={{ width, height: laid.height, transform: `scale(${scale})` }}>
          <OwnFamilies value={measurer.own}>
            <ReflowPaint root={root} reflow={laid} />
          </OwnFamilies>
        </div>
      </div>
    </figure>
  );
}

interface KeptProps {
  readonly screen: ScreenDetail;
  readonly revision: Revision | undefined;
  readonly current: number;
}

/** The name of a revision, and what puts it in place again. */
function Kept({ screen, revision, current }: KeptProps) {
  const client = useQueryClient();
  const go = useNavigate();
  const naming = useMutation({
    mutationFn: (name: string) => api.nameRevision(screen.id, revision?.revision ?? 0, name),
    onSuccess: () => client.invalidateQueries({ queryKey: ['revisions', screen.id] }),
  });
  const restoring = useMutation({
    mutationFn: () => api.restoreRevision(screen.id, revision?.revision ?? 0, current),
    onSuccess: () => go(`/screens/${screen.id}`),
  });
  const failed = naming.error ?? restoring.error;
  if (!revision) return null;
  return (
    <>
      <Input
        key={revision.revision}
        size="small"
        aria-label={`Name of revision ${revision.revision}`}
        placeholder="A name for this revision"
        defaultValue={revision.name ?? ''}
        maxLength={200}
        onBlur={(e) => {
          if (e.target.value.trim() !== (revision.name ?? '')) naming.mutate(e.target.value);
        }}
        onPressEnter={(e) => {
          e.currentTarget.blur();
        }}
      />
      <Button
        type="primary"
        disabled={revision.revision === current}
        loading={restoring.isPending}
        onClick={() => {
          restoring.mutate();
        }}
      >
        Put rev {revision.revision} in place
      </Button>
      {failed && <p role="alert">{failed.message}</p>}
    </>
  );
}
