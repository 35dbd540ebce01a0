import { Button } from 'antd';
import { useMemo, useRef, useState, type CSSProperties, type ReactNode } from 'react';
import {
  breakpoints,
  modesOf,
  placesOf,
  TOKEN_NAME,
  type Parsed,
  type Step,
  type Token,
} from '@tinfold/core/model';
import {
  DARK,
  fromDesignTokens,
  offeredTokens,
  takeOffers,
  toDesignTokens,
  weakWords,
  withDark,
  type Offer,
} from '@tinfold/core/tokens';
import { saved } from '../look/saved';
import { LedgerTabs } from './LedgerTabs';
import type { WorkbenchStore } from './store';
import { imported, renamed, takenAway, tokenName, withColour, withLength } from './tokenEdits';

/** What a sort of value is called in words. */
const SORTS: Readonly<Record<Offer['sort'], string>> = {
  space: 'gaps and paddings',
  size: 'sizes and limits',
  type: 'type sizes',
  line: 'line heights',
  fill: 'fills',
  ink: 'words',
};

const places = (n: number): string => (n === 1 ? '1 place' : `${n} places`);

/** A value that is typed over in place: Enter takes it, Escape leaves it. */
function Typed({
  label,
  value,
  note,
  take,
}: {
  readonly label: string;
  readonly value: string;
  readonly note?: string | undefined;
  readonly take: (typed: string) => boolean;
}) {
  const [typed, setTyped] = useState<string>();
  const end = (input: HTMLInputElement | undefined) => {
    if (typed !== undefined && typed !== value && !take(typed)) return;
    setTyped(undefined);
    input?.blur();
  };
  return (
    <input
      className="token-typed"
      aria-label={label}
      title={note}
      value={typed ?? value}
      placeholder={note}
      onFocus={(e) => {
        e.currentTarget.select();
      }}
      onChange={(e) => {
        setTyped(e.currentTarget.value);
      }}
      onBlur={() => {
        end(undefined);
      }}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') end(e.currentTarget);
        if (e.key === 'Escape') setTyped(undefined);
      }}
    />
  );
}

/** Longer lengths are drawn so long, px. */
const LONGEST = 36;

/** A colour as a chip, a length as a bar of its size. */
function Sample({ value }: { readonly value: number | string }) {
  return typeof value === 'number' ? (
    <i
      className="token-bar"
      style={{ '--long': `${Math.max(1, Math.min(LONGEST, value))}px` } as CSSProperties}
    />
  ) : (
    <i className="token-chip" style={{ background: value }} />
  );
}

