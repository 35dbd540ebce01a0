import { writeFile } from 'node:fs/promises';
import { format, resolveConfig } from 'prettier';
import { toJsonSchema } from '@valibot/to-json-schema';
import type { GenericSchema } from 'valibot';
import { StructureSchema } from '@tinfold/core/model';
import { FaultsFileSchema } from '@tinfold/core/proof';
import { DrawingSchema } from '../core/src/drawing/jsonItems.js';

// Writes the schemas of files to the docs, from those that the files are checked or written by.
const schemas: readonly [file: string, schema: GenericSchema][] = [
  ['drawing', DrawingSchema],
  ['faults', FaultsFileSchema],
  ['structure', StructureSchema],
];
for (const [name, schema] of schemas) {
  const file = new URL(`../docs/${name}.schema.json`, import.meta.url);
  const text = JSON.stringify(toJsonSchema(schema, { ignoreActions: ['finite'] }));
  await writeFile(file, await format(text, { ...(await resolveConfig(file)), parser: 'json' }));
}
