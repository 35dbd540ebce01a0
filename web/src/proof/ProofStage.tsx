import { useMemo } from 'react';
import { useScreen } from '../screen/Screen';
import { Charts } from './Charts';
import { ContactSheet } from './ContactSheet';
import { ExpectationsPanel } from './ExpectationsPanel';
import { FaultsPanel } from './FaultsPanel';
import { openFaults } from './proofStore';
import { TrialsPanel } from './TrialsPanel';

/** The stage where a screen is proved: at which widths it holds, and what would mend it where it does not. */
export function ProofStage() {
  const { proof } = useScreen();
  const found = proof((s) => s.faults);
  const left = proof((s) => s.left);
  const faults = useMemo(() => openFaults({ faults: found, left }), [found, left]);
  return (
    <main className="proof">
      <h1 className="unseen">Proof</h1>
      <ContactSheet faults={faults} />
      <div className="proof-left">
        <TrialsPanel />
        <ExpectationsPanel />
      </div>
      <Charts faults={faults} />
      <FaultsPanel faults={faults} />
    </main>
  );
}
