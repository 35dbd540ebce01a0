import { runsOver } from '../linear.js';
import { heightOf, SLACK, widthOf } from '../look.js';
import { each, type Check } from '../plan.js';
import type { Snapshot } from '../scene.js';

/** A picture may be out of its ratio by this share before it is seen to be. */
const OUT_OF_RATIO = 0.03;
/** A picture may be shown this many times as large as it is before it is seen to be. */
const ENLARGED = 1.1;
/** Something is blown up when its area is this many times that of the drawing, in a frame no wider than drawn. */
const BLOWN = 5;
/** Lines and rules stretch without being blown up, px. */
const THIN = 8;

/** Art, and pictures that are stretched to their box, out of the ratio in which they were drawn. */
export const distorted: Check = (plan) =>
  each(
    plan.shown.flatMap((i) => {
      const { content } = plan.part(i);
      const stretches = content?.kind === 'art' || (content?.kind === 'picture' && content.fit === 'fill');
      const drawing = stretches ? plan.drawn(i) : undefined;
      const ratio = drawing ? widthOf(drawing, i) / heightOf(drawing, i) : NaN;
      return Number.isFinite(ratio) && ratio > 0 ? [{ i, ratio }] : [];
    }),
    (look, { i, ratio }) => {
      const subject = { kind: 'distorted', part: i, other: -1, answerable: i } as const;
      const { first, last } = look;
      const wide = (s: Snapshot) => widthOf(s, i) - ratio * (1 + OUT_OF_RATIO) * heightOf(s, i);
      const narrow = (s: Snapshot) => ratio * (1 - OUT_OF_RATIO) * heightOf(s, i) - widthOf(s, i);
      look.over(subject, SLACK, wide(first), wide(last));
      look.over(subject, SLACK, narrow(first), narrow(last));
    },
  );

/** Pictures that are shown larger than the pixels that they have. */
export const enlarged: Check = (plan) =>
  each(
    plan.shown.flatMap((i) => {
      const { content } = plan.part(i);
      return content?.kind === 'picture' && content.natural
        ? [{ i, natural: content.natural, covers: content.fit === 'cover' }]
        : [];
    }),
    (look, { i, natural, covers }) => {
      const subject = { kind: 'enlarged', part: i, other: -1, answerable: i } as const;
      const across = look.term((s) => widthOf(s, i) - ENLARGED * natural.width);
      const down = look.term((s) => heightOf(s, i) - ENLARGED * natural.height);
      if (covers) {
        look.over(subject, SLACK, ...across);
        look.over(subject, SLACK, ...down);
      } else look.allOver(subject, SLACK, [across, down]);
    },
  );

/** Boxes and pictures that are several times as large as drawn, although the frame is no wider in proportion. */
export const blownUp: Check = (plan) =>
  each(
    plan.shown.flatMap((i) => {
      const { kind, content } = plan.part(i);
      const drawing = kind !== 'text' && (content ?? plan.isPainted(i)) ? plan.drawn(i) : undefined;
      if (!drawing || heightOf(drawing, i) <= THIN) return [];
      const area = widthOf(drawing, i) * heightOf(drawing, i);
      return area > 0 ? [{ i, area, drawn: drawing.width }] : [];
    }),
    (look, { i, area, drawn }) => {
      const { first, last } = look;
      const [wide, tall] = [look.term((s) => widthOf(s, i)), look.term((s) => heightOf(s, i))];
      if (Math.max(...wide) * Math.max(...tall) <= BLOWN * area) return;
      const times = (share: number) => {
        const frame = first.width + (last.width - first.width) * share;
        const scale = Math.max(1, frame / drawn);
        const own = (wide[0] + (wide[1] - wide[0]) * share) * (tall[0] + (tall[1] - tall[0]) * share);
        return own / (area * scale * scale);
      };
      const { from, to } = look.stretch;
      for (const run of runsOver(times, BLOWN, from, to))
        look.at({ kind: 'blown-up', part: i, other: -1, answerable: plan.parent(i) }, run);
    },
  );
