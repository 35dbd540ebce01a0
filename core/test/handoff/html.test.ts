import { lexer, parse as parseCss, walk as walkCss } from 'css-tree';
import fc from 'fast-check';
import { parse as parseHtml, type DefaultTreeAdapterTypes } from 'parse5';
import { describe, expect, test } from 'vitest';
import { exportHtml } from '@tinfold/core/handoff';
import { desugar } from '@tinfold/core/layout';
import { pad, walk, type Structure } from '@tinfold/core/model';
import { anyRoot, anyStructure } from '../support/arbitrary.js';
import { column, row, shape, structure, text } from '../support/build.js';

type Node = DefaultTreeAdapterTypes.Node;
type Element = DefaultTreeAdapterTypes.Element;

const elements = (node: Node): Element[] => [
  ...('attrs' in node ? [node] : []),
  ...('childNodes' in node ? node.childNodes.flatMap(elements) : []),
];

function validated(doc: Structure): { all: Element[]; css: string; html: string } {
  const [{ text: html }, { text: css }] = exportHtml(doc);
  const errors: string[] = [];
  const tree = parseHtml(html, { onParseError: (e) => errors.push(e.code) });
  walkCss(
    parseCss(css, { parseCustomProperty: true, onParseError: (e) => errors.push(e.message) }),
    (node) => {
      if (node.type === 'Raw') errors.push(node.value);
      if (node.type !== 'Declaration' || node.property.startsWith('--')) return;
      const { error } = lexer.matchProperty(node.property, node.value);
      if (error?.name === 'SyntaxMatchError') errors.push(`${node.property}: ${error.message}`);
    },
  );
  expect(errors).toEqual([]);
  return { all: elements(tree), css, html };
}

describe('the exported files', () => {
  test('are valid HTML and CSS with an element for every part', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          anyStructure(3),
          anyRoot(3).map((root) => structure(root)),
        ),
        (doc) => {
          const { all } = validated(doc);
          const ids = all.flatMap((e) => e.attrs.filter((a) => a.name === 'data-part').map((a) => a.value));
          expect(ids).toEqual([...walk(desugar(doc.root))].map((p) => p.id));
        },
      ),
      { numRuns: 40 },
    );
  });

  test('hold nothing of a drawing but its words', () => {
    const hostile = '"><script>alert(1)</script><img src=x onerror=alert(1)>';
    const root = {
      ...column({}, text(hostile), {
        ...shape(5, 5),
        paint: { fill: { kind: 'solid' as const, colour: 'red;} body{background:url(//x)' } },
      }),
      name: hostile,
    };
    const { all, css } = validated({ ...structure(root), name: hostile });
    expect(all.map((e) => e.tagName).filter((t) => ['script', 'img', 'iframe'].includes(t))).toEqual([]);
    expect(all.flatMap((e) => e.attrs).filter((a) => a.name.startsWith('on'))).toEqual([]);
    expect(css).not.toContain('url(');
    expect(all.find((e) => e.tagName === 'p')?.childNodes[0]).toMatchObject({ value: hostile });
  });

  test('class names are read from part names; parts of one name share them where they are styled alike', () => {
    const root = column(
      {},
      { ...shape(1, 1), name: 'Sign in button' },
      { ...shape(1, 1), name: 'Sign in button' },
      { ...shape(2, 1), name: 'Sign in button' },
      { ...shape(1, 1), name: '38 min' },
      { ...shape(1, 1), name: '…' },
    );
    const { all } = validated(structure(root));
    const names = all.flatMap((e) => e.attrs.filter((a) => a.name === 'class').map((a) => a.value));
    expect(names.slice(2)).toEqual([
      'sign-in-button',
      'sign-in-button',
      'sign-in-button-2',
      'n38-min',
      'part',
    ]);
  });

  test('change below breakpoints only what differs there, in units that the rules have', () => {
    const doc: Structure = {
      ...structure(
        column(
          {},
          {
            ...column({ gap: 24, padding: pad(0, 0, 8, 0), safeArea: ['bottom'] }, shape(5, 5), shape(6, 6)),
            name: 'Sailings',
            bound: { gap: 'space' },
            below: [{ width: 600, rules: { flow: 'row', gap: null } }],
          },
        ),
      ),
      tokens: [{ kind: 'length', name: 'space', value: 24, below: [{ width: 900, value: 16 }] }],
    };
    const { css } = validated(doc);
    expect(css).toContain('--space: 24px;');
    expect(css).toContain('gap: var(--space);');
    expect(css).toContain('@container frame (width < 900px) {\n.frame > * {\n  --space: 16px;\n}\n}');
    expect(css).toMatch(
      /@container frame \(width < 600px\) \{\n\.sailings \{\n {2}flex-direction: initial;\n/,
    );
    expect(css).toContain('max(8px, var(--inset-bottom))');
  });

  test('frames wider than high have a cascade of their own', () => {
    const doc = structure(
      column(
        {},
        {
          ...row({ gap: 24 }, shape(5, 5), shape(6, 6)),
          name: 'Sailings',
          below: [{ width: 600, rules: { gap: 8 } }],
          wide: { gap: 2 },
        },
      ),
    );
    const { css } = validated(doc);
    const [all = '', portrait = '', landscape = ''] = css.split(/@media \(orientation: \w+\) \{/);
    expect(all).toContain('gap: 24px;');
    expect(portrait).toContain('@container frame (width < 600px) {\n.sailings {\n  gap: 8px;');
    expect(landscape).toContain('.sailings {\n  gap: 2px;');
    expect(landscape).not.toContain('gap: 8px');
  });

  test('colours hold in the modes of the device and of the page', () => {
    const doc: Structure = {
      ...structure({
        ...column({}, text('a')),
        paint: { fill: { kind: 'solid', colour: '#ffffff' } },
        bound: { fill: 'paper' },
      }),
      tokens: [
        { kind: 'colour', name: 'paper', value: '#ffffff', modes: { dark: '#161616', dusk: '#555555' } },
      ],
    };
    const { css } = validated(doc);
    expect(css).toContain('background: var(--paper);');
    expect(css).toContain(
      '@media (prefers-color-scheme: dark) {\n:root:not([data-mode]) .frame {\n  --paper: #161616;\n}\n}',
    );
    expect(css).toContain(":root[data-mode='dusk'] .frame {\n  --paper: #555555;\n}");
    expect(css).not.toContain('prefers-color-scheme: dusk');
  });
});
