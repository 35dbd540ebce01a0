import { useEffect, useRef, useState } from 'react';
import { afterPicture } from './afterPicture';

/**
 * The value, following after the next picture when it changes now and then, and every `ms` while it changes without pause: what is
 * costly to show need not be shown at each frame of a drag.
 */
export function useThrottled<T>(value: T, ms: number): T {
  const [shown, setShown] = useState(value);
  const last = useRef(0);
  useEffect(() => {
    const follow = () => {
      last.current = performance.now();
      setShown(value);
    };
    const wait = last.current + ms - performance.now();
    if (wait <= 0) return afterPicture(follow);
    const timer = setTimeout(follow, wait);
    return () => {
      clearTimeout(timer);
    };
  }, [value, ms]);
  return shown;
}
