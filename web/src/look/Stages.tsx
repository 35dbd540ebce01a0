import { NavLink } from 'react-router';

export type Stage = 'drawing' | 'structure' | 'proof' | 'handoff';

const STAGES: readonly { readonly key: Stage; readonly label: string; readonly path: string }[] = [
  { key: 'drawing', label: 'Drawing', path: '/drawing' },
  { key: 'structure', label: 'Structure', path: '' },
  { key: 'proof', label: 'Proof', path: '/proof' },
  { key: 'handoff', label: 'Handoff', path: '/handoff' },
];

/** The stages of a screen, always one step away from each other. */
export function Stages({ screenId, now }: { readonly screenId: string; readonly now: Stage | undefined }) {
  return (
    <nav className="stages" aria-label="Stages of this screen">
      {STAGES.map(({ key, label, path }) => (
        <NavLink
          key={key}
          to={`/screens/${screenId}${path}`}
          end
          className={key === now ? 'stage stage-now' : 'stage'}
          aria-current={key === now ? 'step' : undefined}
        >
          {label}
        </NavLink>
      ))}
    </nav>
  );
}
