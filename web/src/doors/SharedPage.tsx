import { Segmented } from 'antd';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { useParams } from 'react-router';
import { specSheet } from '@tinfold/core/handoff';
import type { Drawing } from '@tinfold/core/drawing';
import { Engine } from '@tinfold/core/layout';
import { breakpoints } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { api, type SharedScreen } from '../api/client';
import { Preview } from '../handoff/Preview';
import { Trouble, Waiting } from '../look/States';
import { TopBar } from '../look/TopBar';
import { createProof, openFaults } from '../proof/proofStore';
import { facesOfStructure, loadMeasurer } from '../reading/fonts';
import { fileOf, openDrawings } from '../reading/reader';
import { drawnMarks, turnMarks } from '../screen/markLabels';
import { nextOf } from '../screen/nextOf';
import { Rail } from '../screen/Rail';
import { clampFrame } from '../workbench/store';

const VIEWS = ['Page', 'Specification', 'Proof'] as const;
type View = (typeof VIEWS)[number];

interface Shared {
  readonly screen: SharedScreen;
  readonly drawings: readonly Drawing[];
  readonly measurer: ShapedMeasurer;
}

async function open(token: string): Promise<Shared> {
  const found = await api.shared(token);
  const fonts = found.fonts.map((f) => ({ ...f, address: `/api/shared/${token}/fonts/${f.id}/file` }));
  const screen = { ...found, fonts };
  const [measurer, drawings] = await Promise.all([
    loadMeasurer(facesOfStructure(screen.structure, fonts), fonts),
    openDrawings(screen.drawings.map((d) => fileOf(d, fonts))).result,
  ]);
  return { screen, drawings, measurer };
}

/** What a link shows: the page at any width, its specification, and what its proof finds. Nothing can be changed here. */
export function SharedPage() {
  const { token = '' } = useParams();
  const shared = useQuery({ queryKey: ['shared', token], queryFn: () => open(token), staleTime: Infinity });
  if (shared.isPending) return <Waiting what="Opening the screen" />;
  if (shared.isError) return <Trouble message={shared.error.message} />;
  return <Looked {...shared.data} />;
}

function Looked({ screen, drawings, measurer }: Shared) {
  const { structure: doc, name, revision, fonts } = screen;
  const [view, setView] = useState<View>('Page');
  const [width, setWidth] = useState(clampFrame(doc.drawn.width));
  const [selected, setSelected] = useState<string>();
  const [engine] = useState(() => new Engine(measurer));
  const [proof] = useState(() => createProof(screen, drawings));
  const phase = proof((s) => s.phase);
  const found = proof((s) => s.faults);
  const left = proof((s) => s.left);
  const faults = useMemo(() => openFaults({ faults: found, left }), [found, left]);
  useEffect(() => {
    proof.getState().prove(doc);
    return () => {
      proof.getState().close();
    };
  }, [proof, doc]);
  const spec = useMemo(
    () => (view === 'Specification' ? specSheet(doc, engine).text : ''),
    [view, doc, engine],
  );
  const report = useQuery({
    queryKey: ['report', revision, found],
    queryFn: () => proof.getState().report(),
    enabled: view === 'Proof' && phase === 'done',
  });
  const marks = useMemo(() => [...drawnMarks(drawings), ...turnMarks(breakpoints(doc))], [drawings, doc]);
  return (
    <div className="page workbench">
      <TopBar path={[{ label: name }]} signed={null}>
        <span className="saving" role="status">
          rev {revision} · to look at
        </span>
      </TopBar>
      <Rail
        width={width}
        marks={marks}
        faults={faults}
        nextEvent={(from, direction) =>
          nextOf([...marks.map((m) => m.width), ...faults.flatMap((f) => [f.from, f.to])], from, direction)
        }
        onChange={setWidth}
        turns={[]}
        onTurn={() => undefined}
      />
      <main className="looked">
        <h1 className="unseen">{name}</h1>
        <div className="looked-bar">
          <Segmented
            size="small"
            value={view}
            options={[...VIEWS]}
            onChange={setView}
            aria-label="What is looked at"
          />
        </div>
        {view === 'Page' && (
          <Preview
            doc={doc}
            fonts={fonts}
            measurer={measurer}
            width={width}
            selected={selected}
            onSelect={setSelected}
          />
        )}
        {view === 'Specification' && (
          <iframe className="looked-paper" title="Specification" sandbox="" srcDoc={spec} />
        )}
        {view === 'Proof' &&
          (report.data === undefined ? (
            <p className="handoff-empty" role="status">
              {report.error?.message ?? 'Being proved from 320 to 1920 …'}
            </p>
          ) : (
            <iframe className="looked-paper" title="Report of the proof" sandbox="" srcDoc={report.data} />
          ))}
      </main>
    </div>
  );
}
