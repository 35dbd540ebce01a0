import { toJsonSchema } from '@valibot/to-json-schema';
import { StructureSchema, type Structure } from '../model/index.js';
import type { TextFile } from './html.js';

const json = (value: unknown): string => `${JSON.stringify(value, null, 1)}\n`;

/** The JSON Schema (draft 7) of a structure as it is kept. */
export const structureSchema = (): unknown => toJsonSchema(StructureSchema, { ignoreActions: ['finite'] });

/** The document itself, and the schema that it holds to. */
export const exportJson = (structure: Structure): TextFile[] => [
  { name: 'structure.json', text: json(structure) },
  { name: 'structure.schema.json', text: json(structureSchema()) },
];
