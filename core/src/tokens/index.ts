export { freed, released } from './changes.js';
export { contrastOf, LEAST_CONTRAST, weakWords, type WeakWords } from './contrast.js';
export { DARK, darkOf, withDark } from './dark.js';
export { fromDesignTokens, toDesignTokens, type ReadTokens } from './designTokens.js';
export { offeredTokens, takeOffers, type Offer } from './offers.js';
export { valuesOf, type PlacedValue } from './places.js';
