/** Makes the table of the shipped fonts' glyphs where it is missing. */
import { glyphFile } from '../cli/dist/glyphs.js';

glyphFile();
