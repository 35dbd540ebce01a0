import { Button } from 'antd';
import { memo, useMemo, useRef, useState } from 'react';
import type { Engine } from '@tinfold/core/layout';
import {
  completed,
  completionsOf,
  findPart,
  formatRuleLine,
  parseRuleLine,
  walk,
  type Part,
  type Structure,
} from '@tinfold/core/model';
import { inHand } from './commands';
import { copiesOf } from './rows';
import { settingOf } from './said';
import type { WorkbenchStore } from './store';
import { Why } from './Why';

/** So many lines that were taken are kept to be typed again. */
const KEPT = 50;

/** A typed line: rules for what is in hand, or for all parts of a name; undefined for an empty one. */
export function ruleLine(typed: string): { readonly name?: string; readonly rules: string } | undefined {
  const all = /^\s*all\s+([^:]+?)\s*:\s*(.+)$/i.exec(typed);
  if (all) return { name: all[1] ?? '', rules: all[2] ?? '' };
  return typed.trim() === '' ? undefined : { rules: typed };
}

/**
 * The parts of a name, whatever its case, those that are numbered among equals too; where there is none, those whose names end so:
 * all that are a tile, a picture, links.
 */
export function partsNamed(root: Part, name: string): Part[] {
  const wanted = name.trim().toLowerCase();
  const own = (p: Part) => p.name.toLowerCase();
  const parts = [...walk(root)];
  const named = parts.filter((p) => own(p) === wanted || own(p).replace(/ \d+$/, '') === wanted);
  return named.length > 0 ? named : parts.filter((p) => own(p).replace(/ \d+$/, '').endsWith(` ${wanted}`));
}

/** Where a word of the rules stands in what was typed: what is not understood is marked there. */
export function placeOfWord(typed: string, rules: string, word: number): readonly [from: number, to: number] {
  const start = typed.length - rules.length;
  const found = [...rules.matchAll(/\S+/g)][word];
  return found ? [start + found.index, start + found.index + found[0].length] : [typed.length, typed.length];
}

/** So many words are offered at once. */
const OFFERED = 5;

interface RuleLineProps {
  readonly use: WorkbenchStore;
  /** The structure as it was read, before any edit. */
  readonly asRead: Structure | null;
  readonly engine: Engine;
}

/** The line at the foot of the parts list: rules typed for the part in hand, in the list's own language. */
export const RuleLine = memo(function RuleLine({ use, asRead, engine }: RuleLineProps) {
  const root = use((s) => s.doc.root);
  const selected = use((s) => s.selected);
  const refusal = use((s) => s.refusal);
  const offer = use((s) => s.offer);
  const { edit, refuse } = use.getState();
  const [typed, setTyped] = useState('');
  const [lines, setLines] = useState<readonly string[]>([]);
  const [back, setBack] = useState(0);
  const [focused, setFocused] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const names = useMemo(
    () => (focused ? [...new Set([...walk(root)].map((p) => p.name))] : []),
    [root, focused],
  );
  const offered = focused ? completionsOf(typed, names).slice(0, OFFERED) : [];
  const part = selected === undefined ? undefined : findPart(root, selected);
  const also = use((s) => s.also);
  const take = () => {
    const line = ruleLine(typed);
    if (!line) return;
    const parsed = parseRuleLine(line.rules);
    if (!parsed.ok) {
      refuse(parsed.reason);
      const [from, to] = placeOfWord(typed, line.rules, parsed.word ?? 0);
      input.current?.setSelectionRange(from, to);
      return;
    }
    const parts = line.name === undefined ? inHand({ use }) : partsNamed(root, line.name);
    const [first] = parts;
    if (!first) {
      refuse(
        line.name === undefined
          ? 'Choose a part first, or type all, a name and a colon before the rules.'
          : `No part is called “${line.name}”: type a name as the parts list shows it.`,
      );
      return;
    }
    const ids = [...new Set(parts.flatMap((p) => copiesOf(root, p.id)))];
    const label = ids.length === 1 ? `Rules of ${first.name}` : `Rules of ${ids.length} parts`;
    if (!edit(label, settingOf(use.getState(), first.id, ids, parsed.value))) return;
    setTyped('');
    setLines((now) => [...now.filter((l) => l !== typed), typed].slice(-KEPT));
    setBack(0);
  };
  /** Leads back through the lines that were taken before. */
  const again = (by: number) => {
    const to = Math.min(lines.length, Math.max(0, back + by));
    setBack(to);
    setTyped(to === 0 ? '' : (lines.at(-to) ?? ''));
  };
  return (
    <footer className="rule-line">
      {refusal !== undefined && (
        <p className="refusal" role="alert">
          {refusal}
          {offer && (
            <Button
              size="small"
              // Before what is typed loses the focus, and is refused again.
              onMouseDown={(e) => {
                e.preventDefault();
              }}
              onClick={offer.take}
            >
              Take {offer.value}
            </Button>
          )}
        </p>
      )}
      <Why use={use} asRead={asRead} engine={engine} />
      <label>
        <span className="rule-line-part">
          {part ? (also.size > 0 ? `${also.size + 1} parts ▸` : `${part.name} ▸`) : 'No part in hand'}
        </span>
        <input
          ref={input}
          value={typed}
          placeholder={
            part
              ? formatRuleLine(part.rules)
              : 'choose a row or point at a sheet, or type all, a name and rules'
          }
          aria-label="Type rules for the part in hand"
          onChange={(e) => {
            setTyped(e.currentTarget.value);
          }}
          onFocus={() => {
            setFocused(true);
          }}
          onBlur={() => {
            setFocused(false);
          }}
          onKeyDown={(e) => {
            const [first] = offered;
            if (e.key === 'Tab' && !e.shiftKey && first) {
              setTyped(completed(typed, first));
              e.preventDefault();
            }
            if (e.key === 'Enter') take();
            if (e.key === 'Escape') setTyped('');
            if (e.key === 'ArrowUp') again(1);
            if (e.key === 'ArrowDown') again(-1);
          }}
        />
        {offered.length > 0 && (
          <ul className="rule-words" aria-label="What may come here; Tab takes the first">
            {offered.map((o, i) => (
              <li key={o.word}>
                <b>{o.word}</b> <i>{o.takes}</i> {o.says}
                {i === 0 && <kbd>Tab</kbd>}
              </li>
            ))}
          </ul>
        )}
      </label>
    </footer>
  );
});
