import { execFile } from 'node:child_process';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import * as v from 'valibot';
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { structureFromJson } from '@tinfold/core/model';
import { FaultsFileSchema, type FaultsFile } from '@tinfold/core/proof';
import type { ReflowAnswer } from '../src/answer.js';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));
const BOARD = path.join(ROOT, 'demo/departures-1280.svg');
const PASS = path.join(ROOT, 'demo/boarding-pass-390.svg');
const PHONE = path.join(ROOT, 'demo/departures-390.svg');

const tinfold = (...args: string[]): Promise<{ code: number; out: string; err: string }> =>
  new Promise((resolve) => {
    execFile(
      process.execPath,
      [path.join(ROOT, 'cli/bin/tinfold.js'), ...args],
      { cwd: ROOT },
      (error, out, err) => {
        resolve({ code: typeof error?.code === 'number' ? error.code : 0, out, err });
      },
    );
  });

describe('the command', () => {
  let folder: string;
  const file = (name: string) => path.join(folder, name);
  const json = async <T>(name: string): Promise<T> => JSON.parse(await readFile(file(name), 'utf8')) as T;

  beforeAll(async () => {
    folder = await mkdtemp(path.join(tmpdir(), 'tinfold-cli-'));
  });
  afterAll(() => rm(folder, { recursive: true, force: true }));

  test('reflow writes boxes of items and parts for each width, and the structure', async () => {
    expect(await tinfold('reflow', BOARD, '--widths', '480,1280', '--out', file('a.json'))).toMatchObject({
      code: 0,
      err: '',
    });
    const answer = await json<ReflowAnswer>('a.json');
    expect(answer.widths['1280']?.boxes['Card 1 box']).toEqual([40, 416, 285, 132]);
    expect(answer.widths['1280']?.height).toBe(640);
    const { boxes, parts } =
      answer.widths['480'] ??
      ({ boxes: {}, parts: {} } as Pick<ReflowAnswer['widths'][string], 'boxes' | 'parts'>);
    for (const [x, , width] of Object.values(boxes)) expect(x + width).toBeLessThanOrEqual(480.5);
    const group = answer.structure.find((p) => p.flow === 'grid');
    expect(group?.items).toContain('Card 3 time');
    expect(parts[group?.part ?? '']).toBeDefined();
  });

  test('two drawings of one screen are one structure, in the ids of the first', async () => {
    await tinfold('reflow', BOARD, PHONE, '--widths', '390,1280', '--out', file('two.json'));
    const { widths, structure } = await json<ReflowAnswer>('two.json');
    const [narrow, wide] = [widths['390']?.boxes ?? {}, widths['1280']?.boxes ?? {}];
    expect([narrow['m Menu'] !== undefined, wide['m Menu'] !== undefined]).toEqual([true, false]);
    expect([narrow['Link Fares'] !== undefined, wide['Link Fares'] !== undefined]).toEqual([false, true]);
    expect([narrow['Card 1 box']?.[2], wide['Card 1 box']?.[2]]).toEqual([358, 285]);
    expect(structure.flatMap((p) => p.items)).not.toContain('m Menu');
    await tinfold('reflow', PHONE, BOARD, '--widths', '390', '--out', file('other.json'));
    const other = await json<ReflowAnswer>('other.json');
    expect(other.widths['390']?.boxes['m Card 1 box']?.[2]).toBe(358);
    expect(other.structure.flatMap((p) => p.items)).toContain('m Menu');
  });

  test('convert writes a structure that export takes', async () => {
    expect(await tinfold('convert', PASS, '--out', file('doc.json'))).toMatchObject({ code: 0 });
    expect(structureFromJson(await json('doc.json')).drawn).toEqual({ width: 390, height: 844 });
    expect(await tinfold('export', file('doc.json'), '--to', 'html', '--out', file('site'))).toMatchObject({
      code: 0,
    });
    expect(await readFile(file('site/index.html'), 'utf8')).toContain('data-part="p1"');
    expect(await readFile(file('site/styles.css'), 'utf8')).toContain('display: flex');
  });

  test('export writes several formats into a folder each, drawings at the widths asked for, and all of it as one zip, always the same', async () => {
    const args = ['--to', 'react,svg,tokens', '--widths', '320,768', '--out', file('all')];
    expect(await tinfold('export', BOARD, PHONE, ...args)).toMatchObject({ code: 0 });
    expect((await readdir(file('all/svg'))).map((f) => f.replace(/^.*-/, '')).sort()).toEqual([
      '320.svg',
      '768.svg',
    ]);
    expect(await readdir(file('all/react/components'))).toEqual(['MarrowIsleTile.tsx']);
    expect(JSON.parse(await readFile(file('all/tokens/tokens.json'), 'utf8'))).toBeTypeOf('object');
    for (const name of ['one.zip', 'two.zip'])
      await tinfold('export', PASS, '--to', 'zip', '--out', file(name));
    const [one, two] = [await readFile(file('one.zip')), await readFile(file('two.zip'))];
    expect(one.equals(two)).toBe(true);
    expect(Object.keys(unzipSync(one))).toEqual(
      expect.arrayContaining(['html/index.html', 'spec/spec.html', 'json/structure.schema.json']),
    );
  });

  test.each(['pdf', 'poppler.svg'])(
    'a screen as %s is read like its drawing: its words are texts',
    async (form) => {
      const exported = path.join(ROOT, `demo/exported/boarding-pass-390.${form}`);
      expect(await tinfold('convert', exported, '--out', file('pass.json'))).toMatchObject({ code: 0 });
      const words = JSON.stringify(structureFromJson(await json('pass.json')));
      for (const said of ['Boarding pass', 'Low Tarn', 'Ines Thorne']) expect(words).toContain(said);
    },
  );

  test('a PDF that is damaged is refused in one sentence', async () => {
    await writeFile(file('broken.pdf'), '%PDF-1.7 and nothing else');
    const { code, err } = await tinfold('convert', file('broken.pdf'), '--out', file('none.json'));
    expect(code).not.toBe(0);
    expect(err).toContain('The PDF is damaged and cannot be read: export it again.');
  });

  test('help is written out, and tells all commands', async () => {
    const { code, out } = await tinfold('--help');
    expect(code).toBe(0);
    expect(out).toMatch(/reflow[\s\S]*convert[\s\S]*export/);
  });

  test.each<[string, string[], number, RegExp]>([
    ['no command', [], 2, /Name a command/],
    ['an unknown command', ['fold'], 2, /unknown command/],
    ['no widths', ['reflow', BOARD, '--out', 'x.json'], 2, /--widths/],
    ['wrong widths', ['reflow', BOARD, '--widths', '0,a', '--out', 'x.json'], 2, /whole px/],
    [
      'a missing file',
      ['convert', 'gone.svg', '--out', 'x.json'],
      1,
      /gone\.svg cannot be read: there is no such file/,
    ],
    ['a file that is no drawing', ['convert', 'package.json', '--out', 'x.json'], 1, /not a drawing/],
    [
      'two drawings of one width',
      ['reflow', PHONE, PASS, '--widths', '300', '--out', 'x.json'],
      1,
      /Two drawings are 390 px wide/,
    ],
    ['an unknown format', ['export', BOARD, '--to', 'pdf', '--out', 'x'], 2, /zip, or some of html, react/],
  ])('%s is told in one sentence', async (_, args, code, message) => {
    const result = await tinfold(...args);
    expect(result.code).toBe(code);
    expect(result.err).toMatch(message);
    expect(result.err.trim().split('\n')).toHaveLength(1);
    expect(result.err.trim()).toMatch(/[.!?]$/);
  });

  test('a JSON file that is no structure is refused with the place', async () => {
    await writeFile(file('wrong.json'), '{"version":1}');
    const { code, err } = await tinfold('export', file('wrong.json'), '--to', 'html', '--out', file('x'));
    expect([code, err]).toEqual([1, expect.stringContaining('not a Tin Fold structure: at ')]);
  });

  describe('proof', () => {
    test('tells the faults, writes them by their schema, and fails for an error', async () => {
      const run = await tinfold('proof', BOARD, '--out', file('faults.json'));
      expect(run).toMatchObject({ code: 1, err: '' });
      expect(run.out).toMatch(/^error\s+\d+–\d+\s+“[^”]+” (?:lies|is|runs|sticks|has) .+/m);
      const told = /320–1920: (\d+) errors?, .*0 of 0 expectations broken\n$/.exec(run.out);
      const faults = await json<FaultsFile>('faults.json');
      expect(v.is(FaultsFileSchema, faults)).toBe(true);
      expect(faults.faults.filter((f) => f.severity === 'error')).toHaveLength(Number(told?.[1]));
      expect(Number(told?.[1])).toBeGreaterThan(0);
    });

    test('two drawings of a screen hold; a range of its own is looked at alone', async () => {
      expect(await tinfold('proof', BOARD, PHONE)).toMatchObject({ code: 0 });
      const wide = await tinfold(
        'proof',
        BOARD,
        '--from',
        '1000',
        '--to',
        '1400',
        '--out',
        file('wide.json'),
      );
      expect(wide.code).toBe(0);
      expect(await json<FaultsFile>('wide.json')).toMatchObject({ from: 1000, to: 1400 });
    });

    test('a structure as JSON is proved and reflowed like its drawing', async () => {
      await tinfold('convert', BOARD, '--out', file('board.json'));
      await tinfold('proof', file('board.json'), '--out', file('a.json'));
      await tinfold('proof', BOARD, '--out', file('b.json'));
      const kinds = ({ faults }: FaultsFile) => faults.map((f) => `${f.kind} ${f.from} ${f.to}`);
      expect(kinds(await json<FaultsFile>('a.json'))).toEqual(kinds(await json<FaultsFile>('b.json')));
      await tinfold('reflow', file('board.json'), '--widths', '480', '--out', file('r1.json'));
      await tinfold('reflow', BOARD, '--widths', '480', '--out', file('r2.json'));
      expect(await json('r1.json')).toEqual(await json('r2.json'));
    });

    test('expectations, trials, report and JUnit', async () => {
      await writeFile(
        file('expect.txt'),
        '# what has to hold\nno side scroll\nas drawn at 1280\nno errors\n',
      );
      const run = await tinfold(
        'proof',
        BOARD,
        ...['--trials', 'right-to-left,other-script', '--expect', file('expect.txt')],
        ...['--report', file('report.html'), '--junit', file('junit.xml'), '--out', file('all.json')],
        ...['--fail-on', 'expectation'],
      );
      expect(run.code).toBe(1);
      const { expectations, faults } = await json<FaultsFile>('all.json');
      expect(expectations.map((e) => e.holds)).toEqual([true, true, false]);
      expect(faults.some((f) => f.trial === 'right-to-left')).toBe(true);
      const report = await readFile(file('report.html'), 'utf8');
      expect(report).toMatch(/<h2>Contact sheet<\/h2>/);
      expect(report).toMatch(/All 49 items stand within 0.5 px|items stand within 0.5 px/);
      expect(report).not.toMatch(/<script|href=|src=/);
      const junit = await readFile(file('junit.xml'), 'utf8');
      expect(junit).toMatch(/<testsuite name="expectations" tests="3" failures="1">/);
      await writeFile(file('hold.txt'), 'no side scroll\n');
      expect(
        await tinfold('proof', BOARD, '--expect', file('hold.txt'), '--fail-on', 'expectation'),
      ).toMatchObject({ code: 0 });
    });

    test.each([
      [['--from', '900', '--to', '400'], 1, /give the narrower one first/],
      [['--trials', 'loud'], 2, /all, none, or some of longer-text/],
      [['--fail-on', 'note'], 2, /error, warning or expectation/],
      [['--expect', 'nowhere.txt'], 1, /there is no such file/],
    ])('wrong use is told: %s', async (args, code, words) => {
      const run = await tinfold('proof', BOARD, ...args);
      expect(run.code).toBe(code);
      expect(run.err).toMatch(words);
    });

    test('an expectation that is none is told with its line', async () => {
      await writeFile(file('odd.txt'), 'no side scroll\nbe nice\n');
      const run = await tinfold('proof', BOARD, '--expect', file('odd.txt'));
      expect(run.code).toBe(1);
      expect(run.err).toMatch(/^Line 2: “be nice” is no expectation/);
    });
  });
});
