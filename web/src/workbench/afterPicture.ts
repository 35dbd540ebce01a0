import { startTransition, useEffect, useState } from 'react';

/** A window that is not seen draws no picture: then it is not waited for longer than this, ms. */
const UNSEEN = 250;

/** Does some work once the next picture is on the screen, so that it does not hold that up; gives what calls it off. */
export function afterPicture(work: () => void): () => void {
  let drawn: ReturnType<typeof setTimeout> | undefined;
  const off = () => {
    cancelAnimationFrame(frame);
    clearTimeout(drawn);
    clearTimeout(unseen);
  };
  const done = () => {
    off();
    work();
  };
  const frame = requestAnimationFrame(() => {
    drawn = setTimeout(done);
  });
  const unseen = setTimeout(done, UNSEEN);
  return off;
}

/** The value as it was in the last picture: what is counted over a whole screen follows what the hand does, and does not hold it up. */
export function useAfterPicture<T>(value: T): T {
  const [shown, setShown] = useState(value);
  useEffect(
    () =>
      afterPicture(() => {
        startTransition(() => {
          setShown(value);
        });
      }),
    [value],
  );
  return shown;
}
