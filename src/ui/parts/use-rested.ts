import { useEffect, useState } from 'react';

/**
 * A value once it has stood still for a while.
 * @param rest in milliseconds
 * @param before what it is until then; the value itself where that isn't said
 */
export function useRested<T>(value: T, rest: number, before = value): T {
  const [rested, setRested] = useState(before);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), rest);
    return () => clearTimeout(timer);
  }, [value, rest]);
  return rested;
}