/** The tokens of the structure, with their values in ranges and colour modes, and what could be named. */
export function TokensLedger({ use }: { readonly use: WorkbenchStore }) {
  const doc = use((s) => s.doc);
  const holds = use((s) => s.holds);
  const colours = use((s) => s.colours);
  const { edit, refuse, tell, selectAll, select, setLedger } = use.getState();
  const offers = useMemo(() => offeredTokens(doc), [doc]);
  const weak = useMemo(() => weakWords(doc, colours), [doc, colours]);
  const [mode, setMode] = useState<string>();
  const file = useRef<HTMLInputElement>(null);
  const tokens = doc.tokens ?? [];
  const lengths = tokens.filter((t) => t.kind === 'length');
  const tinted = tokens.filter((t) => t.kind === 'colour');
  const ranges = [...new Set([...breakpoints(doc), ...(holds === undefined ? [] : [holds])])].sort(
    (a, b) => b - a,
  );
  const modes = [...new Set([...modesOf(tokens), ...(mode === undefined ? [] : [mode])])];
  const dark = withDark(doc);
  /** Takes an edit of a token, or says why it cannot be. */
  const take = (label: string, parsed: Parsed<Step>): boolean => {
    if (parsed.ok) return edit(label, parsed.value);
    refuse(parsed.reason);
    return false;
  };
  const name = (token: Token): ReactNode => (
    <Typed
      label={`Name of the token ${token.name}`}
      value={token.name}
      take={(typed) => take(`Name “${typed}”`, renamed(token, typed))}
    />
  );
  const used = (token: Token): ReactNode => {
    const at = placesOf(doc.root, token.name);
    return (
      <button
        type="button"
        className="token-used"
        disabled={at.length === 0}
        title="Take the parts in hand at which it stands"
        onClick={() => {
          selectAll([...new Set(at.map((p) => p.part.id))]);
        }}
      >
        {places(at.length)}
      </button>
    );
  };
  const away = (token: Token): ReactNode => (
    <button
      type="button"
      className="token-away"
      aria-label={`Take the token ${token.name} away`}
      title="Take it away; its places keep its value"
      onClick={() => take(`Take ${token.name} away`, takenAway(doc, token))}
    >
      ×
    </button>
  );
  const takeFile = async (chosen: File | undefined) => {
    if (!chosen) return;
    try {
      const read = fromDesignTokens(await chosen.text());
      const { step, left } = imported(doc, read);
      if (edit(`Tokens of ${chosen.name}`, step))
        tell({
          label: `${read.tokens.length - left.length} tokens of ${chosen.name}`,
          moved: [],
          notes: [...read.left, ...left],
        });
    } catch (error) {
      refuse(error instanceof Error ? error.message : String(error));
    }
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
          <table className="token-table">
            <caption>Lengths</caption>
            <thead>
              <tr>
                <th scope="col">Name</th>
                <th scope="col">px</th>
                {ranges.map((r) => (
                  <th scope="col" key={r}>
                    below {r}
                  </th>
                ))}
                <th scope="col">Stands at</th>
                <td />
              </tr>
            </thead>
            <tbody>
              {lengths.map((token) => (
                <tr key={token.name} data-token={token.name}>
                  <th scope="row">
                    <Sample value={token.value} />
                    {name(token)}
                  </th>
                  <td>
                    <Typed
                      label={`${token.name} in px`}
                      value={String(token.value)}
                      take={(typed) => take(`${token.name} ${typed}`, withLength(token, undefined, typed))}
                    />
                  </td>
                  {ranges.map((r) => (
                    <td key={r}>
                      <Typed
                        label={`${token.name} below ${r}`}
                        value={String(token.below?.find((s) => s.width === r)?.value ?? '')}
                        note="as wider"
                        take={(typed) => take(`${token.name} below ${r}`, withLength(token, r, typed))}
                      />
                    </td>
                  ))}
                  <td>{used(token)}</td>
                  <td>{away(token)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {tinted.length > 0 && (
          <table className="token-table">
            <caption>
              Colours
              {dark.length > 0 && (
                <Button
                  size="small"
                  type="text"
                  onClick={() => {
                    if (edit('Dark values', { kind: 'several', steps: dark }))
                      use.getState().setColours(DARK);
                  }}
                >
                  Propose dark values
                </Button>
              )}
              <Typed
                label="Name of a new colour mode"
                value=""
                note="another mode …"
                take={(typed) => {
                  const word = tokenName(typed);
                  if (!TOKEN_NAME.test(word)) {
                    refuse(`“${typed.slice(0, 40)}” is no name: begin with a letter from a to z.`);
                    return false;
                  }
                  setMode(word);
                  return true;
                }}
              />
            </caption>
            <thead>
              <tr>
                <th scope="col">Name</th>
                <th scope="col">Colour</th>
                {modes.map((m) => (
                  <th scope="col" key={m}>
                    {m}
                  </th>
                ))}
                <th scope="col">Stands at</th>
                <td />
              </tr>
            </thead>
            <tbody>
              {tinted.map((token) => (
                <tr key={token.name} data-token={token.name}>
                  <th scope="row">
                    <Sample value={token.value} />
                    {name(token)}
                  </th>
                  <td>
                    <Typed
                      label={`Colour of ${token.name}`}
                      value={token.value}
                      take={(typed) => take(`${token.name} ${typed}`, withColour(token, undefined, typed))}
                    />
                  </td>
                  {modes.map((m) => (
                    <td key={m}>
                      <span className="token-mode">
                        {token.modes?.[m] !== undefined && <Sample value={token.modes[m]} />}
                        <Typed
                          label={`${token.name} in ${m}`}
                          value={token.modes?.[m] ?? ''}
                          note="the same"
                          take={(typed) => take(`${token.name} in ${m}`, withColour(token, m, typed))}
                        />
                      </span>
                    </td>
                  ))}
                  <td>{used(token)}</td>
                  <td>{away(token)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {weak.length > 0 && (
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
        )}
        {offers.length > 0 && <Offers use={use} offers={offers} />}
      </div>
    </section>
  );
}

/** Values that repeat without a name, each with one proposed. */
function Offers({ use, offers }: { readonly use: WorkbenchStore; readonly offers: readonly Offer[] }) {
  const { edit, selectAll } = use.getState();
  const root = use((s) => s.doc.root);
  const name = (offer: Offer, typed: string): boolean => {
    const word = tokenName(typed);
    return edit(`Token ${word}`, {
      kind: 'several',
      steps: takeOffers(root, [{ ...offer, token: { ...offer.token, name: word } }]),
    });
  };
  return (
    <table className="token-table token-offers">
      <caption>
        Repeats without a name
        <Button
          size="small"
          type="text"
          onClick={() =>
            edit(`${offers.length} tokens`, { kind: 'several', steps: takeOffers(root, offers) })
          }
        >
          Name all {offers.length}
        </Button>
      </caption>
      <tbody>
        {offers.map((offer) => (
          <tr key={`${offer.sort} ${offer.token.value}`} data-offer={offer.token.name}>
            <th scope="row">
              <Sample value={offer.token.value} />
              {offer.token.value}
            </th>
            <td>{SORTS[offer.sort]}</td>
            <td>
              <button
                type="button"
                className="token-used"
                title="Take the parts in hand at which it stands"
                onClick={() => {
                  selectAll([...new Set(offer.places.map((p) => p.part))]);
                }}
              >
                {places(offer.places.length)}
              </button>
            </td>
            <td>
              <Typed
                label={`Name for ${offer.token.value} at ${SORTS[offer.sort]}`}
                value=""
                note={offer.token.name}
                take={(typed) => name(offer, typed)}
              />
            </td>
            <td>
              <Button size="small" onClick={() => name(offer, offer.token.name)}>
                Name it
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
