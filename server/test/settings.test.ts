import { describe, expect, test } from 'vitest';
import { settingsIn } from '../src/settings.js';

describe('settings from the environment', () => {
  test('have values without it, and what is set to nothing is not set', () => {
    expect(settingsIn({})).toEqual({ PORT: 4317, LOG_LEVEL: 'warn' });
    expect(settingsIn({ PORT: '', HOST: '', LOG_LEVEL: '' })).toMatchObject({
      PORT: 4317,
      LOG_LEVEL: 'warn',
    });
  });

  test('are taken as they are written', () => {
    const all = {
      DATABASE_URL: 'postgres://mate@127.0.0.1:5432/ferry',
      PORT: '8080',
      HOST: '0.0.0.0',
      PUBLIC_URL: 'https://ferry.example',
      METRICS_TOKEN: 'a token of some length',
      LOG_LEVEL: 'info',
    };
    expect(settingsIn({ ...all, HOME: '/somewhere' })).toEqual({ ...all, PORT: 8080 });
  });

  test.each([
    ['PORT', 'harbour', 'The setting PORT is “harbour”: write a number from 0 to 65535.'],
    ['PORT', '70000', 'The setting PORT is “70000”: write a number from 0 to 65535.'],
    [
      'DATABASE_URL',
      'mysql://x/y',
      'The setting DATABASE_URL is “mysql://x/y”: write an address like postgres://name@127.0.0.1:5432/tinfold.',
    ],
    [
      'PUBLIC_URL',
      'ferry',
      'The setting PUBLIC_URL is “ferry”: write an address like https://ferry.example.',
    ],
    ['METRICS_TOKEN', 'short', 'The setting METRICS_TOKEN: take at least 16 letters that nobody guesses.'],
    [
      'LOG_LEVEL',
      'loud',
      'The setting LOG_LEVEL is “loud”: write one of trace, debug, info, warn, error, fatal, silent.',
    ],
  ])('%s as “%s” is refused with what to write', (name, value, sentence) => {
    expect(() => settingsIn({ [name]: value })).toThrow(sentence);
  });
});
