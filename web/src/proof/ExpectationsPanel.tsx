import { AutoComplete, Button } from 'antd';
import { useMemo, useState } from 'react';
import { walk, type Structure } from '@tinfold/core/model';
import { formatExpectation, parseExpectation, widthsOf, type Held } from '@tinfold/core/proof';
import { useScreen } from '../screen/Screen';
import { useThrottled } from '../workbench/throttled';
import { namesOf } from './words';

/** Sentences that begin with what is typed: the builder of expectations, part by part and width by width. */
function sentences(doc: Structure, typed: string, width: number, drawn: readonly number[]): string[] {
  const names = [...new Set([...walk(doc.root)].flatMap((p) => [p.pattern ?? [], p.name].flat()))];
  const general = [
    'no side scroll',
    'no errors',
    'no warnings',
    'no things over each other',
    'order as drawn',
    ...drawn.map((w) => `as drawn at ${w}`),
  ];
  const about = names.flatMap((n) => [
    `${n}: 1 column up to ${width}`,
    `${n}: at most 2 lines`,
    `${n}: width 240 or more`,
  ]);
  const wanted = typed.trim().toLowerCase();
  const ranged = [`from ${width}`, `up to ${width}`, `320–${width}`];
  const whole =
    parseExpectation(typed).ok && !/\d\s*$/.test(typed) ? ranged.map((r) => `${typed.trim()} ${r}`) : [];
  return [...whole, ...[...general, ...about].filter((s) => s.toLowerCase().includes(wanted))].slice(0, 24);
}

/** How often suggestions follow a drag of the caliper, ms. */
const SUGGEST_MS = 300;

/** What the screen is held to: sentences that hold or are broken, and by which edit. */
export function ExpectationsPanel() {
  const { use, proof, screen } = useScreen();
  const doc = use((s) => s.doc);
  const width = useThrottled(
    use((s) => s.frameWidth),
    SUGGEST_MS,
  );
  const expectations = proof((s) => s.expectations);
  const held = proof((s) => s.held);
  const brokenBy = proof((s) => s.brokenBy);
  const phase = proof((s) => s.phase);
  const { setExpectations, propose } = proof.getState();
  const [typed, setTyped] = useState('');
  const [refused, setRefused] = useState<string>();
  const drawn = useMemo(() => screen.drawings.map((d) => Math.round(d.width)), [screen]);
  const options = useMemo(
    () => sentences(doc, typed, width, drawn).map((value) => ({ value })),
    [doc, typed, width, drawn],
  );
  const bySentence = new Map(held.map((h) => [formatExpectation(h.expectation), h]));
  const broken = held.filter((h) => !h.holds).length;
  const nameOf = useMemo(() => namesOf(doc), [doc]);
  const add = (sentence: string) => {
    const result = parseExpectation(sentence);
    if (!result.ok) {
      setRefused(result.reason);
      return;
    }
    setRefused(undefined);
    setTyped('');
    const words = formatExpectation(result.value);
    if (!expectations.includes(words)) setExpectations([...expectations, words]);
  };
  const proposeSome = async () => {
    const proposed = await propose();
    setExpectations([...expectations, ...proposed.filter((p) => !expectations.includes(p))]);
  };
  return (
    <section className="panel expectations" aria-label="Expectations">
      <header className="panel-head">
        <b>Expectations</b>
        <span>
          {expectations.length === 0
            ? 'none stated'
            : `${expectations.length - broken} of ${expectations.length} hold`}
        </span>
      </header>
      <ul className="expectation-list">
        {expectations.map((sentence) => (
          <ExpectationRow
            key={sentence}
            nameOf={nameOf}
            sentence={sentence}
            held={bySentence.get(sentence)}
            brokenBy={brokenBy.get(sentence)}
            onLook={use.getState().setFrameWidth}
            onRemove={() => {
              setExpectations(expectations.filter((e) => e !== sentence));
            }}
          />
        ))}
      </ul>
      {expectations.length === 0 && (
        <p className="panel-hint">
          Say once what has to hold. Every later change is held to it, here and on the command line.
        </p>
      )}
      <div className="expectation-add">
        <AutoComplete
          size="small"
          value={typed}
          options={options}
          onChange={setTyped}
          onSelect={add}
          placeholder="Sailings: 1 column up to 480"
          aria-label="A new expectation"
          popupMatchSelectWidth={320}
          onKeyDown={(e) => {
            if (e.key === 'Enter' && typed.trim() !== '') add(typed);
          }}
        />
        <Button
          size="small"
          disabled={phase !== 'done'}
          onClick={() => {
            void proposeSome();
          }}
        >
          Propose
        </Button>
      </div>
      {refused !== undefined && (
        <p className="refused" role="alert">
          {refused}
        </p>
      )}
    </section>
  );
}

/** So many of the parts that stand off their place are named. */
const MOST_NAMED = 3;

/** By how much which parts stand off where they were drawn. */
function deviationWords({ by, parts }: Held, nameOf: (id: string) => string): string {
  const names = parts.slice(0, MOST_NAMED).map((id) => `“${nameOf(id)}”`);
  const more = parts.length > MOST_NAMED ? ` and ${parts.length - MOST_NAMED} more` : '';
  return `, up to ${by} px: ${names.join(', ')}${more}`;
}

interface ExpectationRowProps {
  readonly nameOf: (id: string) => string;
  readonly sentence: string;
  readonly held: Held | undefined;
  readonly brokenBy: string | undefined;
  readonly onLook: (width: number) => void;
  readonly onRemove: () => void;
}

function ExpectationRow({ nameOf, sentence, held, brokenBy, onLook, onRemove }: ExpectationRowProps) {
  const state = !held ? 'open' : held.holds ? 'holds' : 'broken';
  const [first] = held?.broken ?? [];
  return (
    <li className={`expectation expectation-${state}`}>
      <i aria-label={{ open: 'not looked at yet', holds: 'holds', broken: 'broken' }[state]}>
        {{ open: '…', holds: '✓', broken: '✕' }[state]}
      </i>
      <span>
        {sentence}
        {held && !held.holds && (
          <button
            type="button"
            className="expectation-why"
            onClick={() => {
              if (first) onLook(first.from);
            }}
          >
            {held.reason ?? `broken at ${held.broken.map(widthsOf).join(', ')}`}
            {held.expectation.kind === 'as drawn' && deviationWords(held, nameOf)}
            {brokenBy !== undefined && `, by “${brokenBy}”`}
          </button>
        )}
      </span>
      <button type="button" className="row-remove" aria-label={`Take away “${sentence}”`} onClick={onRemove}>
        ×
      </button>
    </li>
  );
}
