import { Button, Input, Select } from 'antd';
import { useMemo, useState } from 'react';
import {
  amountOf,
  KINDS,
  sentenceOf,
  widthsOf,
  type Fault,
  type FaultKind,
  type Left,
  type Mend,
  type Severity,
} from '@tinfold/core/proof';
import { useScreen } from '../screen/Screen';
import { MendAnswer } from './FaultLine';
import { Sign } from './Sign';
import { namesOf, tally, threeWidths, TRIAL_WORDS } from './words';
import { saved } from '../look/saved';

const SEVERITY_OPTIONS: { value: Severity | 'all'; label: string }[] = [
  { value: 'all', label: 'all' },
  { value: 'error', label: 'errors' },
  { value: 'warning', label: 'warnings' },
  { value: 'note', label: 'notes' },
];

const trialWords = (name: string): string =>
  name in TRIAL_WORDS ? TRIAL_WORDS[name as keyof typeof TRIAL_WORDS] : name;
const keyOf = (f: Fault): string =>
  `${f.kind} ${f.severity} ${f.answerable} ${f.trial ?? ''} ${f.from} ${f.to}`;

/** The list of what is wrong, the worst first, with what would mend each. */
export function FaultsPanel({ faults }: { readonly faults: readonly Fault[] }) {
  const { proof, use } = useScreen();
  const phase = proof((s) => s.phase);
  const left = proof((s) => s.left);
  const drawnSo = proof((s) => s.drawnSo);
  const doc = use((s) => s.doc);
  const [severity, setSeverity] = useState<Severity | 'all'>('all');
  const [kind, setKind] = useState<FaultKind | 'all'>('all');
  const [inHand, setInHand] = useState<string>();
  const nameOf = useMemo(() => namesOf(doc), [doc]);
  const shown = faults.filter(
    (f) => (severity === 'all' || f.severity === severity) && (kind === 'all' || f.kind === kind),
  );
  const kinds = [...new Set(faults.map((f) => f.kind))];
  return (
    <section className="panel faults" aria-label="Faults">
      <header className="panel-head">
        <b>Faults</b>
        <span>{tally(faults)}</span>
      </header>
      <div className="fault-filters">
        <Select
          size="small"
          value={severity}
          options={SEVERITY_OPTIONS}
          onChange={setSeverity}
          aria-label="How grave"
        />
        <Select
          size="small"
          value={kind}
          options={[
            { value: 'all' as const, label: 'of every kind' },
            ...kinds.map((k) => ({ value: k, label: KINDS[k].label })),
          ]}
          onChange={setKind}
          aria-label="Of which kind"
        />
      </div>
      <div className="fault-list">
        {faults.length === 0 && (
          <p className="panel-hint">
            {phase === 'done'
              ? 'Nothing breaks at any width from 320 to 1920. Switch trials on to see what other content does.'
              : 'Looking at every width …'}
          </p>
        )}
        {shown.length === 0 && faults.length > 0 && <p className="panel-hint">No fault is like that.</p>}
        {shown.map((fault) => (
          <FaultRow
            key={keyOf(fault)}
            fault={fault}
            nameOf={nameOf}
            isInHand={inHand === keyOf(fault)}
            onTake={(open) => {
              setInHand(open ? keyOf(fault) : undefined);
            }}
          />
        ))}
        <LeftSo left={left} nameOf={nameOf} />
        {drawnSo.length > 0 && (
          <details className="fault-more">
            <summary>Drawn so ({drawnSo.length})</summary>
            {drawnSo.map((f) => (
              <p key={keyOf(f)}>{sentenceOf(f, nameOf)}, as in the drawing.</p>
            ))}
          </details>
        )}
      </div>
      <FaultActions />
    </section>
  );
}

interface FaultRowProps {
  readonly fault: Fault;
  readonly nameOf: (id: string) => string;
  readonly isInHand: boolean;
  readonly onTake: (open: boolean) => void;
}

function FaultRow({ fault, nameOf, isInHand, onTake }: FaultRowProps) {
  const { proof, use } = useScreen();
  const amount = amountOf(fault);
  const look = () => {
    use.getState().setFrameWidth(fault.place.width);
    use.getState().select(fault.parts[0]);
    if (isInHand) proof.getState().closeMends();
    else proof.getState().findMends(fault);
    onTake(!isInHand);
  };
  return (
    <article className={`fault fault-row-${fault.severity} ${isInHand ? 'fault-now' : ''}`}>
      <button type="button" className="fault-head" onClick={look} aria-expanded={isInHand}>
        <Sign severity={fault.severity} />
        <span className="fault-words">
          {sentenceOf(fault, nameOf)}
          <small>
            {[
              amount,
              fault.count > 1 ? `${fault.count} places` : '',
              fault.trial === null ? '' : trialWords(fault.trial),
            ]
              .filter((w) => w !== '')
              .join(' · ')}
          </small>
        </span>
        <span className="fault-widths">{widthsOf(fault)}</span>
      </button>
      {isInHand && <FaultInHand fault={fault} />}
    </article>
  );
}

