import type { Severity } from '@tinfold/core/proof';

/** The sign of a severity: a full disc, a half one, a ring. It does not go by colour alone. */
export function Sign({ severity }: { readonly severity: Severity }) {
  return <i className={`fault-sign fault-sign-${severity}`} role="img" aria-label={severity} />;
}
