/**
 * Reads every screen in folders of cases, from one drawing and from all of it, and tells whether what is read can be kept and
 * whether the proof agrees with a judge of boxes alone. The folders are arguments.
 */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { exportHtml } from '@tinfold/core/handoff';
import { Engine, standingBoxes } from '@tinfold/core/layout';
import { structureFromJson, unsound } from '@tinfold/core/model';
import { isAt, prove } from '@tinfold/core/proof';
import { readSources, type Reading } from '../host/src/reading.js';
import { isPlainlyBroken, JUDGED_WIDTHS } from '../core/test/support/plainly.js';

interface Tally {
  readings: number;
  refused: number;
  broken: number;
  told: number;
  silent: number;
  rightly: number;
}

/** Throws a sentence where the program does not take its own document back. */
function keep({ structure }: Reading): void {
  const again = structureFromJson(JSON.parse(JSON.stringify(structure)));
  const problem = unsound(again);
  if (problem) throw new Error(problem.reason);
  exportHtml(again);
}

function compare(name: string, { structure, drawings, measurer }: Reading, tally: Tally): void {
  const engine = new Engine(measurer);
  const drawn = drawings.map((d) => d.drawing);
  const [source] = drawn;
  if (!source) return;
  const { faults } = prove(structure, engine, { drawings: drawn });
  for (const width of JUDGED_WIDTHS) {
    const here = faults.filter((f) => isAt(f, width));
    const isBroken = isPlainlyBroken(source, standingBoxes(structure, width, engine), width);
    const isSilent = here.every((f) => f.severity === 'note');
    if (isBroken) tally.broken++;
    if (isBroken && here.length > 0) tally.told++;
    if (isSilent) tally.silent++;
    if (isSilent && !isBroken) tally.rightly++;
    if (isSilent && isBroken) console.log(`${name} at ${width}: broken by its boxes, and nothing is told`);
  }
}

const tallies = [1, 2].map((): Tally => ({
  readings: 0,
  refused: 0,
  broken: 0,
  told: 0,
  silent: 0,
  rightly: 0,
}));
for (const folder of process.argv.slice(2))
  for (const name of readdirSync(folder)) {
    const file = path.join(folder, name, 'case.json');
    if (!existsSync(file)) continue;
    const { samples } = JSON.parse(readFileSync(file, 'utf8')) as { samples: { svg: string }[] };
    const sources = samples.map(({ svg }) => ({
      text: readFileSync(path.join(folder, name, svg), 'utf8'),
      name,
    }));
    for (const [n, tally] of tallies.entries()) {
      const reading = await readSources(n === 0 ? sources.slice(0, 1) : sources);
      tally.readings++;
      try {
        keep(reading);
      } catch (error) {
        tally.refused++;
        console.log(`${name}: ${String(error)}`);
      }
      compare(name, reading, tally);
    }
  }
console.table({ 'one drawing': tallies[0], 'all drawings': tallies[1] });
