import { useEffect, type RefObject } from 'react';

/** Scales stay between these. */
const SMALLEST = 0.1;
const LARGEST = 4;
/** How much a notch of the wheel scales: 120 units are one notch. */
const NOTCH = 600;

/** The wheel with Ctrl scales the sheets; what is under the pointer stays under it. */
export function useZoom(
  ref: RefObject<HTMLDivElement | null>,
  scale: number,
  setZoom: (scale: number) => void,
): void {
  useEffect(() => {
    const room = ref.current;
    if (!room) return;
    const wheel = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      const next = Math.min(LARGEST, Math.max(SMALLEST, scale * 2 ** (-event.deltaY / NOTCH)));
      const box = room.getBoundingClientRect();
      const [x, y] = [event.clientX - box.left, event.clientY - box.top];
      const grown = next / scale;
      setZoom(next);
      requestAnimationFrame(() => {
        room.scrollTo((room.scrollLeft + x) * grown - x, (room.scrollTop + y) * grown - y);
      });
    };
    // React listens to the wheel passively, so that it could not keep the page from being scaled.
    room.addEventListener('wheel', wheel, { passive: false });
    return () => {
      room.removeEventListener('wheel', wheel);
    };
  }, [ref, scale, setZoom]);
}
