/**
 * What each of the things that the reader goes by adds to its score: the benchmark is answered with all of them, and
 * with each left out, and the table of differences is printed. Needs the benchmark beside the project.
 */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { PRINCIPLES } from '@tinfold/core/infer';

interface Score {
  readonly score: number;
  readonly structure: { readonly G: number; readonly F: number | null; readonly P: number | null };
}

const scorer = fileURLToPath(new URL('../../shared/benchmark/score.mjs', import.meta.url));
const answer = `${process.execPath} --conditions=development --import tsx ${fileURLToPath(new URL('ablated.ts', import.meta.url))}`;
if (!existsSync(scorer))
  throw new Error('The benchmark is not here: put it beside the project, in shared/benchmark.');
const folder = mkdtempSync(path.join(tmpdir(), 'tinfold-ablation-'));

const mean = (values: readonly (number | null)[]): number => {
  const known = values.filter((v) => v !== null);
  return known.reduce((s, v) => s + v, 0) / Math.max(1, known.length);
};

function figures(without: string): number[] {
  const file = path.join(folder, 'scores.json');
  execFileSync(
    process.execPath,
    [scorer, '--cmd', answer, '--track', 'both', '--jobs', '2', '--json', file],
    { env: { ...process.env, TINFOLD_WITHOUT: without }, stdio: 'ignore' },
  );
  const { tracks } = JSON.parse(readFileSync(file, 'utf8')) as {
    tracks: { one: { cases: Score[] }; two: { cases: Score[] } };
  };
  const [one, two] = [tracks.one.cases, tracks.two.cases];
  return [
    mean(one.map((c) => c.score)),
    mean(two.map((c) => c.score)),
    mean(one.map((c) => c.structure.G)),
    mean(one.map((c) => c.structure.F)),
    mean(one.map((c) => c.structure.P)),
  ];
}

const show = (name: string, values: readonly number[], sign = false): void => {
  const cells = values.map((v) => `${sign && v >= 0 ? '+' : ''}${v.toFixed(3)}`.padStart(9));
  console.log(name.padEnd(24) + cells.join(''));
};

try {
  console.log(
    'what is left out'.padEnd(24) + ['one', 'two', 'G', 'F', 'P'].map((t) => t.padStart(9)).join(''),
  );
  const whole = figures('');
  show('nothing', whole);
  for (const principle of [...PRINCIPLES, 'second drawing']) {
    const left = figures(principle);
    show(
      principle,
      left.map((v, i) => v - (whole[i] ?? 0)),
      true,
    );
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
