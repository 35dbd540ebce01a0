/** Answers as `tinfold reflow` does, by a reader that leaves out what TINFOLD_WITHOUT names. */
import { readFile, writeFile } from 'node:fs/promises';
import { PRINCIPLES } from '@tinfold/core/infer';
import { reflowAnswer } from '../cli/src/answer.js';
import { readSources } from '../host/src/reading.js';

const given = process.argv.slice(3);
const valueOf = (name: string): string => given[given.indexOf(name) + 1] ?? '';
const files = given.slice(
  0,
  given.findIndex((a) => a.startsWith('--')),
);
const left = process.env['TINFOLD_WITHOUT']?.split(',') ?? [];
const without = new Set(PRINCIPLES.filter((p) => left.includes(p)));
const used = left.includes('second drawing') ? files.slice(0, 1) : files;
const texts = await Promise.all(used.map((file) => readFile(file, 'utf8')));
const reading = await readSources(
  texts.map((text) => ({ text, name: 'Screen' })),
  { without },
);
const widths = valueOf('--widths').split(',').map(Number);
await writeFile(valueOf('--out'), JSON.stringify(reflowAnswer(reading, widths)));
