import { describe, expect, test } from 'vitest';
import { screenName, titleIn, wordsOfFile } from '../../src/infer/names/screenName.js';

describe('what a screen is called', () => {
  test('by the title in its file', () => {
    const svg = '<?xml version="1.0"?><svg width="10"><title> Departures\n board </title></svg>';
    expect(screenName('w1280.svg', svg, 'Next sailings')).toBe('Departures board');
    expect(titleIn('<html><head><meta><title>Fares</title></head></html>')).toBe('Fares');
    expect(titleIn('<svg><rect/><g><title>A box</title></g></svg>')).toBeUndefined();
  });

  test('by what its file is called, without the width', () => {
    expect(screenName('departures-1280.svg', '<svg/>', 'Next sailings')).toBe('departures');
    expect(wordsOfFile('Boarding pass, final.pdf')).toBe('Boarding pass, final');
    expect(wordsOfFile('Crew roster 390x844.svg')).toBe('Crew roster');
  });

  test('by what stands out on it where the file says nothing, and never by nothing', () => {
    for (const file of ['w1280.svg', 'Frame 12.svg', '1440.svg', 'export_2.svg', 'screen-390x844.svg'])
      expect(screenName(file, '<svg/>', 'Next sailings')).toBe('Next sailings');
    expect(screenName('w1280.svg', '<svg/>', undefined)).toBe('w1280.svg');
    expect(screenName('', '<svg/>', '')).toBe('Screen');
  });
});
