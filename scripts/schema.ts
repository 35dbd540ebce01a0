import { writeFile } from 'node:fs/promises';
import { format, resolveConfig } from 'prettier';
import { toJsonSchema } from '@valibot/to-json-schema';
import { DrawingSchema } from '../core/src/drawing/jsonItems.js';

// Writes the schema of drawings in JSON to the docs, from the one that files are checked by.
const file = new URL('../docs/drawing.schema.json', import.meta.url);
const text = JSON.stringify(toJsonSchema(DrawingSchema));
await writeFile(file, await format(text, { ...(await resolveConfig(file)), parser: 'json' }));
