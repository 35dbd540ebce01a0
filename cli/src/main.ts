import { mkdir, readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { Command, CommanderError, InvalidArgumentError } from 'commander';
import { DrawingError } from '@tinfold/core/drawing';
import { exportHtml } from '@tinfold/core/handoff';
import { structureFromJson, type Structure } from '@tinfold/core/model';
import { reflowAnswer } from './answer.js';
import { readSources, type Source } from './reading.js';

/** A failure that is the user's to mend; its message is the whole report. */
class UserError extends Error {}

async function readText(file: string): Promise<string> {
  try {
    return await readFile(file, 'utf8');
  } catch (cause) {
    const code = (cause as NodeJS.ErrnoException).code;
    const why =
      code === 'ENOENT'
        ? 'there is no such file'
        : code === 'EISDIR'
          ? 'it is a folder'
          : (code ?? 'it is unreadable');
    throw new UserError(`${file} cannot be read: ${why}. Name a drawing: SVG, HTML or JSON.`, { cause });
  }
}

async function save(file: string, text: string): Promise<void> {
  try {
    await mkdir(path.dirname(file), { recursive: true });
    await writeFile(file, text);
  } catch (cause) {
    throw new UserError(
      `${file} cannot be written: ${(cause as NodeJS.ErrnoException).code ?? 'unknown cause'}.`,
      { cause },
    );
  }
}

const openSource = async (file: string): Promise<Source> => ({
  text: await readText(file),
  name: path.basename(file).replace(/\.(?:svg|html?|json)$/i, ''),
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

async function openStructure(file: string): Promise<Structure> {
  if (!file.toLowerCase().endsWith('.json')) return (await readDrawings([file])).structure;
  const text = await readText(file);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (cause) {
    throw new UserError(`${file} is not JSON: write it with “tinfold convert”.`, { cause });
  }
  const isDrawing = typeof value === 'object' && value !== null && 'items' in value;
  return isDrawing ? (await readDrawings([file])).structure : structureFromJson(value);
}

function program(): Command {
  const tinfold = new Command('tinfold')
    .description('Reads fixed-position screen drawings into structures that resize.')
    .exitOverride()
    .configureOutput({ writeErr: () => undefined })
    .showHelpAfterError(false);
  tinfold
    .command('reflow')
    .description('read a drawing, lay it out at other widths and write where every item stands')
    .argument(
      '<drawings...>',
      'a drawing (SVG, HTML or JSON), or several of the same screen at different widths',
    )
    .requiredOption('--widths <list>', 'frame widths in px, like 375,768,1440', parseWidths)
    .requiredOption('--out <file>', 'the JSON file to write')
    .action(async (files: string[], options: { widths: number[]; out: string }) => {
      await save(options.out, toJson(reflowAnswer(await readDrawings(files), options.widths)));
    });
  tinfold
    .command('convert')
    .description('read a drawing, or several of the same screen, and write the structure as JSON')
    .argument('<drawings...>', 'drawings: SVG, HTML or JSON')
    .requiredOption('--out <file>', 'the JSON file to write')
    .action(async (files: string[], options: { out: string }) => {
      const { structure } = await readDrawings(files);
      await save(options.out, toJson(structure));
    });
  tinfold
    .command('export')
    .description('write a drawing or a structure as files for other programs')
    .argument('<file>', 'a drawing, or a structure as JSON')
    .requiredOption('--to <format>', 'html: index.html and styles.css', (format: string) => {
      if (format !== 'html') throw new InvalidArgumentError('the format is html.');
      return format;
    })
    .requiredOption('--out <folder>', 'the folder to write to')
    .action(async (file: string, options: { out: string }) => {
      const structure = await openStructure(file);
      for (const output of exportHtml(structure))
        await save(path.join(options.out, output.name), output.text);
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

/** Runs the command; gives the exit code: 0 done, 2 wrong use, 1 anything else that is wrong. */
export async function run(argv: readonly string[]): Promise<number> {
  try {
    await program().parseAsync([...argv]);
    return 0;
  } catch (error) {
    if (error instanceof CommanderError) {
      if (error.exitCode === 0) return 0;
      const message =
        error.code === 'commander.help'
          ? 'Name a command: reflow, convert or export; --help tells more.'
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
