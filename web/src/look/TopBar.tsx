import type { ReactNode } from 'react';
import { Link } from 'react-router';

interface Crumb {
  readonly label: string;
  readonly to?: string;
}

/** The folded square. */
export function Mark() {
  return (
    <svg className="mark" width="20" height="20" viewBox="0 0 20 20" aria-hidden="true">
      <path d="M0 0h20L0 20z" fill="var(--paper)" />
      <path d="M20 0v14l-6 6H0z" fill="var(--copper-bright)" />
      <path d="M20 14h-6v6z" fill="var(--paper-deep)" />
    </svg>
  );
}

interface TopBarProps {
  readonly path: readonly Crumb[];
  readonly stages?: ReactNode;
  readonly children?: ReactNode;
}

/** The bar across the top of every page: where one is, and what the page adds. */
export function TopBar({ path, stages, children }: TopBarProps) {
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
      <div className="top-bar-end">{children}</div>
    </header>
  );
}
