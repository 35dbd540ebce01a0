import { useLayoutEffect, useRef, useState, type RefObject } from 'react';

/** An element and the px that it has inside, followed while it changes. */
export function useRoom(): [RefObject<HTMLDivElement | null>, { width: number; height: number }] {
  const ref = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState({ width: 640, height: 480 });
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(() => {
      setRoom({ width: element.clientWidth, height: element.clientHeight });
    });
    observer.observe(element);
    return () => {
      observer.disconnect();
    };
  }, []);
  return [ref, room];
}
