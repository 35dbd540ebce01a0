import {
  fixed,
  type Content,
  type Part,
  type PartKind,
  type Rules,
  type Structure,
  type TextContent,
  type TextStyle,
} from '@tinfold/core/model';

let count = 0;

/** A part with a fresh id; a tree in a test reads like a tree. */
function part(kind: PartKind, rules: Rules, children: readonly Part[] = [], content?: Content): Part {
  const id = `t${++count}`;
  return { id, name: `${kind} ${count}`, kind, rules, children, source: [id], ...(content && { content }) };
}

export const style = (size = 16, weight = 400, family = 'Inter'): TextStyle => ({
  family,
  size,
  weight,
  italic: false,
  letterSpacing: 0,
  colour: '#1d2b34',
});

export const words = (text: string, lineHeight = 24, type = style()): TextContent => ({
  kind: 'text',
  runs: [{ text, style: type }],
  lineHeight,
  align: 'start',
});

export const column = (rules: Rules, ...children: Part[]): Part =>
  part('container', { flow: 'column', ...rules }, children);
export const row = (rules: Rules, ...children: Part[]): Part =>
  part('container', { flow: 'row', ...rules }, children);
export const wrap = (rules: Rules, ...children: Part[]): Part =>
  part('container', { flow: 'wrap', ...rules }, children);
export const grid = (rules: Rules, ...children: Part[]): Part =>
  part('container', { flow: 'grid', ...rules }, children);
export const text = (value: string, rules: Rules = {}, lineHeight?: number, type?: TextStyle): Part =>
  part('text', rules, [], words(value, lineHeight, type));
export const shape = (width: number, height: number, rules: Rules = {}): Part =>
  part('shape', { width: fixed(width), height: fixed(height), ...rules });

export const structure = (root: Part, width = 1000, height = 600): Structure => ({
  version: 1,
  name: 'Test',
  drawn: { width, height },
  snap: 0,
  root,
});

/** A part under an id and a name that a test speaks of. */
export const named = (id: string, part: Part): Part => ({ ...part, id, name: id });