/** What can be done about the fault in hand. */
function FaultInHand({ fault }: { readonly fault: Fault }) {
  const { proof, use, engine } = useScreen();
  const mends = proof((s) => s.mends);
  const [reason, setReason] = useState<string>();
  const widths = useMemo(() => threeWidths(fault), [fault]);
  const offered = mends && keyOf(mends.fault) === keyOf(fault) ? mends.mends : [];
  const searching = mends?.searching ?? false;
  const take = (mend: Mend) => {
    use.getState().setPreview(undefined);
    use.getState().edit(mend.label, mend.step);
  };
  return (
    <div className="fault-body">
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
      {searching && <p className="panel-hint">Trying what would mend it …</p>}
      {!searching && offered.length === 0 && (
        <p className="panel-hint">No change that was tried removes it without a new fault.</p>
      )}
      {reason === undefined ? (
        <Button
          size="small"
          type="text"
          onClick={() => {
            setReason('');
          }}
        >
          Leave it so …
        </Button>
      ) : (
        <div className="leave">
          <Input
            size="small"
            autoFocus
            value={reason}
            maxLength={300}
            placeholder="Why is it left so?"
            aria-label="Why it is left so"
            onChange={(e) => {
              setReason(e.target.value);
            }}
            onKeyDown={(e) => {
              if (e.key === 'Escape') setReason(undefined);
              if (e.key === 'Enter' && reason.trim() !== '') proof.getState().leaveSo(fault, reason.trim());
            }}
          />
          <Button
            size="small"
            disabled={reason.trim() === ''}
            onClick={() => {
              proof.getState().leaveSo(fault, reason.trim());
            }}
          >
            Leave
          </Button>
        </div>
      )}
    </div>
  );
}

/** The faults that are left as they are, with their reasons. */
function LeftSo({
  left,
  nameOf,
}: {
  readonly left: readonly Left[];
  readonly nameOf: (id: string) => string;
}) {
  const { proof } = useScreen();
  if (left.length === 0) return null;
  return (
    <details className="fault-more">
      <summary>Left so ({left.length})</summary>
      {left.map((l) => (
        <p key={`${l.kind} ${l.answerable} ${l.from}`}>
          “{nameOf(l.parts[0] ?? '')}”, {KINDS[l.kind].label.toLowerCase()} at {widthsOf(l)}: {l.reason}{' '}
          <Button
            size="small"
            type="text"
            onClick={() => {
              proof.getState().takeUp(l);
            }}
          >
            Show again
          </Button>
        </p>
      ))}
    </details>
  );
}

/** What is done about all of them: mending what is certain, and the report. */
function FaultActions() {
  const { proof, use, screen } = useScreen();
  const mending = proof((s) => s.mending);
  const phase = proof((s) => s.phase);
  const said = proof((s) => s.said);
  const { mendAll, stop, report } = proof.getState();
  const mend = async () => {
    const result = await mendAll();
    if (result)
      use
        .getState()
        .edit(
          result.labels.length === 1 ? (result.labels[0] ?? 'mend') : `mend ${result.labels.length} faults`,
          result.step,
        );
    else proof.getState().prove(use.getState().doc);
  };
  const save = async () => {
    saved(`proof-${screen.name}.html`, 'text/html', await report());
  };
  return (
    <footer className="fault-actions">
      {mending === undefined ? (
        <Button
          type="primary"
          disabled={phase !== 'done'}
          onClick={() => {
            void mend();
          }}
        >
          Mend all that are certain
        </Button>
      ) : (
        <>
          <span role="status">{mending === 0 ? 'Trying mends …' : `${mending} mended so far …`}</span>
          <Button size="small" onClick={stop}>
            Stop
          </Button>
        </>
      )}
      <Button
        disabled={phase !== 'done'}
        onClick={() => {
          void save();
        }}
      >
        Report
      </Button>
      {said !== undefined && (
        <p className="panel-hint" role="alert">
          {said}
        </p>
      )}
    </footer>
  );
}
