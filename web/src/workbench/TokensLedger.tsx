import { Button } from 'antd';
import { useMemo, useRef, useState } from 'react';
import {
  breakpoints,
  modesOf,
  TOKEN_NAME,
  tokenNameOf,
  type ColourToken,
  type LengthToken,
} from '@tinfold/core/model';
import {
  DARK,
  fromDesignTokens,
  offeredTokens,
  toDesignTokens,
  weakWords,
  withDark,
  type WeakWords as Weak,
} from '@tinfold/core/tokens';
import { saved } from '../look/saved';
import { LedgerTabs } from './LedgerTabs';
import type { WorkbenchStore } from './store';
import { imported, withColour, withLength } from './tokenEdits';
import { Typed } from './tokenFields';
import { TokenOffers } from './TokenOffers';
import { TokenTable, type ValueColumn } from './TokenTable';

/** The values of lengths: in all frames, and below each width. */
const lengthColumns = (ranges: readonly number[]): ValueColumn<LengthToken>[] => [
  {
    key: 'px',
    title: 'px',
    label: (t) => `${t.name} in px`,
    value: (t) => String(t.value),
    change: (t, typed) => withLength(t, undefined, typed),
  },
  ...ranges.map((r): ValueColumn<LengthToken> => ({
    key: String(r),
    title: `below ${r}`,
    label: (t) => `${t.name} below ${r}`,
    value: (t) => String(t.below?.find((s) => s.width === r)?.value ?? ''),
    note: 'as wider',
    change: (t, typed) => withLength(t, r, typed),
  })),
];

/** The values of colours: their own, and in each mode. */
const colourColumns = (modes: readonly string[]): ValueColumn<ColourToken>[] => [
  {
    key: 'own',
    title: 'Colour',
    label: (t) => `Colour of ${t.name}`,
    value: (t) => t.value,
    change: (t, typed) => withColour(t, undefined, typed),
  },
  ...modes.map((m): ValueColumn<ColourToken> => ({
    key: m,
    title: m,
    label: (t) => `${t.name} in ${m}`,
    value: (t) => t.modes?.[m] ?? '',
    note: 'the same',
    sampled: true,
    change: (t, typed) => withColour(t, m, typed),
  })),
];

/** The tokens of the structure, with their values in ranges and colour modes, and what could be named. */
export function TokensLedger({ use }: { readonly use: WorkbenchStore }) {
  const doc = use((s) => s.doc);
  const holds = use((s) => s.holds);
  const colours = use((s) => s.colours);
  const { edit, refuse, tell, setColours } = use.getState();
  const offers = useMemo(() => offeredTokens(doc), [doc]);
  const weak = useMemo(() => weakWords(doc, colours), [doc, colours]);
  const [mode, setMode] = useState<string>();
  const file = useRef<HTMLInputElement>(null);
  const tokens = doc.tokens ?? [];
  const lengths = tokens.filter((t) => t.kind === 'length');
  const tinted = tokens.filter((t) => t.kind === 'colour');
  const ranges = [...new Set([...breakpoints(doc), ...(typeof holds === 'number' ? [holds] : [])])];
  const modes = [...new Set([...modesOf(tokens), ...(mode === undefined ? [] : [mode])])];
  const dark = withDark(doc);
  const takeFile = async (chosen: File | undefined) => {
    if (!chosen) return;
    try {
      const read = fromDesignTokens(await chosen.text());
      const { step, left } = imported(doc, read);
      const label = `${read.tokens.length - left.length} tokens of ${chosen.name}`;
      if (edit(label, step)) tell({ label, moved: [], notes: [...read.left, ...left] });
    } catch (error) {
      refuse(error instanceof Error ? error.message : String(error));
    }
  };
  const addMode = (typed: string): boolean => {
    const word = tokenNameOf(typed);
    if (TOKEN_NAME.test(word)) setMode(word);
    else refuse(`“${typed.slice(0, 40)}” is no name: begin with a letter from a to z.`);
    return TOKEN_NAME.test(word);
  };
  return (
    <section className="parts tokens" aria-label="Tokens">
      <header className="panel-head">
        <LedgerTabs use={use} />
        <span className="tokens-actions">
          <input
            ref={file}
            type="file"
            accept=".json,application/json"
            aria-label="Import design tokens"
            hidden
            onChange={(e) => {
              void takeFile(e.currentTarget.files?.[0]);
              e.currentTarget.value = '';
            }}
          />
          <Button size="small" onClick={() => file.current?.click()}>
            Import …
          </Button>
          <Button
            size="small"
            disabled={tokens.length === 0}
            onClick={() => {
              saved(`${doc.name}.tokens.json`, 'application/json', toDesignTokens(tokens));
            }}
          >
            Export
          </Button>
        </span>
      </header>
      <div className="tokens-body">
        {tokens.length === 0 && (
          <p className="tokens-none">
            A token is a length or a colour with a name: change it here and every place changes that takes it.
            {offers.length > 0 && ' What repeats on this screen is offered below.'}
          </p>
        )}
        {lengths.length > 0 && (
          <TokenTable
            use={use}
            caption="Lengths"
            tokens={lengths}
            columns={lengthColumns(ranges.sort((a, b) => b - a))}
          />
        )}
        {tinted.length > 0 && (
          <TokenTable
            use={use}
            caption={
              <>
                Colours
                {dark.length > 0 && (
                  <Button
                    size="small"
                    type="text"
                    onClick={() => {
                      if (edit('Dark values', { kind: 'several', steps: dark })) setColours(DARK);
                    }}
                  >
                    Propose dark values
                  </Button>
                )}
                <Typed label="Name of a new colour mode" value="" note="another mode …" take={addMode} />
              </>
            }
            tokens={tinted}
            columns={colourColumns(modes)}
          />
        )}
        {weak.length > 0 && <WeakWords use={use} weak={weak} />}
        {offers.length > 0 && <TokenOffers use={use} offers={offers} />}
      </div>
    </section>
  );
}

/** Words that stand out too little from what is behind them; each leads to its part. */
function WeakWords({ use, weak }: { readonly use: WorkbenchStore; readonly weak: readonly Weak[] }) {
  const colours = use((s) => s.colours);
  const { select, setLedger } = use.getState();
  return (
    <div className="weak-words">
      <h2>Words that stand out too little{colours === undefined ? '' : ` in ${colours}`}</h2>
      <ul>
        {weak.map((w) => (
          <li key={w.part}>
            <button
              type="button"
              onClick={() => {
                setLedger('parts');
                select(w.part);
              }}
            >
              <span className="weak-sample" style={{ color: w.ink, background: w.behind }}>
                Aa
              </span>
              {w.name}
              <span className="weak-by">
                {w.contrast.toFixed(2)} of {w.least}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
