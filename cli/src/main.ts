import { mkdir, readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { SingleBar } from 'cli-progress';
import { Command, CommanderError, InvalidArgumentError } from 'commander';
import { DrawingError } from '@tinfold/core/drawing';
import { FORMAT_NAMES, zipOf, type Format } from '@tinfold/core/handoff';
import { structureFromJson, walk, type Structure } from '@tinfold/core/model';
import {
  faultsFile,
  proofReport,
  TRIAL_NAMES,
  USUAL_RANGE,
  wholeSentenceOf,
  widthsOf,
  type Fault,
  type TrialName,
} from '@tinfold/core/proof';
import { reflowAnswer } from './answer.js';
import { facesOfStructure, loadMeasurer } from '@tinfold/host/fonts';
import { handoffFiles } from '@tinfold/host/handoff';
import { junit } from './junit.js';
import { proveTask, readExpectations, type Proven } from '@tinfold/host/proving';
import { readSources, type Reading, type Source } from '@tinfold/host/reading';
import { sourceText } from '@tinfold/host/source';

/** A failure that is the user's to mend; its message is the whole report. */
class UserError extends Error {}

async function readText(
  file: string,
  wanted = 'a drawing: SVG, PDF, HTML or JSON',
  read: (file: string) => Promise<string> = (f) => readFile(f, 'utf8'),
): Promise<string> {
  try {
    return await read(file);
  } catch (cause) {
    if (cause instanceof DrawingError) throw cause;
    const code = (cause as NodeJS.ErrnoException).code;
    const why =
      code === 'ENOENT'
        ? 'there is no such file'
        : code === 'EISDIR'
          ? 'it is a folder'
          : (code ?? 'it is unreadable');
    throw new UserError(`${file} cannot be read: ${why}. Name ${wanted}.`, { cause });
  }
}

async function save(file: string, data: string | Uint8Array): Promise<void> {
  try {
    await mkdir(path.dirname(file), { recursive: true });
    await writeFile(file, data);
  } catch (cause) {
    throw new UserError(
      `${file} cannot be written: ${(cause as NodeJS.ErrnoException).code ?? 'unknown cause'}.`,
      { cause },
    );
  }
}

const openSource = async (file: string): Promise<Source> => ({
  text: await readText(file, undefined, sourceText),
  name: path.basename(file).replace(/\.(?:svg|pdf|html?|json)$/i, ''),
});

const readDrawings = async (files: readonly string[]) =>
  readSources(await Promise.all(files.map(openSource)));

const toJson = (value: unknown): string => `${JSON.stringify(value, null, 1)}\n`;

function parseWidths(text: string): number[] {
  const widths = text.split(',').map((w) => Number(w.trim()));
  if (widths.length === 0 || widths.some((w) => !Number.isFinite(w) || w < 1 || w > 20_000))
    throw new InvalidArgumentError('give whole px between 1 and 20000, like 375,768,1440.');
  return widths;
}

const isJson = (file: string): boolean => file.toLowerCase().endsWith('.json');

/** The structure in a JSON file; undefined where the file holds a drawing. */
async function savedStructure(file: string): Promise<Structure | undefined> {
  if (!isJson(file)) return undefined;
  const text = await readText(file);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (cause) {
    throw new UserError(`${file} is not JSON: write it with “tinfold convert”.`, { cause });
  }
  const isDrawing = typeof value === 'object' && value !== null && 'items' in value;
  return isDrawing ? undefined : structureFromJson(value);
}

/** What files hold: one structure as JSON, or drawings of one screen, which are read. */
async function openAll(files: readonly string[]): Promise<Reading> {
  const [only, ...more] = files;
  const saved = only === undefined ? undefined : await savedStructure(only);
  if (!saved) return readDrawings(files);
  if (more.length > 0)
    throw new UserError(`${only} is a structure: name it alone, or the drawings that it was read from.`);
  return { structure: saved, drawings: [], measurer: await loadMeasurer(facesOfStructure(saved)) };
}

const FAIL_LEVELS = ['error', 'warning', 'expectation'] as const;
type FailLevel = (typeof FAIL_LEVELS)[number];

function parseLevel(text: string): FailLevel {
  const level = FAIL_LEVELS.find((l) => l === text);
  if (!level) throw new InvalidArgumentError('the level is error, warning or expectation.');
  return level;
}

function parseWidth(text: string): number {
  const width = Number(text);
  if (!Number.isInteger(width) || width < 1 || width > 20_000)
    throw new InvalidArgumentError('give a whole number of px between 1 and 20000.');
  return width;
}

function parseTrials(text: string): readonly TrialName[] {
  if (text === 'all') return TRIAL_NAMES;
  if (text === 'none') return [];
  return text.split(',').map((word) => {
    const name = TRIAL_NAMES.find((t) => t === word.trim());
    if (!name) throw new InvalidArgumentError(`all, none, or some of ${TRIAL_NAMES.join(', ')}.`);
    return name;
  });
}

/** Whether a fault makes the command fail. */
const countsAt =
  (level: FailLevel) =>
  (fault: Fault): boolean =>
    level !== 'expectation' &&
    (fault.severity === 'error' || (level === 'warning' && fault.severity === 'warning'));

/** What the command prints of a proof: one line each for what is wrong. */
function printed({ structure, faults, expectations, range }: Proven): string {
  const names = new Map([...walk(structure.root)].map((p) => [p.id, p.name]));
  const nameOf = (id: string): string => names.get(id) ?? id;
  const lines = faults
    .filter((f) => f.severity !== 'note')
    .map((f) => {
      const trial = f.trial === null ? '' : ` (${f.trial})`;
      return `${f.severity.padEnd(8)} ${widthsOf(f).padEnd(10)} ${wholeSentenceOf(f, nameOf)}${trial}`;
    });
  const broken = expectations.filter((h) => !h.holds).length;
  const count = (severity: Fault['severity']) => faults.filter((f) => f.severity === severity).length;
  lines.push(
    `${range.from}–${range.to}: ${count('error')} errors, ${count('warning')} warnings, ${count('note')} notes; ${broken} of ${expectations.length} expectations broken`,
  );
  return `${lines.join('\n')}\n`;
}

interface ProofOptions {
  readonly from: number;
  readonly to: number;
  readonly trials: readonly TrialName[];
  readonly expect?: string;
  readonly out?: string;
  readonly report?: string;
  readonly junit?: string;
  readonly failOn: FailLevel;
}

/** Proves what the files hold; tells whether it fails at the level asked for. */
async function proof(files: readonly string[], options: ProofOptions): Promise<boolean> {
  const { from, to, trials, failOn } = options;
  if (from > to) throw new UserError(`The widths ${from} to ${to} are none: give the narrower one first.`);
  const expectations =
    options.expect === undefined
      ? []
      : readExpectations(await readText(options.expect, 'a text with one expectation a line'));
  const { structure, drawings } = await openAll(files);
  const bar = process.stderr.isTTY
    ? new SingleBar({
        format: 'Proving {what} [{bar}] {percentage} %',
        clearOnComplete: true,
        stream: process.stderr,
      })
    : undefined;
  bar?.start(1, 0, { what: '' });
  const proven = await proveTask({
    structure,
    drawings: drawings.map((d) => d.drawing),
    range: { from, to },
    trials,
    expectations,
    ...(bar && {
      onProgress: (done, what) => {
        bar.update(done, { what });
      },
    }),
  });
  bar?.stop();
  const counts = countsAt(failOn);
  if (options.out !== undefined)
    await save(options.out, toJson(faultsFile(proven.range, proven.faults, proven.expectations)));
  if (options.report !== undefined) await save(options.report, proofReport(proven));
  if (options.junit !== undefined) await save(options.junit, junit(proven, counts));
  process.stdout.write(printed(proven));
  return proven.faults.some(counts) || proven.expectations.some((h) => !h.holds);
}

interface ExportOptions {
  readonly to: readonly Format[] | 'zip';
  readonly out: string;
  readonly widths?: readonly number[];
}

function parseFormats(text: string): ExportOptions['to'] {
  if (text === 'zip') return text;
  return text.split(',').map((word) => {
    const name = FORMAT_NAMES.find((f) => f === word.trim());
    if (!name) throw new InvalidArgumentError(`zip, or some of ${FORMAT_NAMES.join(', ')}.`);
    return name;
  });
}

/** Writes a screen's files: one format into the folder itself, several into a folder each, or all into one zip. */
async function exportAll({ structure, drawings, measurer }: Reading, options: ExportOptions): Promise<void> {
  const { to, out, widths = drawings.map((d) => d.drawing.width) } = options;
  const at = widths.length > 0 ? widths : [structure.drawn.width];
  const formats = to === 'zip' ? FORMAT_NAMES : to;
  const files = await handoffFiles(structure, measurer, formats, at);
  if (to === 'zip') await save(out, zipOf(files));
  else for (const file of files) await save(path.join(out, file.name), file.text);
}

/** The command line. `fail` is called by a command that did its work and found something. */
function program(fail: () => void): Command {
  const tinfold = new Command('tinfold')
    .description('Reads fixed-position screen drawings into structures that resize.')
    .exitOverride()
    .configureOutput({ writeErr: () => undefined })
    .showHelpAfterError(false);
  tinfold
    .command('reflow')
    .description('read a drawing, lay it out at other widths and write where every item stands')
    .argument(
      '<files...>',
      'a drawing (SVG, PDF, HTML or JSON), several of the same screen at different widths, or a structure as JSON',
    )
    .requiredOption('--widths <list>', 'frame widths in px, like 375,768,1440', parseWidths)
    .requiredOption('--out <file>', 'the JSON file to write')
    .action(async (files: string[], options: { widths: number[]; out: string }) => {
      await save(options.out, toJson(reflowAnswer(await openAll(files), options.widths)));
    });
  tinfold
    .command('convert')
    .description('read a drawing, or several of the same screen, and write the structure as JSON')
    .argument('<drawings...>', 'drawings: SVG, PDF, HTML or JSON')
    .requiredOption('--out <file>', 'the JSON file to write')
    .action(async (files: string[], options: { out: string }) => {
      const { structure } = await readDrawings(files);
      await save(options.out, toJson(structure));
    });
  tinfold
    .command('export')
    .description('write a drawing or a structure as files for other programs')
    .argument('<files...>', 'a structure as JSON, or the drawings of a screen')
    .requiredOption(
      '--to <formats>',
      `some of ${FORMAT_NAMES.join(', ')}, or zip for one file with all of them`,
      parseFormats,
    )
    .requiredOption('--out <path>', 'the folder to write to, or the zip')
    .option('--widths <list>', 'the widths of the drawings, px', parseWidths)
    .action(async (files: string[], options: ExportOptions) => {
      await exportAll(await openAll(files), options);
    });
  tinfold
    .command('proof')
    .description('find every width at which a screen breaks')
    .argument('<files...>', 'a structure as JSON, or the drawings of a screen')
    .option('--from <px>', 'the narrowest frame', parseWidth, USUAL_RANGE.from)
    .option('--to <px>', 'the widest frame', parseWidth, USUAL_RANGE.to)
    .option('--trials <list>', `all, none, or some of ${TRIAL_NAMES.join(', ')}`, parseTrials, [])
    .option('--expect <file>', 'a text with one expectation a line')
    .option('--out <file>', 'write the faults as JSON')
    .option('--report <file>', 'write a report as HTML')
    .option('--junit <file>', 'write the outcome as JUnit XML')
    .option('--fail-on <level>', 'exit with 1 for: error, warning, expectation', parseLevel, 'error')
    .action(async (files: string[], options: ProofOptions) => {
      if (await proof(files, options)) fail();
    });
  return tinfold;
}

/** A message as one line that ends like a sentence. */
const sentence = (message: string): string => {
  const line = message
    .replace(/^error:\s*/, '')
    .replace(/\s*\n\s*/g, ' ')
    .trim();
  return /[.!?]$/.test(line) ? line : `${line}.`;
};

/**
 * Runs the command; gives the exit code: 0 done, 2 wrong use, 1 anything else that is wrong, or what a proof was to fail
 * on.
 */
export async function run(argv: readonly string[]): Promise<number> {
  try {
    let code = 0;
    const fail = (): void => {
      code = 1;
    };
    await program(fail).parseAsync([...argv]);
    return code;
  } catch (error) {
    if (error instanceof CommanderError) {
      if (error.exitCode === 0) return 0;
      const message =
        error.code === 'commander.help'
          ? 'Name a command: reflow, convert, export or proof; --help tells more.'
          : error.message;
      process.stderr.write(`${sentence(message)}\n`);
      return 2;
    }
    if (error instanceof UserError || error instanceof DrawingError || error instanceof SyntaxError) {
      process.stderr.write(`${sentence(error.message)}\n`);
      return 1;
    }
    throw error;
  }
}
