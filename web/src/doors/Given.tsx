import { Button } from 'antd';
import { useState } from 'react';

/** A link that is told this once: it is shown whole, to be copied. */
export function Given({ path, says }: { readonly path: string; readonly says: string }) {
  const [isCopied, setCopied] = useState(false);
  const link = `${window.location.origin}${path}`;
  return (
    <div className="given" role="status">
      <p>{says}</p>
      <input
        className="given-link"
        readOnly
        value={link}
        aria-label="The link"
        onFocus={(e) => {
          e.currentTarget.select();
        }}
      />
      <Button
        size="small"
        onClick={() => {
          navigator.clipboard.writeText(link).then(
            () => {
              setCopied(true);
            },
            () => {
              setCopied(false);
            },
          );
        }}
      >
        {isCopied ? 'Copied' : 'Copy'}
      </Button>
    </div>
  );
}
