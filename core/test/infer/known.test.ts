import { beforeAll, describe, expect, test } from 'vitest';
import { questionsAbout, readStructure } from '@tinfold/core/infer';
import { Engine } from '@tinfold/core/layout';
import type { ShapedMeasurer } from '@tinfold/core/text';
import { knownCases } from '../support/caseFile.js';
import { outline } from '../support/drawing.js';
import { testMeasurer } from '../support/fonts.js';
import { differencesFrom, drawingOf, misplacedIn } from '../support/known.js';

describe.each(knownCases())(
  'the structure that is read is the one that was drawn, rule by rule: $file',
  (of) => {
    let m: ShapedMeasurer;
    beforeAll(async () => {
      m = await testMeasurer();
    });

    test.each(of.cases)('$name', ({ root, width, asks, inPlaces }) => {
      const read = readStructure(drawingOf(root, width, m), m);
      const off = inPlaces ? misplacedIn(root, read.root, width, m) : differencesFrom(root, read.root);
      expect(off, outline(read.root)).toEqual([]);
      const topics: string[] = questionsAbout(read, [width], new Engine(m)).map((q) => q.topic);
      for (const topic of asks) expect(topics).toContain(topic);
    });
  },
);
