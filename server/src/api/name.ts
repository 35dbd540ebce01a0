import * as v from 'valibot';
import { Text } from '../problem.js';

/** The name of a project, a screen or a file. */
export const Name = v.pipe(
  Text,
  v.trim(),
  v.minLength(1, 'a name has at least one letter'),
  v.maxLength(200),
);
