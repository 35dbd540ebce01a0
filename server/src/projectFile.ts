import { createHash } from 'node:crypto';
import { strFromU8, strToU8, unzipSync } from 'fflate';
import * as v from 'valibot';
import type { DrawingDecisions } from '@tinfold/core/drawing';
import { zipOf } from '@tinfold/core/handoff';
import { structureFromJson, type Structure } from '@tinfold/core/model';
import { LeftSchema, type Left } from '@tinfold/core/proof';
import { DecisionsSchema } from './api/decisions.js';
import { Problem, Text } from './problem.js';

/** A project as one open file: a zip of JSON, of drawings as they came, and of fonts, with a manifest that names each by its sum. */
export interface ProjectContents {
  readonly name: string;
  readonly screens: readonly {
    readonly name: string;
    readonly structure: Structure | null;
    readonly asRead: Structure | null;
    readonly expectations: readonly string[];
    readonly left: readonly Left[];
    readonly drawings: readonly {
      readonly name: string;
      readonly width: number;
      readonly height: number;
      readonly decisions: DrawingDecisions | null;
      readonly source: string;
    }[];
  }[];
  readonly fonts: readonly {
    readonly family: string;
    readonly weight: number;
    readonly italic: boolean;
    readonly file: Uint8Array;
  }[];
}

const FORMAT = 'tinfold-project';
const VERSION = 1;
/** What a zip may hold when it is opened, so that a small file cannot fill the memory. */
const MOST_FILES = 3000;
const MOST_BYTES = 400 * 1024 * 1024;
const MOST_SCREENS = 500;

const px = v.pipe(v.number(), v.minValue(0), v.maxValue(1_000_000));
const words = (most: number) => v.pipe(Text, v.minLength(1), v.maxLength(most));

const Manifest = v.object({
  format: v.literal(FORMAT),
  version: v.pipe(v.number(), v.integer()),
  files: v.record(v.string(), v.string()),
});
const ProjectJson = v.strictObject({
  name: words(200),
  screens: v.pipe(v.array(words(100)), v.maxLength(MOST_SCREENS)),
  fonts: v.pipe(
    v.array(
      v.strictObject({
        family: words(200),
        weight: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(1000)),
        italic: v.boolean(),
        file: words(100),
      }),
    ),
    v.maxLength(200),
  ),
});
const ScreenJson = v.strictObject({
  name: words(200),
  structure: v.unknown(),
  asRead: v.unknown(),
  expectations: v.pipe(v.array(words(300)), v.maxLength(100)),
  left: v.pipe(v.array(LeftSchema), v.maxLength(500)),
  drawings: v.pipe(
    v.array(
      v.strictObject({
        name: words(300),
        width: px,
        height: px,
        decisions: v.nullable(DecisionsSchema),
        file: words(100),
      }),
    ),
    v.maxLength(6),
  ),
});

const sumOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const json = (value: unknown): Uint8Array => strToU8(`${JSON.stringify(value, null, 1)}\n`);

/** The ending that a drawing's file has, by its name. */
const endingOf = (name: string): string => /\.(svg|html?|json)$/i.exec(name)?.[0].toLowerCase() ?? '.svg';

/** A project as a zip. */
export function packProject({ name, screens, fonts }: ProjectContents): Uint8Array {
  const files: Record<string, Uint8Array> = {};
  const places = screens.map(({ drawings, ...screen }, i) => {
    const folder = `screens/${String(i + 1).padStart(3, '0')}`;
    const told = drawings.map(({ source, ...drawing }, k) => {
      const file = `${folder}/drawing-${k + 1}${endingOf(drawing.name)}`;
      files[file] = strToU8(source);
      return { ...drawing, file };
    });
    files[`${folder}/screen.json`] = json({ ...screen, drawings: told });
    return `${folder}/screen.json`;
  });
  const faces = fonts.map(({ file, ...font }, i) => {
    const place = `fonts/${i + 1}.sfnt`;
    files[place] = file;
    return { ...font, file: place };
  });
  files['project.json'] = json({ name, screens: places, fonts: faces });
  const sums = Object.fromEntries(Object.entries(files).map(([file, bytes]) => [file, sumOf(bytes)]));
  const manifest = json({ format: FORMAT, version: VERSION, files: sums });
  return zipOf(
    Object.entries({ 'manifest.json': manifest, ...files }).map(([file, text]) => ({ name: file, text })),
  );
}

const refused = (detail: string): Problem => new Problem(422, 'Refused', detail);

function unzipped(bytes: Uint8Array): Record<string, Uint8Array> {
  let [count, size] = [0, 0];
  try {
    return unzipSync(bytes, {
      filter: ({ originalSize }) => {
        count++;
        size += originalSize;
        if (count > MOST_FILES || size > MOST_BYTES)
          throw refused('The project file holds more than 3,000 files or 400 MB: divide the project in two.');
        return true;
      },
    });
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw refused(
      'The file is not a project file, or it is damaged: save the project again and choose that file.',
    );
  }
}

/** The project in a zip; a {@link Problem} says what is wrong with one that holds none, or is not as it was saved. */
export function unpackProject(bytes: Uint8Array): ProjectContents {
  const files = unzipped(bytes);
  const fileAt = (name: string): Uint8Array => {
    const found = Object.hasOwn(files, name) ? files[name] : undefined;
    if (!found) throw refused(`The project file lacks ${name.slice(0, 100)}: save the project again.`);
    return found;
  };
  const read = <T>(schema: v.GenericSchema<unknown, T>, name: string): T => {
    let value: unknown;
    try {
      value = JSON.parse(strFromU8(fileAt(name)));
    } catch (error) {
      if (error instanceof Problem) throw error;
      throw refused(`${name} in the project file is not JSON: save the project again.`);
    }
    const result = v.safeParse(schema, value);
    if (!result.success) {
      const [issue] = result.issues;
      throw refused(
        `${name} in the project file is wrong at ${v.getDotPath(issue) ?? 'its top'}: ${issue.message.slice(0, 200)}.`,
      );
    }
    return result.output;
  };
  const { version, files: sums } = read(Manifest, 'manifest.json');
  if (version > VERSION)
    throw refused(
      `The project file is of version ${version}, which this server does not know: bring the server up to date.`,
    );
  for (const [name, sum] of Object.entries(sums))
    if (sumOf(fileAt(name)) !== sum)
      throw refused(
        `${name.slice(0, 100)} in the project file is not as it was saved: save the project again.`,
      );
  const structureOf = (value: unknown, where: string): Structure | null => {
    if (value === null) return null;
    try {
      return structureFromJson(value);
    } catch (error) {
      throw refused(`${where}: ${error instanceof Error ? error.message : String(error)}`);
    }
  };
  const project = read(ProjectJson, 'project.json');
  return {
    name: project.name,
    fonts: project.fonts.map(({ file, ...font }) => ({ ...font, file: fileAt(file) })),
    screens: project.screens.map((place) => {
      const { drawings, structure, asRead, ...screen } = read(ScreenJson, place);
      return {
        ...screen,
        structure: structureOf(structure, place),
        asRead: structureOf(asRead, place),
        drawings: drawings.map(({ file, ...drawing }) => {
          const source = strFromU8(fileAt(file));
          if (!v.is(Text, source))
            throw refused(`${file} in the project file is no text: save the project again.`);
          return { ...drawing, source };
        }),
      };
    }),
  };
}
