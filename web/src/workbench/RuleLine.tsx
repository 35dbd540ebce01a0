import { useState } from 'react';
import type { Engine } from '@tinfold/core/layout';
import { findPart, formatRuleLine, parseRuleLine, type Structure } from '@tinfold/core/model';
import type { WorkbenchStore } from './store';
import { Why } from './Why';

interface RuleLineProps {
  readonly use: WorkbenchStore;
  /** The structure as it was read, before any edit. */
  readonly asRead: Structure | null;
  readonly engine: Engine;
}

/** The line at the foot of the parts list: rules typed for the part in hand, in the list's own language. */
export function RuleLine({ use, asRead, engine }: RuleLineProps) {
  const root = use((s) => s.doc.root);
  const selected = use((s) => s.selected);
  const refusal = use((s) => s.refusal);
  const { edit, refuse } = use.getState();
  const [typed, setTyped] = useState('');
  const part = selected === undefined ? undefined : findPart(root, selected);
  const take = () => {
    if (!part || typed.trim() === '') return;
    const parsed = parseRuleLine(typed);
    if (!parsed.ok) refuse(parsed.reason);
    else if (edit(`rules of ${part.name}`, { kind: 'setRules', parts: [{ id: part.id, set: parsed.value }] }))
      setTyped('');
  };
  return (
    <footer className="rule-line">
      {refusal !== undefined && (
        <p className="refusal" role="alert">
          {refusal}
        </p>
      )}
      <Why use={use} asRead={asRead} engine={engine} />
      <label>
        <span className="rule-line-part">{part ? `${part.name} ▸` : 'No part in hand'}</span>
        <input
          value={typed}
          disabled={!part}
          placeholder={part ? formatRuleLine(part.rules) : 'choose a row or point at a sheet'}
          aria-label="Type rules for the part in hand"
          onChange={(e) => {
            setTyped(e.currentTarget.value);
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter') take();
            if (e.key === 'Escape') setTyped('');
          }}
        />
      </label>
    </footer>
  );
}
