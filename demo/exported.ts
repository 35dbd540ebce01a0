/**
 * Exports drawings as other programs do: printed to PDF by Chromium, the PDF turned into SVG by poppler and by mupdf, and the
 * drawing rewritten by librsvg with its words as outlines. One more has glyphs of no font at all. Programs that are not installed are passed over.
 *
 *     npx tsx demo/exported.ts [--out DIR] [FILE.svg ...]
 *
 * Without files it makes those that the tests read from the demo's screens.
 */
import { execFileSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Driver } from 'selenium-webdriver/chrome.js';
import { SVGPathData } from 'svg-pathdata';
import { facesOf, readSvg } from '@tinfold/core/drawing';
import { faceKey, toSfnt, type Face } from '@tinfold/core/text';
import { fontFile } from '../host/src/fonts.js';
import { openBrowser } from '../e2e/support/browser.js';
import { loadFonts, startLawServer } from '../e2e/support/law.js';

const PX_PER_INCH = 96;

/** Prints a drawing to a PDF of its own size. */
async function print(driver: Driver, source: string, faces: readonly Face[]): Promise<Buffer> {
  const { width, height } = readSvg(source, '');
  const { server, url } = await startLawServer(faces);
  try {
    await loadFonts(driver, url, faces);
    await driver.executeScript(
      `document.body.innerHTML = arguments[0]; document.body.style.margin = '0';
       document.querySelector('svg').style.display = 'block';`,
      source,
    );
    // Pictures that are not decoded yet would be printed as black boxes.
    await driver.executeAsyncScript(
      `const done = arguments[arguments.length - 1];
       Promise.allSettled([...document.querySelectorAll('image')].map((i) => i.decode())).then(done);`,
    );
    const { data } = (await driver.sendAndGetDevToolsCommand('Page.printToPDF', {
      printBackground: true,
      paperWidth: width / PX_PER_INCH,
      paperHeight: height / PX_PER_INCH,
      marginTop: 0,
      marginBottom: 0,
      marginLeft: 0,
      marginRight: 0,
    })) as unknown as { data: string };
    return Buffer.from(data, 'base64');
  } finally {
    server.close();
  }
}

/** Weights of CSS in the numbers of fontconfig. */
const FONTCONFIG_WEIGHTS: Readonly<Record<number, number>> = {
  100: 0,
  200: 40,
  300: 50,
  400: 80,
  500: 100,
  600: 180,
  700: 200,
  800: 205,
  900: 210,
};

/** A folder with the font files as programs of the desktop find them, and the settings that lead there. */
function fontFolder(faces: readonly Face[]): { folder: string; settings: string } {
  const folder = mkdtempSync(path.join(tmpdir(), 'tinfold-fonts-'));
  for (const face of faces)
    writeFileSync(path.join(folder, `${faceKey(face)}.ttf`), toSfnt(readFileSync(fontFile(face))));
  // Files of one weight each name families of their own: they are to be found as weights of one.
  const named = faces.map(
    (f) =>
      `<match target="scan"><test name="file"><string>${path.join(folder, `${faceKey(f)}.ttf`)}</string></test>` +
      `<edit name="family" mode="assign"><string>${f.family.family}</string></edit>` +
      `<edit name="weight" mode="assign"><int>${FONTCONFIG_WEIGHTS[f.weight] ?? 80}</int></edit></match>`,
  );
  const settings = path.join(folder, 'fonts.conf');
  writeFileSync(
    settings,
    `<?xml version="1.0"?><!DOCTYPE fontconfig SYSTEM "fonts.dtd"><fontconfig><dir>${folder}</dir><cachedir>${folder}/cache</cachedir>${named.join('')}</fontconfig>`,
  );
  return { folder, settings };
}

/** Runs a program; whether it is installed. Other failures are thrown. */
function run(program: string, args: readonly string[], env: Record<string, string> = {}): boolean {
  try {
    execFileSync(program, args, { env: { ...process.env, ...env }, stdio: ['ignore', 'ignore', 'pipe'] });
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return false;
    throw error;
  }
}

/** Writes a drawing in all forms into a folder: `NAME.pdf`, `NAME.poppler.svg`, `NAME.mupdf.svg`, `NAME.librsvg.svg` and
 * `NAME.foreign.svg`. */
export async function exportAll(driver: Driver, file: string, name: string, out: string): Promise<void> {
  const source = readFileSync(file, 'utf8');
  const faces = facesOf(readSvg(source, name));
  const at = (ending: string) => path.join(out, `${name}.${ending}`);
  mkdirSync(out, { recursive: true });
  writeFileSync(at('pdf'), await print(driver, source, faces));
  // Else it makes pages smaller that are no whole number of points wide.
  run('pdftocairo', ['-svg', '-noshrink', '-nocenter', at('pdf'), at('poppler.svg')]);
  if (existsSync(at('poppler.svg')))
    writeFileSync(at('foreign.svg'), foreignFace(readFileSync(at('poppler.svg'), 'utf8')));
  if (run('mutool', ['draw', '-q', '-F', 'svg', '-o', at('mupdf-%d.svg'), at('pdf')])) {
    // It numbers its pages.
    const pages = readdirSync(out).filter((f) => f.startsWith(`${name}.mupdf-`));
    writeFileSync(at('mupdf.svg'), readFileSync(path.join(out, pages[0] ?? '')));
    for (const page of pages) rmSync(path.join(out, page));
  }
  const { folder, settings } = fontFolder(faces);
  run('rsvg-convert', ['-f', 'svg', '-o', at('librsvg.svg'), file], { FONTCONFIG_FILE: settings });
  rmSync(folder, { recursive: true });
}

/** How the glyphs are reshaped, so that no font has them: condensed and slanted. */
const FOREIGN = [0.93, 0, -0.12, 1.02, 0, 0] as const;

/** What poppler makes of a page, with every glyph reshaped: words in a face that is nowhere to be had. */
export function foreignFace(svg: string): string {
  return svg.replace(
    /(<symbol[^>]*id="glyph[^>]*>\s*<path[^>]* d=")([^"]*)/g,
    (_, head: string, d: string) =>
      head +
      new SVGPathData(d)
        .matrix(...FOREIGN)
        .round(1e4)
        .encode(),
  );
}

async function main(args: readonly string[]): Promise<void> {
  const here = (name: string) => fileURLToPath(new URL(name, import.meta.url));
  const given = args[0] === '--out' ? args.slice(2) : args;
  const out = args[0] === '--out' ? (args[1] ?? '.') : here('exported');
  const files = given.length > 0 ? given : [here('boarding-pass-390.svg')];
  const driver = await openBrowser();
  try {
    for (const file of files) {
      const name =
        path.basename(path.dirname(file)) === 'demo'
          ? path.basename(file, '.svg')
          : `${path.basename(path.dirname(file))}-${path.basename(file, '.svg')}`;
      await exportAll(driver, file, name, out);
    }
  } finally {
    await driver.quit();
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await main(process.argv.slice(2));
