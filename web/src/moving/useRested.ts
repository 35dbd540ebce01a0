import { startTransition, useEffect, useState } from 'react';

/** The value as it was when it last stayed the same for so long, ms. */
export function useRested<T>(value: T, ms: number): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => {
      startTransition(() => {
        setRested(value);
      });
    }, ms);
    return () => {
      clearTimeout(timer);
    };
  }, [value, ms]);
  return rested;
}
