import { Button, Checkbox } from 'antd';
import { memo, useEffect, useMemo, useState } from 'react';
import type { Question } from '@tinfold/core/infer';
import type { Engine } from '@tinfold/core/layout';
import { findPart, type Step } from '@tinfold/core/model';
import type { ScreenDetail } from '../api/client';
import { previewed } from './previewed';
import { FaultLine } from '../proof/FaultLine';
import type { ProofStore } from '../proof/proofStore';
import { useAfterPicture } from './afterPicture';
import { Answer } from './Answer';
import type { WorkbenchStore } from './store';

interface QuestionLineProps {
  readonly use: WorkbenchStore;
  readonly proof: ProofStore;
  readonly screen: ScreenDetail;
  readonly engine: Engine;
  /** The open questions; undefined until they are known. */
  readonly questions: readonly Question[] | undefined;
}

const ASKS: Readonly<Record<Question['topic'], string>> = {
  width: 'How wide is it elsewhere?',
  limit: 'Does it stop growing?',
  gap: 'What keeps its things apart?',
  columns: 'How many columns are there?',
  turn: 'What happens in narrow frames?',
  shown: 'Is it always there?',
  height: 'How high is it elsewhere?',
  side: 'Which edge does it keep to?',
  rise: 'Where does its foot stand?',
  type: 'Is its type smaller on a phone?',
};

/** The line that puts one question at a time, with what was seen and small pictures of each answer. */
export const QuestionLine = memo(function QuestionLine({
  use,
  proof,
  screen,
  engine,
  questions,
}: QuestionLineProps) {
  const [at, setAt] = useState(0);
  const [open, setOpen] = useState(true);
  if (!questions)
    return (
      <footer className="question-line question-none">Looking for what the drawing leaves open …</footer>
    );
  const question = questions[at % Math.max(1, questions.length)];
  if (!question)
    return (
      <FaultLine
        use={use}
        proof={proof}
        engine={engine}
        otherwise={`No open question: what the ${
          screen.drawings.length > 1 ? 'drawings leave' : 'drawing leaves'
        } open changes nothing that is seen, or is answered.`}
      />
    );
  if (!open)
    return (
      <footer className="question-line question-none">
        {questions.length === 1 ? 'One question is open.' : `${questions.length} questions are open.`}
        <Button
          size="small"
          type="text"
          onClick={() => {
            setOpen(true);
          }}
        >
          Show
        </Button>
      </footer>
    );
  return (
    <Asked
      key={`${question.part} ${question.topic}`}
      use={use}
      engine={engine}
      question={question}
      count={`${(at % questions.length) + 1} of ${questions.length}`}
      onLater={() => {
        setAt(at + 1);
      }}
      onHide={() => {
        setOpen(false);
      }}
    />
  );
});

interface AskedProps {
  readonly use: WorkbenchStore;
  readonly engine: Engine;
  readonly question: Question;
  readonly count: string;
  readonly onLater: () => void;
  readonly onHide: () => void;
}

function Asked({ use, engine, question, count, onLater, onHide }: AskedProps) {
  const { edit, select, setPreview } = use.getState();
  const [all, setAll] = useState(true);
  // The small pictures follow an edit when the sheets have answered it.
  const doc = useAfterPicture(use((s) => s.doc));
  const name = findPart(doc.root, question.part)?.name ?? 'part';
  const several = question.alike.length > 1;
  const taken = all ? question.stepForAll : question.step;
  const other = useMemo(() => previewed(doc, taken), [doc, taken]);
  const answer = (step: Step | undefined) => {
    const note: Step = {
      kind: 'answer',
      parts: all ? question.alike : [question.part],
      topic: question.topic,
    };
    setPreview(undefined);
    edit(`answer about ${name}`, step ? { kind: 'several', steps: [step, note] } : note);
  };

  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      const target = event.target as Element;
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        target.closest('input, textarea, [role="dialog"]')
      )
        return;
      if (event.key === '1') answer(undefined);
      else if (event.key === '2') answer(taken);
      else if (event.key === '3') onLater();
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', keys);
    return () => {
      window.removeEventListener('keydown', keys);
    };
  });
  useEffect(
    () => () => {
      setPreview(undefined);
    },
    [setPreview],
  );
  return (
    <footer className="question-line" aria-label="Question">
      <div className="question-words">
        <div className="question-head">
          <span>Question {count}</span>
          <Button size="small" type="text" onClick={onHide}>
            Put away
          </Button>
        </div>
        <p className="question-ask">
          <button
            type="button"
            className="question-part"
            onClick={() => {
              select(question.part);
            }}
          >
            {name}
          </button>{' '}
          {ASKS[question.topic]}
        </p>
        <p className="question-seen" title={question.evidence}>
          {question.evidence} Read as 1, {Math.round(question.confidence * 100)} % sure.
        </p>
        <div className="question-more">
          {several && (
            <Checkbox
              checked={all}
              onChange={(e) => {
                setAll(e.target.checked);
              }}
            >
              the same at all {question.alike.length} alike places
            </Checkbox>
          )}
          <Button size="small" type="text" onClick={onLater}>
            <kbd>3</kbd> Ask later
          </Button>
        </div>
      </div>
      <Answer
        number="1"
        words={question.chosen}
        doc={doc}
        part={question.part}
        widths={question.widths}
        engine={engine}
        onWidth={use.getState().setFrameWidth}
        onPoint={() => {
          setPreview(undefined);
        }}
        onTake={() => {
          answer(undefined);
        }}
      />
      <Answer
        number="2"
        words={question.other}
        doc={other}
        part={question.part}
        widths={question.widths}
        engine={engine}
        onWidth={use.getState().setFrameWidth}
        onPoint={(over) => {
          setPreview(over ? taken : undefined);
        }}
        onTake={() => {
          answer(taken);
        }}
      />
    </footer>
  );
}
