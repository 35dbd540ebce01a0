import { useEffect, useState, type RefObject } from 'react';

/** What of a sheet is in sight, px of the frame from its top. */
export interface Seen {
  readonly from: number;
  readonly to: number;
}

const NOTHING: Seen = { from: 0, to: 0 };

/**
 * What of a sheet is in sight, and a sixteenth of the room above and below: what lies further away is not painted. It changes in steps
 * of as much, so that scrolling paints anew now and then and not at each px.
 */
export function useSeen(sheet: RefObject<HTMLElement | null>, scale: number): Seen {
  const [seen, setSeen] = useState(NOTHING);
  useEffect(() => {
    const element = sheet.current;
    const room = element?.closest('.sheets-room');
    if (!element || !room) return undefined;
    const look = () => {
      const [own, around] = [element.getBoundingClientRect(), room.getBoundingClientRect()];
      const step = around.height / 16;
      const from = ((Math.floor((around.top - own.top) / step) - 1) * step) / scale;
      const to = ((Math.ceil((around.bottom - own.top) / step) + 1) * step) / scale;
      setSeen((before) => (before.from === from && before.to === to ? before : { from, to }));
    };
    // It looks at once, too: an observer tells the size that it begins with.
    const observer = new ResizeObserver(look);
    observer.observe(room);
    // A window of the sheet scrolls within the room: its events are heard on their way down.
    room.addEventListener('scroll', look, { capture: true, passive: true });
    return () => {
      observer.disconnect();
      room.removeEventListener('scroll', look, { capture: true });
    };
  }, [sheet, scale]);
  return seen;
}
