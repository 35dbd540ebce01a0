/** Makes the table of the shipped fonts' glyphs where it is missing. */
import { glyphFile } from '../host/dist/glyphs.js';

glyphFile();
