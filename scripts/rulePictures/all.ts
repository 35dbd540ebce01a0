import { Engine } from '@tinfold/core/layout';
import { parseRuleLine, RULE_WORDS } from '@tinfold/core/model';
import { faceFor } from '@tinfold/core/text';
import { loadMeasurer } from '../../host/src/fonts.js';
import { rulePicture } from './draw.js';
import { SCENES } from './scenes.js';

/** A picture of every word of the language of rules, laid out by the engine: without its example, and with it. */
export async function rulePictures(): Promise<readonly (readonly [word: string, svg: string])[]> {
  const measurer = await loadMeasurer([faceFor({ family: 'Inter', weight: 400, italic: false })]);
  const engine = new Engine(measurer);
  return RULE_WORDS.map(({ word, example }) => {
    const scene = SCENES[word];
    const parsed = parseRuleLine(example);
    if (!scene || !parsed.ok) throw new Error(`“${word}” has no scene, or its example is wrong.`);
    return [word, rulePicture(scene, parsed.value, engine)];
  });
}
