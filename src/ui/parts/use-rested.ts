import { useEffect, useState } from 'react';

/** A value once it has stood still for a while. @param rest in milliseconds */
export function useRested<T>(value: T, rest: number): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), rest);
    return () => clearTimeout(timer);
  }, [value, rest]);
  return rested;
}
