import type { Progress } from '@tinfold/core/infer';

/** What is said while a drawing is read. */
export const STAGES: Readonly<Record<Progress['stage'] | 'opening' | 'saving', string>> = {
  opening: 'Reading the file',
  containing: 'Finding what holds what',
  grouping: 'Grouping into rows and columns',
  sizing: 'Working out sizes',
  checking: 'Comparing with the drawing',
  judging: 'Trying every width',
  saving: 'Saving',
};
