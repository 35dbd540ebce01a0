import * as v from 'valibot';
import { CLEAN_UP_KINDS, ITEM_KINDS } from '@tinfold/core/drawing';

const px = v.pipe(v.number(), v.finite());
const id = v.pipe(v.string(), v.maxLength(200));
const word = v.pipe(v.string(), v.minLength(1), v.maxLength(200));
const Ids = v.pipe(v.array(id), v.maxLength(20_000));

/** What a designer has decided about the items of a drawing. */
export const DecisionsSchema = v.strictObject({
  frame: v.exactOptional(v.strictObject({ x: px, y: px, width: px, height: px })),
  keepKinds: v.pipe(v.array(v.picklist(CLEAN_UP_KINDS)), v.maxLength(20)),
  keep: Ids,
  ignore: Ids,
  force: v.pipe(
    v.array(
      v.strictObject({
        id,
        kind: v.picklist(ITEM_KINDS),
        words: v.exactOptional(v.pipe(v.string(), v.maxLength(5_000))),
      }),
    ),
    v.maxLength(5_000),
  ),
  join: v.pipe(v.array(Ids), v.maxLength(2_000)),
  said: v.optional(v.pipe(v.array(v.strictObject({ glyphs: word, text: word })), v.maxLength(7_000)), []),
  setIn: v.optional(
    v.pipe(
      v.array(
        v.strictObject({
          drawn: id,
          family: id,
          weight: v.pipe(v.number(), v.minValue(1), v.maxValue(1000)),
          italic: v.boolean(),
        }),
      ),
      v.maxLength(200),
    ),
    [],
  ),
});
