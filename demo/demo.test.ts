import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { faceFor } from '@tinfold/core/text';
import { loadMeasurer } from '../host/src/fonts.js';
import { boardingPass } from './boardingPass.js';
import { departures, departuresPhone } from './departures.js';
import { exportNested, exportStyled } from './exporters.js';

const kept = (name: string) => readFileSync(new URL(name, import.meta.url), 'utf8');

describe('the demo drawings', () => {
  test('are what their script draws', async () => {
    const measurer = await loadMeasurer(
      ['Barlow', 'Inter'].flatMap((family) =>
        [400, 500, 600, 700].map((weight) => faceFor({ family, weight, italic: false })),
      ),
    );
    expect(exportNested(departures(measurer))).toBe(kept('departures-1280.svg'));
    expect(exportStyled(departuresPhone(measurer))).toBe(kept('departures-390.svg'));
    expect(exportStyled(boardingPass(measurer))).toBe(kept('boarding-pass-390.svg'));
  });
});
