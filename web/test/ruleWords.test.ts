import { describe, expect, test } from 'vitest';
import { completed, completionsOf, parseRuleLine, RULE_WORDS, parseSize } from '@tinfold/core/model';
import rules from '../../docs/rules.md?raw';
import { placeOfWord } from '../src/workbench/RuleLine';

const rows = rules.split('\n').map((line) => line.split('|').map((cell) => cell.trim()));

describe('the words of the rule line', () => {
  test('the page of rules explains all of them as the line does', () => {
    for (const { word, takes, says, example } of RULE_WORDS)
      expect(rows).toContainEqual([
        '',
        `\`${word}\``,
        takes || '–',
        says,
        `\`${example}\``,
        `![${example}](rules/${word}.svg)`,
        '',
      ]);
  });

  test('every example is taken, and uses its word', () => {
    for (const { word, example } of RULE_WORDS) {
      expect(parseRuleLine(example).ok, example).toBe(true);
      expect(example.split(' ')).toContain(word);
    }
    for (const [, typed, , end] of rows.filter((r) => r.length === 4 && r[1]?.startsWith('`')))
      expect([typed, end, parseSize(typed?.replaceAll('`', '') ?? '').ok]).toEqual([typed, '', true]);
  });

  test('what was begun is completed, with room for what follows', () => {
    const words = (typed: string) => completionsOf(typed, []).map((w) => w.word);
    expect(words('col ga')).toEqual(['gap']);
    expect(words('m')).toEqual(['min', 'max']);
    expect(words('col ')).toEqual([]);
    expect(words('gap 1')).toEqual([]);
    const [gap] = completionsOf('col ga', []);
    expect(gap && completed('col ga', gap)).toBe('col gap ');
    const [fit] = completionsOf('w fi', []).filter((w) => w.word === 'fit');
    expect(fit && completed('w fi', fit)).toBe('w fit');
  });

  test('after all the names of parts are offered', () => {
    const names = ['Top bar', 'Low Tarn tile', 'Low Tarn'];
    const found = completionsOf('all low', names);
    expect(found.map((w) => w.word)).toEqual(['Low Tarn tile: ', 'Low Tarn: ']);
    expect(found[0] && completed('all low', found[0])).toBe('all Low Tarn tile: ');
  });

  test('a word that is not understood is told by its place', () => {
    const parsed = parseRuleLine('col gap wide pad 16');
    expect(parsed.ok ? undefined : parsed.word).toBe(2);
    expect(placeOfWord('all tile: col gap wide', 'col gap wide', 2)).toEqual([18, 22]);
    const other = parseRuleLine('row bogus');
    expect(other.ok ? undefined : other.word).toBe(1);
  });
});
