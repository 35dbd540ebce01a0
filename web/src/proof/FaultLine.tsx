import { Button } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import type { Engine } from '@tinfold/core/layout';
import { amountOf, sentenceOf, widthsOf, type Fault, type Mend } from '@tinfold/core/proof';
import { Answer } from '../workbench/Answer';
import { previewed } from '../workbench/previewed';
import type { WorkbenchStore } from '../workbench/store';
import { openFaults, type ProofStore } from './proofStore';
import { Sign } from './Sign';
import { counted, namesOf, threeWidths } from './words';

interface FaultLineProps {
  readonly use: WorkbenchStore;
  readonly proof: ProofStore;
  readonly engine: Engine;
  /** What is said where there is no fault either. */
  readonly otherwise: string;
}

/** So many mends are put as answers. */
const MOST_ANSWERS = 2;

/** The line under the workbench when no question is open: one fault at a time, the worst first, mends as answers. */
export function FaultLine({ use, proof, engine, otherwise }: FaultLineProps) {
  const [at, setAt] = useState(0);
  const found = proof((s) => s.faults);
  const left = proof((s) => s.left);
  const phase = proof((s) => s.phase);
  const faults = useMemo(
    () => openFaults({ faults: found, left }).filter((f) => f.severity !== 'note'),
    [found, left],
  );
  const fault = faults[at % Math.max(1, faults.length)];
  if (phase !== 'done')
    return <footer className="question-line question-none">{otherwise} Proving every width …</footer>;
  if (!fault)
    return (
      <footer className="question-line question-none">{otherwise} No fault from 320 to 1920 either.</footer>
    );
  return (
    <Told
      key={`${fault.kind} ${fault.answerable} ${fault.from}`}
      use={use}
      proof={proof}
      engine={engine}
      fault={fault}
      count={`${(at % faults.length) + 1} of ${faults.length}`}
      onNext={() => {
        setAt(at + 1);
      }}
    />
  );
}

interface ToldProps extends Omit<FaultLineProps, 'otherwise'> {
  readonly fault: Fault;
  readonly count: string;
  readonly onNext: () => void;
}

function Told({ use, proof, engine, fault, count, onNext }: ToldProps) {
  const doc = use((s) => s.doc);
  const mends = proof((s) => s.mends);
  const { edit, select, setFrameWidth, setPreview } = use.getState();
  const offered = mends?.fault === fault ? mends.mends.slice(0, MOST_ANSWERS) : [];
  const searching = mends?.fault !== fault || mends.searching;
  const nameOf = useMemo(() => namesOf(doc), [doc]);
  const amount = amountOf(fault);
  const look = () => {
    setFrameWidth(fault.place.width);
    select(fault.parts[0]);
  };
  const take = (mend: Mend) => {
    setPreview(undefined);
    edit(mend.label, mend.step);
  };

  useEffect(() => {
    proof.getState().findMends(fault);
    return () => {
      setPreview(undefined);
    };
  }, [fault, proof, setPreview]);
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      const target = event.target as Element;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (target.closest('input, textarea, [role="dialog"]')) return;
      const mend = offered[Number(event.key) - 1];
      if (mend) take(mend);
      else if (event.key === '3') onNext();
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', keys);
    return () => {
      window.removeEventListener('keydown', keys);
    };
  });
  const widths = useMemo(() => threeWidths(fault), [fault]);
  return (
    <footer className="question-line" aria-label="Fault">
      <div className="question-words">
        <header>
          <span>
            <Sign severity={fault.severity} />
            Fault {count}
          </span>
          <Button size="small" type="text" onClick={onNext}>
            <kbd>3</kbd> Next fault
          </Button>
        </header>
        <p className="question-ask">
          <button type="button" className="question-part" onClick={look}>
            {sentenceOf(fault, nameOf)}
          </button>
        </p>
        <p className="question-seen">
          At {widthsOf(fault)}
          {amount && `, ${amount}`}
          {fault.trial === null ? '' : `, with ${fault.trial.replaceAll('-', ' ')}`}.{' '}
          {searching
            ? 'Trying what would mend it …'
            : offered.length === 0
              ? 'No change that was tried removes it without a new fault.'
              : ''}
        </p>
      </div>
      {offered.map((mend, i) => (
        <MendAnswer
          key={mend.label}
          number={String(i + 1)}
          mend={mend}
          fault={fault}
          widths={widths}
          use={use}
          engine={engine}
          onTake={() => {
            take(mend);
          }}
        />
      ))}
    </footer>
  );
}

interface MendAnswerProps {
  readonly number: string;
  readonly mend: Mend;
  readonly fault: Fault;
  readonly widths: readonly number[];
  readonly use: WorkbenchStore;
  readonly engine: Engine;
  readonly onTake: () => void;
}

/** A mend as an answer: what it does, the faults before and after, and what it looks like at three widths. */
export function MendAnswer({ number, mend, fault, widths, use, engine, onTake }: MendAnswerProps) {
  const doc = use((s) => s.doc);
  const { setFrameWidth, setPreview } = use.getState();
  const mended = useMemo(() => previewed(doc, mend.step), [doc, mend]);
  return (
    <Answer
      number={number}
      words={mend.label}
      note={`${counted(mend.before)} → ${counted(mend.after)} faults`}
      doc={mended}
      part={fault.parts[0] ?? ''}
      widths={widths}
      engine={engine}
      onWidth={setFrameWidth}
      onPoint={(over) => {
        setPreview(over ? mend.step : undefined);
      }}
      onTake={onTake}
    />
  );
}
