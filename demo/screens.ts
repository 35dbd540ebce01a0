import { faceFor, type TextMeasurer } from '@tinfold/core/text';
import { loadMeasurer } from '../host/src/fonts.js';
import { boardingPass } from './boardingPass.js';
import { booking, bookingPhone } from './booking.js';
import { departures, departuresPhone } from './departures.js';
import { exportNested, exportStyled } from './exporters.js';
import { fares, faresPhone } from './fares.js';
import { fleet, fleetPhone } from './fleet.js';
import { roster, rosterDialog, rosterDialogPhone, rosterPhone } from './roster.js';
import type { Sheet } from './sheet.js';

/** The ways in which programs write a drawing. */
export const DIALECTS = { nested: exportNested, styled: exportStyled } as const;

/** A drawing of the demo: its file beside this one, in one dialect. */
export interface DemoDrawing {
  readonly file: string;
  readonly dialect: keyof typeof DIALECTS;
  readonly draw: (measurer: TextMeasurer) => Sheet;
}

export const DRAWINGS: readonly DemoDrawing[] = [
  { file: 'departures-1280.svg', dialect: 'nested', draw: departures },
  { file: 'departures-390.svg', dialect: 'styled', draw: departuresPhone },
  { file: 'boarding-pass-390.svg', dialect: 'styled', draw: boardingPass },
  { file: 'booking-1280.svg', dialect: 'styled', draw: booking },
  { file: 'booking-390.svg', dialect: 'nested', draw: bookingPhone },
  { file: 'fleet-1280.svg', dialect: 'nested', draw: fleet },
  { file: 'fleet-390.svg', dialect: 'styled', draw: fleetPhone },
  { file: 'roster-1280.svg', dialect: 'styled', draw: roster },
  { file: 'roster-390.svg', dialect: 'nested', draw: rosterPhone },
  { file: 'swap-1280.svg', dialect: 'nested', draw: rosterDialog },
  { file: 'swap-390.svg', dialect: 'styled', draw: rosterDialogPhone },
  { file: 'fares-1280.svg', dialect: 'nested', draw: fares },
  { file: 'fares-390.svg', dialect: 'styled', draw: faresPhone },
];

/** A measurer with the fonts that the demo is drawn in. */
export const demoMeasurer = () =>
  loadMeasurer(
    ['Barlow', 'Inter'].flatMap((family) =>
      [400, 500, 600, 700].map((weight) => faceFor({ family, weight, italic: false })),
    ),
  );
