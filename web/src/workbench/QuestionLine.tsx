import { Button, Checkbox } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import type { Question } from '@tinfold/core/infer';
import { reflow, type Engine } from '@tinfold/core/layout';
import { findPart, pathTo, standing, type Step, type Structure } from '@tinfold/core/model';
import type { ScreenDetail } from '../api/client';
import { Outline } from '../look/Outline';
import { previewed } from './previewed';
import type { WorkbenchStore } from './store';
import { useQuestions } from './useQuestions';

interface QuestionLineProps {
  readonly use: WorkbenchStore;
  readonly screen: ScreenDetail;
  readonly engine: Engine;
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
export function QuestionLine({ use, screen, engine }: QuestionLineProps) {
  const doc = use((s) => s.doc);
  const [at, setAt] = useState(0);
  const [open, setOpen] = useState(true);
  const questions = useQuestions(screen, doc);
  if (!questions)
    return (
      <footer className="question-line question-none">Looking for what the drawing leaves open …</footer>
    );
  const question = questions[at % Math.max(1, questions.length)];
  if (!question)
    return (
      <footer className="question-line question-none">
        No open question: what the {screen.drawings.length > 1 ? 'drawings leave' : 'drawing leaves'} open
        changes nothing that is seen, or is answered.
      </footer>
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
}

interface AskedProps {
  readonly use: WorkbenchStore;
  readonly engine: Engine;
  readonly question: Question;
  readonly count: string;
  readonly onLater: () => void;
  readonly onHide: () => void;
}

function Asked({ use, engine, question, count, onLater, onHide }: AskedProps) {
  const doc = use((s) => s.doc);
  const { edit, select, setPreview } = use.getState();
  const [all, setAll] = useState(true);
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
        <header>
          <span>Question {count}</span>
          <Button size="small" type="text" onClick={onHide}>
            Put away
          </Button>
        </header>
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
        question={question}
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
        question={question}
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

/** So much of a frame's height is seen at the most, frame px. */
const MOST_SEEN = 1200;
/** The size of a small picture, px. */
const PICTURE = { width: 92, height: 62 };

interface AnswerProps {
  readonly number: string;
  readonly words: string;
  /** The document with this answer. */
  readonly doc: Structure;
  readonly question: Question;
  readonly engine: Engine;
  readonly onWidth: (width: number) => void;
  /** Called with true when the pointer or the focus comes, with false when it goes. */
  readonly onPoint: (over: boolean) => void;
  readonly onTake: () => void;
}

/** One answer: what it says, and what it looks like at three widths. */
function Answer({ number, words, doc, question, engine, onWidth, onPoint, onTake }: AnswerProps) {
  const pictures = useMemo(
    () =>
      question.widths.map((width) => {
        const root = standing(doc, { width });
        const result = reflow(root, width, engine);
        // What is not shown is looked for where it would stand.
        const seen = pathTo(root, question.part).findLast((p) => result.parts.has(p.id));
        const box = result.parts.get(seen?.id ?? root.id);
        // The whole width of the frame, and as much of its height as the part and some of what is around it.
        const ratio = PICTURE.height / PICTURE.width;
        const height = Math.min(MOST_SEEN, Math.max(width * ratio, (box?.height ?? 0) * 1.3));
        const y = Math.max(0, Math.min((box?.y ?? 0) - height * 0.1, result.height - height));
        const across = height / ratio;
        return { width, root, result, view: { x: (width - across) / 2, y, width: across, height } };
      }),
    [doc, question, engine],
  );
  return (
    <div
      className="answer"
      onPointerEnter={() => {
        onPoint(true);
      }}
      onPointerLeave={() => {
        onPoint(false);
      }}
    >
      <button
        type="button"
        className="answer-take"
        onClick={onTake}
        onFocus={() => {
          onPoint(true);
        }}
        onBlur={() => {
          onPoint(false);
        }}
      >
        <kbd>{number}</kbd> <b>{words}</b>
      </button>
      <div className="answer-pictures">
        {pictures.map(({ width, root, result, view }) => (
          <button
            key={width}
            type="button"
            title={`Set the caliper to ${width}`}
            onClick={() => {
              onWidth(width);
            }}
          >
            <Outline root={root} reflow={result} view={view} mark={question.part} {...PICTURE} />
            <span>{width}</span>
          </button>
        ))}
      </div>
    </div>
  );
}
