import type { WorkbenchStore } from './store';

/** Where edits hold: as the rules do that they change, or in frames narrower than the caliper stood. */
export function Holds({ use }: { readonly use: WorkbenchStore }) {
  const holds = use((s) => s.holds);
  const { setHolds } = use.getState();
  return (
    <button
      type="button"
      className="holds"
      aria-pressed={holds !== undefined}
      title="Whether edits hold everywhere, or only in frames narrower than the caliper stands (Alt N)"
      onClick={() => {
        setHolds(holds === undefined ? use.getState().frameWidth : undefined);
      }}
    >
      Edits hold <b>{holds === undefined ? 'everywhere' : `below ${holds}`}</b>
    </button>
  );
}
