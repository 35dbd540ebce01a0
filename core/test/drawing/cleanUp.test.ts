import { beforeAll, describe, expect, test } from 'vitest';
import {
  factsOf,
  gridOf,
  measureDrawing,
  NO_DECISIONS,
  readSvg,
  type CleanUpKind,
  type Drawing,
  type DrawingDecisions,
} from '@tinfold/core/drawing';
import { plainText } from '@tinfold/core/model';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { testMeasurer } from '../support/fonts.js';

describe('cleaning up a drawing', () => {
  let m: ShapedMeasurer;
  beforeAll(async () => {
    m = await testMeasurer();
  });

  const read = (body: string, decisions: DrawingDecisions = NO_DECISIONS): Drawing =>
    measureDrawing(
      readSvg(
        `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300" font-family="Inter" font-size="16">${body}</svg>`,
        'Test',
      ),
      m,
      decisions,
    );
  const ids = (d: Drawing) => d.items.map((i) => i.id);
  const done = (d: Drawing) => d.notes.flatMap((n) => (n.cleanUp ? [[n.cleanUp, n.items]] : []));

  const ICON =
    '<g id="mark"><path id2="x" d="M10 10h9v9z" stroke="red"/><circle cx="14" cy="14" r="3" fill="red"/></g>';
  const CASES: [CleanUpKind, string, string[], string[]][] = [
    ['hidden', '<g display="none"><rect id="a" width="9" height="9" fill="red"/></g>', [], ['a']],
    ['hidden', '<text id="a" y="20" visibility="hidden">Pier</text>', [], ['a']],
    ['transparent', '<rect id="a" width="9" height="9" fill="red" opacity="0"/>', [], ['a']],
    ['unpainted', '<rect id="a" width="9" height="9" fill="none"/>', [], ['a']],
    ['off the frame', '<rect id="a" x="500" width="9" height="9" fill="red"/>', [], ['a']],
    [
      'double',
      '<rect id="a" width="9" height="9" fill="red"/><rect id="b" width="9" height="9" fill="red"/>',
      ['b'],
      ['a', 'b'],
    ],
    ['icon', ICON, ['mark'], ['item-1', 'item-2']],
    [
      'words',
      '<text id="a" x="20" y="40">Deck space for</text><text id="b" x="138.75" y="40">cars</text>',
      ['a'],
      ['a', 'b'],
    ],
  ];

  test.each(CASES)('%s: %s', (kind, body, cleaned, kept) => {
    const drawing = read(body);
    expect(ids(drawing)).toEqual(cleaned);
    expect(done(drawing).map(([k]) => k)).toEqual([kind]);
    const back = read(body, { ...NO_DECISIONS, keepKinds: [kind] });
    expect(ids(back)).toEqual(kept);
    expect(done(back)).toEqual([]);
  });

  test('a clean-up can be taken back for one item alone', () => {
    const body =
      '<rect id="a" width="9" height="9" fill="none"/><rect id="b" x="20" width="9" height="9" fill="none"/>';
    const drawing = read(body, { ...NO_DECISIONS, keep: ['b'] });
    expect([ids(drawing), done(drawing)]).toEqual([['b'], [['unpainted', ['a']]]]);
  });

  test('what the designer leaves out is left out, icons whole', () => {
    const drawing = read(`${ICON}<rect id="a" width="9" height="9" fill="red"/>`, {
      ...NO_DECISIONS,
      ignore: ['mark'],
    });
    expect(ids(drawing)).toEqual(['a']);
    expect(drawing.notes.map((n) => n.text)).toContain('items left out by you');
  });

  const wordsOf = (d: Drawing) => d.items.flatMap((i) => (i.kind === 'text' ? [plainText(i.content)] : []));

  test('a sentence cut into one text a line is one paragraph again', () => {
    const lines =
      '<text x="20" y="40">Leaves 14:20 from pier 2, with deck space for</text><text x="20" y="62">eighteen cars and a bus, so that nobody has to</text><text x="20" y="84">wait.</text>';
    expect(wordsOf(read(lines))).toEqual([
      'Leaves 14:20 from pier 2, with deck space for eighteen cars and a bus, so that nobody has to wait.',
    ]);
  });

  test.each([
    [
      'a list',
      '<text x="20" y="40">Sailings</text><text x="20" y="62">Fares</text><text x="20" y="84">Fleet</text>',
    ],
    [
      'a title and its words',
      '<text x="20" y="40" font-size="24">Next boat to Marrow Isle</text><text x="20" y="66">leaves from pier 2</text>',
    ],
    [
      'sentences',
      '<text x="20" y="40">The boat leaves at two.</text><text x="20" y="62">it comes back at six.</text>',
    ],
    [
      'short lines with room',
      '<text x="20" y="40">From the north</text><text x="20" y="62">ramp a boat leaves for Ellin Skerry at noon</text>',
    ],
    ['words far apart', '<text x="20" y="40">14:20</text><text x="200" y="40">late</text>'],
  ])('%s stays apart', (_, body) => {
    expect(wordsOf(read(body))).toHaveLength(body.split('<text').length - 1);
  });

  test('an exporter that writes whole paragraphs means single texts as single', () => {
    const whole = '<text><tspan x="20" y="140">Two lines</tspan><tspan x="20" y="162">in one</tspan></text>';
    expect(
      wordsOf(read(`<text x="20" y="40">Deck space for</text><text x="138.75" y="40">cars</text>${whole}`)),
    ).toHaveLength(3);
  });

  test('a picture of a whole screen is told as such, with what to export instead', () => {
    const notes = (body: string) => read(body).notes.map((n) => n.text);
    const picture = '<image width="400" height="300" href="data:image/png;base64,iVBORw0KGgo="/>';
    expect(notes(picture).join()).toContain('export the screen as SVG or PDF');
    const beside = `${picture}<rect id="a" x="10" y="10" width="20" height="20" fill="red"/>`;
    expect(notes(beside).join()).not.toContain('export the screen');
    expect(notes(picture.replace('400', '300')).join()).not.toContain('export the screen');
  });

  test('facts count what was read', () => {
    const body = `<rect id="a" x="10" y="10" width="200" height="100" fill="#eee"/><text x="20" y="40">Pier</text><text x="20" y="80" font-weight="700">Two</text>${ICON.replaceAll('10', '250')}<image x="300" y="10" width="40" height="40"/>`;
    expect(factsOf(read(body))).toEqual({
      texts: 2,
      typeStyles: 2,
      boxes: 1,
      holders: 1,
      icons: 1,
      pictures: 1,
    });
  });

  test('the grid is the largest step that most edges follow, with the margin', () => {
    const cards = [0, 1, 2]
      .map((i) => `<rect x="${40 + i * 112}" y="${24 + i * 8}" width="96" height="80" fill="#eee"/>`)
      .join('');
    expect(gridOf(read(cards))).toMatchObject({ step: 8, stepFit: 1 });
    expect(
      gridOf(
        read(
          '<rect x="40" y="10" width="320" height="50" fill="#eee"/><rect x="40" y="70" width="320" height="50" fill="#ddd"/>',
        ),
      ),
    ).toMatchObject({ margin: 40, marginFit: 1 });
    expect(gridOf(read(''))).toEqual({ step: 1, stepFit: 0, margin: 0, marginFit: 0 });
  });
});
