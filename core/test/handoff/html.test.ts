import { parse as parseCss, walk as walkCss } from 'css-tree';
import fc from 'fast-check';
import { parse as parseHtml, type DefaultTreeAdapterTypes } from 'parse5';
import { describe, expect, test } from 'vitest';
import { exportHtml } from '@tinfold/core/handoff';
import { walk, type Structure } from '@tinfold/core/model';
import { anyRoot } from '../support/arbitrary.js';
import { column, shape, structure, text } from '../support/build.js';

type Node = DefaultTreeAdapterTypes.Node;
type Element = DefaultTreeAdapterTypes.Element;

const elements = (node: Node): Element[] => [
  ...('attrs' in node ? [node] : []),
  ...('childNodes' in node ? node.childNodes.flatMap(elements) : []),
];

function validated(doc: Structure): { all: Element[]; css: string; html: string } {
  const [html, css] = exportHtml(doc).map((f) => f.text);
  const errors: string[] = [];
  const tree = parseHtml(html ?? '', { onParseError: (e) => errors.push(e.code) });
  walkCss(parseCss(css ?? '', { onParseError: (e) => errors.push(e.message) }), (node) => {
    if (node.type === 'Raw') errors.push(node.value);
  });
  expect(errors).toEqual([]);
  return { all: elements(tree), css: css ?? '', html: html ?? '' };
}

describe('the exported files', () => {
  test('are valid HTML and CSS with an element for every part', () => {
    fc.assert(
      fc.property(anyRoot(3), (root) => {
        const { all } = validated(structure(root));
        const ids = all.flatMap((e) => e.attrs.filter((a) => a.name === 'data-part').map((a) => a.value));
        expect(ids).toEqual([...walk(root)].map((p) => p.id));
      }),
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

  test('class names are read from part names, each once', () => {
    const root = column(
      {},
      { ...shape(1, 1), name: 'Sign in button' },
      { ...shape(1, 1), name: 'Sign in button' },
      { ...shape(1, 1), name: '38 min' },
      { ...shape(1, 1), name: '…' },
    );
    const { all } = validated(structure(root));
    const names = all.flatMap((e) => e.attrs.filter((a) => a.name === 'class').map((a) => a.value));
    expect(names.slice(2)).toEqual(['sign-in-button', 'sign-in-button-2', 'n38-min', 'part']);
  });
});
