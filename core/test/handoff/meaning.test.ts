import fc from 'fast-check';
import { parse as parseHtml, type DefaultTreeAdapterTypes } from 'parse5';
import { describe, expect, test } from 'vitest';
import { exportHtml } from '@tinfold/core/handoff';
import type { Part } from '@tinfold/core/model';
import { anyRoot } from '../support/arbitrary.js';
import { column, named, row, shape, structure, text } from '../support/build.js';

type Node = DefaultTreeAdapterTypes.Node;
interface Found {
  readonly tag: string;
  readonly of: Readonly<Record<string, string>>;
  readonly within: readonly string[];
}

function* elements(node: Node, within: readonly string[] = []): Generator<Found> {
  const tag = 'tagName' in node ? node.tagName : '';
  if ('attrs' in node)
    yield { tag, of: Object.fromEntries(node.attrs.map((a) => [a.name, a.value])), within };
  if ('childNodes' in node)
    for (const child of node.childNodes) yield* elements(child, tag === '' ? within : [...within, tag]);
}

const pageOf = (root: Part): Found[] => [...elements(parseHtml(exportHtml(structure(root))[0].text))];
const large = (words: string, size: number): Part => {
  const part = text(words);
  const { content } = part;
  if (content?.kind !== 'text') return part;
  return {
    ...part,
    content: { ...content, runs: content.runs.map((r) => ({ ...r, style: { ...r.style, size } })) },
  };
};

describe('what parts are in the page', () => {
  const page = pageOf(
    column(
      {},
      named(
        'Top bar',
        row(
          {},
          named('Sailings links', row({}, text('Sailings'), text('Fares'))),
          named('Sign in button', row({}, text('Sign in'))),
        ),
      ),
      named(
        'Board',
        column(
          {},
          large('Next sailings', 32),
          large('From Marrow Isle', 22),
          text('Every hour, on the hour, from pier one to pier four'),
          large('Fares', 32),
          named('Search icon button', row({}, shape(10, 10))),
          named(
            'Tiles',
            row(
              {},
              ...['a', 'b'].map((w) => ({ ...named(`${w} tile`, column({}, text(w))), pattern: 'Tile' })),
            ),
          ),
        ),
      ),
      named('Footer', row({}, text('Tin'))),
    ),
  );
  const tags = (tag: string) => page.filter((e) => e.tag === tag);

  test('bars, links and buttons are what they are called', () => {
    expect(['header', 'nav', 'main', 'footer'].map((t) => tags(t).length)).toEqual([1, 1, 1, 1]);
    expect(tags('nav')[0]?.of['aria-label']).toBe('Sailings');
    expect(tags('a')).toHaveLength(2);
    expect(tags('button').map((b) => b.of['aria-label'])).toEqual([undefined, 'Search icon']);
  });

  test('words larger than most are headings, with no level left out and one first', () => {
    expect(page.flatMap((e) => (/^h\d$/.test(e.tag) ? [e.tag] : []))).toEqual(['h1', 'h2', 'h2']);
  });

  test('copies of one pattern are a list', () => {
    expect(tags('ul')).toHaveLength(1);
    expect(tags('li').map((e) => e.within.at(-1))).toEqual(['ul', 'ul']);
  });

  test('a page of several parts beside its bars is main as a whole, and a list among them stays one', () => {
    const tiles = ['a', 'b'].map((w) => ({ ...named(`${w} tile`, column({}, text(w))), pattern: 'Tile' }));
    const flat = pageOf(
      column(
        {},
        named('Top bar', row({}, text('Tin'))),
        named('Lead', column({}, text('Next boat'))),
        named('Tiles', row({}, ...tiles)),
      ),
    );
    expect(flat.filter((e) => ['main', 'ul'].includes(e.tag)).map((e) => [e.tag, e.within.at(-1)])).toEqual([
      ['main', 'div'],
      ['ul', 'main'],
    ]);
    expect(flat.filter((e) => e.tag === 'li').map((e) => e.within.at(-1))).toEqual(['ul', 'ul']);
  });

  test('whatever parts are called, nothing stands where HTML does not let it', () => {
    const nouns = [
      'Top bar',
      'Sailings links',
      'Book button',
      'More link',
      'Fare field',
      'Notice dialog',
      'Footer',
      'Part',
    ];
    const renamed = (part: Part, name: () => string): Part => ({
      ...part,
      name: name(),
      ...(part.kind === 'container' && { pattern: name() }),
      children: part.children.map((c) => renamed(c, name)),
    });
    fc.assert(
      fc.property(anyRoot(4), fc.infiniteStream(fc.constantFrom(...nouns)), (root, stream) => {
        const all = pageOf(renamed(root, () => stream.next().value as string));
        for (const { tag, within } of all) {
          const active = within.some((t) => t === 'a' || t === 'button');
          // HTML §4.5.1 and §4.10.6: words and spans, and no other that is active.
          if (active) expect(['span', 'svg', 'path', 'text', 'img']).toContain(tag);
          if (tag === 'li') expect(within.at(-1)).toBe('ul');
          if (within.at(-1) === 'ul') expect(tag).toBe('li');
          if (within.some((t) => /^(p|h\d)$/.test(t))) expect(['span', 'svg', 'path', 'text']).toContain(tag);
          if (tag === 'header' || tag === 'footer') expect(within).not.toContain('header');
        }
        expect(all.filter((e) => e.tag === 'main')).toHaveLength(1);
      }),
      { numRuns: 150 },
    );
  });
});
