import { useMemo, type CSSProperties, type KeyboardEvent } from 'react';
import type { Drawing } from '@tinfold/core/drawing';
import { readPart } from '@tinfold/core/infer';
import { reflow as layOut } from '@tinfold/core/layout';
import { standing } from '@tinfold/core/model';
import { useScreen } from '../screen/Screen';
import { useAfterPicture } from './afterPicture';
import { COMMANDS, keysOf, type Hands } from './commands';
import { differencesOf, furthest } from './differences';
import { Divider, useListWidth } from './Divider';
import { Listed } from './Listed';
import { changedSince } from './marks';
import { Operations } from './Operations';
import { Palette } from './Palette';
import { previewed } from './previewed';
import { QuestionLine } from './QuestionLine';
import { RuleLine } from './RuleLine';
import { Sheets } from './Sheets';
import { TokensLedger } from './TokensLedger';
import { useQuestions } from './useQuestions';

/** The drawing that is nearest to a frame width, in ratio. */
const nearest = (drawings: readonly Drawing[], width: number): Drawing | undefined =>
  drawings.toSorted((a, b) => Math.abs(Math.log(a.width / width)) - Math.abs(Math.log(b.width / width)))[0];

/** The workbench of one screen. */
export function Workbench() {
  const { screen, drawings, measurer, use, proof, engine } = useScreen();
  const doc = use((s) => s.doc);
  const width = use((s) => s.frameWidth);
  const selected = use((s) => s.selected);
  const mode = use((s) => s.mode);
  const also = use((s) => s.also);
  const { select, alsoSelect, setMode } = use.getState();
  const onSelect = (id: string, more: boolean) => {
    if (more) alsoSelect(id);
    else select(id);
  };
  const preview = use((s) => s.preview);
  const shown = useMemo(() => previewed(doc, preview), [doc, preview]);
  const colours = use((s) => s.colours);
  const ledger = use((s) => s.ledger);
  const tall = use((s) => s.frameHeight);
  const root = useMemo(
    () =>
      standing(shown, {
        width,
        ...(tall !== undefined && { height: tall }),
        ...(colours !== undefined && { mode: colours }),
      }),
    [shown, width, tall, colours],
  );
  const reflow = useMemo(() => layOut(root, width, engine, tall), [root, width, engine, tall]);
  const stands = useMemo(() => ({ root, reflow }), [root, reflow]);
  const [list, setList] = useListWidth();
  const hands = useMemo(
    (): Hands => ({
      use,
      bench: { engine, widths: drawings.map((d) => d.width).sort((a, b) => b - a) },
      read: (now, id) => readPart(now, id, drawings, measurer, engine),
    }),
    [use, engine, drawings, measurer],
  );
  const faults = proof((s) => s.faults);
  // The sheets answer an edit first; what is counted over the whole screen follows.
  const counted = useAfterPicture(doc);
  const questions = useQuestions(screen, counted);
  const differences = useMemo(() => differencesOf(counted, drawings, engine), [counted, drawings, engine]);
  const changed = useMemo(() => changedSince(counted.root, screen.asRead), [counted, screen]);
  const known = useMemo(
    () => ({
      faults: new Set(faults.flatMap((f) => f.parts)),
      questions: new Set(questions?.map((q) => q.part)),
      changed,
      differs: furthest(differences),
    }),
    [faults, questions, changed, differences],
  );
  const keys = (event: KeyboardEvent) => {
    if ((event.target as Element).tagName === 'INPUT') return;
    const pressed = keysOf(event);
    const command = COMMANDS.find((c) => c.keys === pressed);
    if (!command) return;
    command.run(hands);
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <>
      <main className="workbench-main" onKeyDown={keys} style={{ '--list': `${list}px` } as CSSProperties}>
        <h1 className="unseen">Structure of {screen.name}</h1>
        <div className="workbench-left">
          {ledger === 'tokens' ? (
            <TokensLedger use={use} />
          ) : (
            <Listed use={use} bench={hands.bench} stands={stands} known={known} />
          )}
          <Operations {...hands} />
          <RuleLine use={use} asRead={screen.asRead} engine={engine} />
        </div>
        <Divider width={list} onWidth={setList} />
        <Sheets
          use={use}
          bench={hands.bench}
          root={root}
          reflow={reflow}
          paper={doc.root.paint}
          drawing={nearest(drawings, width)}
          differences={differences}
          measurer={measurer}
          selected={selected}
          also={also}
          mode={mode}
          onSelect={onSelect}
          onMode={setMode}
        />
      </main>
      <QuestionLine use={use} proof={proof} screen={screen} engine={engine} questions={questions} />
      <Palette {...hands} />
    </>
  );
}
