import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { Signed } from '../doors/Signed';
import { usePaper } from './paper';

interface Crumb {
  readonly label: string;
  readonly to?: string;
}

/** The folded square. */
export function Mark() {
  return (
    <svg className="brand-mark" width="20" height="20" viewBox="0 0 20 20" aria-hidden="true">
      <path d="M0 0h20L0 20z" fill="#f6f4ee" />
      <path d="M20 0v14l-6 6H0z" fill="#c4622f" />
      <path d="M20 14h-6v6z" fill="#e7e3d7" />
    </svg>
  );
}

/** Turns the paper: a half that is light, and one that is dark. */
function PaperButton() {
  const paper = usePaper((s) => s.paper);
  const { turn } = usePaper.getState();
  const label = paper === 'light' ? 'Dark paper' : 'Light paper';
  return (
    <button type="button" className="paper-button" aria-label={label} title={label} onClick={turn}>
      <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true">
        <path d="M1 1h12v12H1z" fill="none" stroke="currentColor" strokeWidth="1.5" />
        <path d={paper === 'light' ? 'M13 1v12H1z' : 'M1 1h12L1 13z'} fill="currentColor" />
      </svg>
    </button>
  );
}

interface TopBarProps {
  readonly path: readonly Crumb[];
  readonly stages?: ReactNode;
  readonly children?: ReactNode;
  /** Who is signed in; nothing on pages for everybody. */
  readonly signed?: ReactNode;
}

/** The bar across the top of every page: where one is, and what the page adds. */
export function TopBar({ path, stages, children, signed = <Signed /> }: TopBarProps) {
  return (
    <header className="top-bar">
      <Link to="/" className="brand">
        <Mark />
        Tin Fold
      </Link>
      <nav aria-label="Where you are">
        {path.map((crumb, i) => (
          <span key={i} className="crumb">
            {crumb.to === undefined ? (
              <span aria-current="page">{crumb.label}</span>
            ) : (
              <Link to={crumb.to}>{crumb.label}</Link>
            )}
          </span>
        ))}
      </nav>
      {stages}
      <div className="top-bar-end">
        {children}
        {signed}
        <PaperButton />
      </div>
    </header>
  );
}
