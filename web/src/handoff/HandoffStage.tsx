import { useMemo } from 'react';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { changesSince } from '@tinfold/core/handoff';
import { openFaults } from '../proof/proofStore';
import { api } from '../api/client';
import { Links } from '../doors/Links';
import { useScreen } from '../screen/Screen';
import { Changes } from './Changes';
import { Code } from './Code';
import { Leaving } from './Leaving';
import { Preview } from './Preview';

const count = (n: number, one: string): string => `${n === 0 ? 'no' : n} ${one}${n === 1 ? '' : 's'}`;

/** The stage at which a screen leaves: the page as it will be, its code, what has changed, and what is still open. */
export function HandoffStage() {
  const { screen, use, measurer } = useScreen();
  const doc = use((s) => s.doc);
  const width = use((s) => s.frameWidth);
  const selected = use((s) => s.selected);
  const refusal = use((s) => s.refusal);
  const { select } = use.getState();
  const before = useQuery({ queryKey: ['handoffs', screen.id], queryFn: () => api.handoffs(screen.id) });
  const last = before.data?.last ?? null;
  const changes = useMemo(() => (last ? changesSince(last, doc) : []), [last, doc]);
  return (
    <main className="handoff">
      <h1 className="unseen">Handoff</h1>
      <Preview
        doc={doc}
        fonts={screen.fonts}
        measurer={measurer}
        width={width}
        selected={selected}
        onSelect={select}
      />
      <Code doc={doc} last={last} selected={selected} />
      <div className="handoff-side">
        <Open />
        {refusal !== undefined && (
          <p className="refusal" role="alert">
            {refusal}
          </p>
        )}
        <Leaving handoffs={before.data?.handoffs ?? []} />
        <Links screenId={screen.id} />
        <section className="changed" aria-label="Changed since the last handoff">
          <h2>Since the last handoff</h2>
          {!last ? (
            <p className="handoff-empty">
              Nothing was handed over yet. From the second time on this tells what has changed, part by part.
            </p>
          ) : changes.length === 0 ? (
            <p className="handoff-empty">Nothing has changed.</p>
          ) : (
            <Changes changes={changes} onSelect={select} />
          )}
        </section>
      </div>
    </main>
  );
}

/** What the proof has found and is not mended, said before anything leaves. */
function Open() {
  const { screen, proof } = useScreen();
  const phase = proof((s) => s.phase);
  const found = proof((s) => s.faults);
  const left = proof((s) => s.left);
  const held = proof((s) => s.held);
  const faults = useMemo(() => openFaults({ faults: found, left }), [found, left]);
  const errors = faults.filter((f) => f.severity === 'error').length;
  const warnings = faults.filter((f) => f.severity === 'warning').length;
  const broken = held.filter((h) => !h.holds).length;
  const proved = phase === 'done';
  return (
    <p className={errors + broken > 0 ? 'handoff-open handoff-open-bad' : 'handoff-open'} role="status">
      {proved ? 'Proved' : 'Being proved'}: {count(errors, 'error')}, {count(warnings, 'warning')},{' '}
      {held.length === 0 ? 'no expectation is stated' : `${broken} of ${held.length} expectations broken`}.{' '}
      <Link to={`/screens/${screen.id}/proof`}>See the proof</Link>
    </p>
  );
}
