import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import {
  gridOf,
  NO_DECISIONS,
  type Drawing,
  type DrawingDecisions,
  type DrawingGrid,
} from '@tinfold/core/drawing';
import type { Rect } from '@tinfold/core/model';
import { facesOfRuns, ownFamilies, type OwnFont, type ShapedMeasurer } from '@tinfold/core/text';
import { api, type ScreenDetail } from '../api/client';
import { Stages } from '../look/Stages';
import { Trouble, Waiting } from '../look/States';
import { TopBar } from '../look/TopBar';
import { loadMeasurer } from '../reading/fonts';
import { fileOf, openDrawing } from '../reading/reader';
import { ChosenItems } from './ChosenItems';
import { DrawnWidths } from './DrawnWidths';
import { CleanedUp } from './CleanedUp';
import { OutlinedWords } from './OutlinedWords';
import { ItemSheet } from './ItemSheet';
import { Legend } from './Legend';
import { NeedsALook } from './NeedsALook';
import { ProjectFonts } from './ProjectFonts';
import { ReadAgain } from './ReadAgain';
import { WhatWasRead } from './WhatWasRead';

type Source = ScreenDetail['drawings'][number];

interface Shown {
  readonly drawing: Drawing;
  readonly measurer: ShapedMeasurer;
}

async function show(source: Source, decisions: DrawingDecisions, fonts: readonly OwnFont[]): Promise<Shown> {
  const drawing = await openDrawing({ ...fileOf(source, fonts), decisions }).result;
  const runs = drawing.items.flatMap((i) => {
    if (i.kind === 'text') return i.content.runs;
    return i.kind === 'art' && i.content.kind === 'turned' ? i.content.text.runs : [];
  });
  return { drawing, measurer: await loadMeasurer(facesOfRuns(runs, ownFamilies(fonts)), fonts) };
}

/** The Drawing stage: what was read, what was cleaned up, what needs a look. */
export function DrawingPage() {
  const { screenId = '' } = useParams();
  const [at, setAt] = useState<number>();
  const screen = useQuery({
    queryKey: ['screen-detail', screenId],
    queryFn: () => api.screen(screenId),
    gcTime: 0,
  });
  if (screen.isPending) return <Waiting what="Opening the drawing" />;
  if (screen.isError) return <Trouble message={screen.error.message} retry={() => void screen.refetch()} />;
  const { drawings } = screen.data;
  const source = drawings.find((d) => d.width === at) ?? drawings[0];
  if (!source) return <Trouble message="This screen has no drawing: import one on the project's page." />;
  return <DrawingStage key={source.id} screen={screen.data} source={source} onTurn={setAt} />;
}

const percent = (share: number): string => `${Math.round(share * 100)} %`;

function GridWords({ grid }: { readonly grid: DrawingGrid }) {
  return (
    <p>
      Follows a step of {grid.step} ({percent(grid.stepFit)}), margin {grid.margin} ({percent(grid.marginFit)}
      )
      {grid.columns
        ? `, ${grid.columns.count} columns ${grid.columns.gutter} apart (${percent(grid.columns.fit)})`
        : ', no columns'}
    </p>
  );
}

interface DrawingStageProps {
  readonly screen: ScreenDetail;
  /** The drawing that is shown. */
  readonly source: Source;
  /** Shows the drawing of a width. */
  readonly onTurn: (width: number) => void;
}

function DrawingStage({ screen, source, onTurn }: DrawingStageProps) {
  const saved: DrawingDecisions = { ...NO_DECISIONS, ...source.decisions };
  const [decisions, setDecisions] = useState(saved);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [places, setPlaces] = useState<readonly Rect[]>([]);
  const shown = useQuery({
    queryKey: ['drawing', source.id, decisions, screen.fonts],
    queryFn: () => show(source, decisions, screen.fonts),
    placeholderData: (before) => before,
    gcTime: 0,
  });
  const changed = JSON.stringify(decisions) !== JSON.stringify(saved);
  if (shown.isPending) return <Waiting what="Reading the file" />;
  if (shown.isError) return <Trouble message={shown.error.message} />;
  const { drawing, measurer } = shown.data;
  const grid = gridOf(drawing);
  const point = (items: readonly string[], at: readonly Rect[] = []) => {
    setChosen(items.filter((id) => drawing.items.some((i) => i.id === id)));
    setPlaces(at);
  };
  const decide = (change: (d: DrawingDecisions) => DrawingDecisions) => {
    setDecisions(change);
    setPlaces([]);
  };
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
      <main className="drawing-main">
        <h1 className="unseen">Drawing of {screen.name}</h1>
        <section className="drawing-sheet" aria-label="The drawing and its items">
          <DrawnWidths screen={screen} source={source} changed={changed} onTurn={onTurn} />
          <header>
            <b>{source.name}</b> {drawing.width} × {drawing.height} · {drawing.items.length} items
            <GridWords grid={grid} />
          </header>
          <ItemSheet
            drawing={drawing}
            measurer={measurer}
            grid={grid}
            chosen={chosen}
            places={places}
            onChoose={point}
          />
          <Legend />
        </section>
        <aside className="drawing-side">
          <div className="drawing-lists">
            <WhatWasRead drawing={drawing} />
            <CleanedUp drawing={drawing} decisions={decisions} onShow={point} onDecide={decide} />
            <OutlinedWords
              drawing={drawing}
              decisions={decisions}
              own={measurer.own}
              onShow={point}
              onDecide={decide}
            />
            <NeedsALook notes={drawing.notes} onShow={point} />
            <ProjectFonts projectId={screen.project.id} screenId={screen.id} fonts={screen.fonts} />
          </div>
          <footer className="drawing-foot">
            <ChosenItems
              drawing={drawing}
              chosen={chosen}
              onSay={decide}
              onDecide={(change) => {
                decide(change);
                setChosen([]);
              }}
            />
            <ReadAgain screen={screen} source={source} decisions={decisions} changed={changed} />
          </footer>
        </aside>
      </main>
    </div>
  );
}
