import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { expect } from 'vitest';

const BENCHMARK = new URL('../../../../shared/benchmark/cases/', import.meta.url);

/** One screen of the benchmark: its drawings, the source first. */
export interface BenchmarkCase {
  readonly name: string;
  readonly files: readonly URL[];
}

const all: readonly BenchmarkCase[] = !existsSync(BENCHMARK)
  ? []
  : readdirSync(BENCHMARK).map((name) => {
      const folder = new URL(`${name}/`, BENCHMARK);
      const { samples } = JSON.parse(readFileSync(new URL('case.json', folder), 'utf8')) as {
        samples: { svg: string }[];
      };
      return { name, files: samples.map((s) => new URL(s.svg, folder)) };
    });

/** The cases with patterns made by hand; none where the benchmark is not beside the project. */
export const patternCases = all.filter((c) => !c.name.startsWith('page-'));
/** The cases made from real pages. */
export const pageCases = all.filter((c) => c.name.startsWith('page-'));

/** Every nth of all cases, for what other tests of each reading come upon too. */
export const everyCase = (nth: number): readonly BenchmarkCase[] => all.filter((_, i) => i % nth === 0);

/** Every nth of those, for what takes long with each of them. */
export const everyPage = (nth: number): readonly BenchmarkCase[] => pageCases.filter((_, i) => i % nth === 0);

/** Reading all real pages takes minutes on a busy machine, ms. */
export const MINUTES = 600_000;

/**
 * Real pages and random trees are more than is read rightly yet: the check has to hold for this share of them, and the
 * others are named when it does not.
 */
export async function expectOfMost<T>(
  cases: readonly T[],
  least: number,
  nameOf: (of: T) => string,
  check: (of: T) => Promise<void> | void,
): Promise<void> {
  const failed: string[] = [];
  for (const one of cases)
    try {
      await check(one);
    } catch (error) {
      failed.push(`${nameOf(one)}: ${String(error).slice(0, 200)}`);
    }
  expect(1 - failed.length / cases.length, failed.join('\n')).toBeGreaterThanOrEqual(least);
}
