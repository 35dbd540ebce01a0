import { describe, expect, test } from 'vitest';
import keyboard from '../../docs/keyboard.md?raw';
import { COMMANDS, keysOf, shownKeys } from '../src/workbench/commands';
import { commandsFor } from '../src/workbench/Palette';
import { column, text } from '../../core/test/support/build.js';
import { partsNamed, ruleLine } from '../src/workbench/RuleLine';

const press = (key: string, held: Partial<Record<'alt' | 'ctrl' | 'shift' | 'meta', boolean>> = {}) =>
  keysOf({
    key,
    altKey: held.alt === true,
    ctrlKey: held.ctrl === true,
    shiftKey: held.shift === true,
    metaKey: held.meta === true,
  });

describe('the parts that a rule line names', () => {
  const root = column(
    {},
    { ...text('a'), name: 'Low Tarn tile' },
    { ...text('b'), name: 'Low Tarn tile 2' },
    { ...text('c'), name: 'Old Pier tile' },
    { ...text('d'), name: 'Tile' },
  );
  const named = (name: string) => partsNamed(root, name).map((p) => p.name);

  test('are those of that name, numbered ones too, or else those that end so', () => {
    expect(named('low tarn tile')).toEqual(['Low Tarn tile', 'Low Tarn tile 2']);
    expect(named('Tile')).toEqual(['Tile']);
    expect(named('tarn tile')).toEqual(['Low Tarn tile', 'Low Tarn tile 2']);
    expect(named('ile')).toEqual([]);
  });
});

describe('commands', () => {
  test('no two have the same keys or the same name', () => {
    const keys = COMMANDS.flatMap((c) => c.keys ?? []);
    expect(new Set(keys).size).toBe(keys.length);
    expect(new Set(COMMANDS.map((c) => c.label)).size).toBe(COMMANDS.length);
    expect(new Set(COMMANDS.map((c) => c.id)).size).toBe(COMMANDS.length);
  });

  test('keys that are pressed are told as commands name them, on a Mac too', () => {
    expect(press('g', { alt: true })).toBe('Alt+g');
    expect(press('ArrowLeft', { alt: true })).toBe('Alt+ArrowLeft');
    expect(press('Z', { ctrl: true, shift: true })).toBe('Ctrl+Shift+z');
    expect(press('z', { meta: true })).toBe('Ctrl+z');
    expect(press('A', { shift: true })).toBe('a');
    expect(press('Delete')).toBe('Delete');
  });

  test('the page of keys names all of them, with what they do', () => {
    const rows = keyboard.split('\n').map((line) => line.split('|').map((cell) => cell.trim()));
    for (const { keys, does } of COMMANDS)
      if (keys !== undefined) expect(rows).toContainEqual(['', shownKeys(keys), does, '']);
  });

  test('they are found by pieces of their words, in any order', () => {
    expect(commandsFor('gaps double').map((c) => c.id)).toEqual(['gaps-double']);
    expect(commandsFor('')).toHaveLength(COMMANDS.length);
    expect(commandsFor('no such thing')).toEqual([]);
  });
});

describe('the rule line', () => {
  test('tells rules for what is in hand from those for all parts of a name', () => {
    expect(ruleLine('gap 12 pad 8')).toEqual({ rules: 'gap 12 pad 8' });
    expect(ruleLine('all Sailing card: min 240 max 360')).toEqual({
      name: 'Sailing card',
      rules: 'min 240 max 360',
    });
    expect(ruleLine('   ')).toBeUndefined();
  });
});
