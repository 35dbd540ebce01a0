import { rangeWords } from '@tinfold/core/model';
import { frameOf, isWide } from './said';
import type { WorkbenchStore } from './store';

/** Where edits hold: as the rules do that they change, below the caliper, or in frames that are wider than high. */
export function Holds({ use }: { readonly use: WorkbenchStore }) {
  const holds = use((s) => s.holds);
  const wide = use((s) => isWide(frameOf(s)));
  const { setHolds } = use.getState();
  return (
    <button
      type="button"
      className="holds"
      aria-pressed={holds !== undefined}
      title={`Whether edits hold everywhere, or only in frames narrower than the caliper stands (Alt N)${wide ? ', or wider than high' : ''}`}
      onClick={() => {
        setHolds(
          holds === undefined ? use.getState().frameWidth : wide && holds !== 'wide' ? 'wide' : undefined,
        );
      }}
    >
      Edits hold <b>{holds === undefined ? 'everywhere' : rangeWords(holds)}</b>
    </button>
  );
}
