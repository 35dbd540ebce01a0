import { useEffect, useRef, useState } from 'react';

/**
 * The value, following at once when it changes now and then, and every `ms` while it changes without pause: what is costly
 * to show need not be shown at each frame of a drag.
 */
export function useThrottled<T>(value: T, ms: number): T {
  const [shown, setShown] = useState(value);
  const last = useRef(0);
  useEffect(() => {
    const wait = Math.max(0, last.current + ms - performance.now());
    const timer = setTimeout(() => {
      last.current = performance.now();
      setShown(value);
    }, wait);
    return () => {
      clearTimeout(timer);
    };
  }, [value, ms]);
  return shown;
}
