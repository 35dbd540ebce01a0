import type { WorkbenchStore } from './store';

/** Which ledger stands at the left of the workbench: the parts, or the tokens. */
export function LedgerTabs({ use }: { readonly use: WorkbenchStore }) {
  const ledger = use((s) => s.ledger);
  const tokens = use((s) => s.doc.tokens?.length ?? 0);
  const { setLedger } = use.getState();
  const tab = (of: 'parts' | 'tokens', word: string) => (
    <button
      type="button"
      className="ledger-tab"
      aria-pressed={ledger === of}
      onClick={() => {
        setLedger(of);
      }}
    >
      {word}
    </button>
  );
  return (
    <div className="ledger-tabs" role="group" aria-label="What is listed">
      {tab('parts', 'Parts')}
      {tab('tokens', tokens > 0 ? `Tokens ${tokens}` : 'Tokens')}
    </div>
  );
}
