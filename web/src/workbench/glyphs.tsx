import { ruleOf, type Part } from '@tinfold/core/model';

const LINES: Readonly<Record<string, string>> = {
  column: 'M1 1h12v10H1zM1 4.4h12M1 7.7h12',
  row: 'M1 1h12v10H1zM5 1v10M9 1v10',
  wrap: 'M1 1h12v10H1zM1 6h12M5 1v5M9 1v5M7 6v5',
  grid: 'M1 1h12v10H1zM1 6h12M7 1v10',
  free: 'M1 1h12v10H1zM3.5 3.5h4v3h-4zM7.5 6.5h3v2.5h-3z',
  text: 'M2 2.5h10M7 2.5v7M4.5 9.5h5',
  picture: 'M1 1h12v10H1zM1 11L13 1',
  shape: 'M1 1h12v10H1z',
};

const keyOf = (part: Part): string => (part.kind === 'container' ? ruleOf(part.rules, 'flow') : part.kind);

/** The mark of a part's kind or flow: folds as a shop drawing shows them. */
export function PartGlyph({ part }: { readonly part: Part }) {
  const key = keyOf(part);
  return (
    <svg className="glyph" width="14" height="12" viewBox="0 0 14 12" role="img" aria-label={key}>
      <path d={LINES[key] ?? LINES['shape']} fill="none" stroke="currentColor" strokeWidth="1.2" />
    </svg>
  );
}
