import { useEffect, useRef } from 'react';
import { create } from 'zustand';

/** How long keys may rest before what they changed is kept, in milliseconds: many presses are one change. */
const REST_MS = 700;

/** What was changed by keys and is not kept yet. */
const useUnsettled = create<{ pending: ReadonlySet<() => void> }>(() => ({ pending: new Set() }));

export const useSettling = (): boolean => useUnsettled(({ pending }) => pending.size > 0);

/** Keeps at once what keys changed: before anything else is done to the work. */
export function settleNow(): void {
  for (const settle of useUnsettled.getState().pending) settle();
}

if (typeof window !== 'undefined') addEventListener('pagehide', settleNow);

/**
 * A value that keys step along: seen at once, kept when they rest.
 * @param onSketch shows it in passing
 * @param onSet keeps it
 */
export function useStepped<T>(onSketch: (value: T) => void, onSet: (value: T) => void) {
  const calls = useRef({ onSketch, onSet });
  calls.current = { onSketch, onSet };
  const stepped = useRef<{ value: T; timer: ReturnType<typeof setTimeout> }>(undefined);
  const settle = useRef(() => {
    const last = stepped.current;
    if (!last) return;
    stepped.current = undefined;
    clearTimeout(last.timer);
    useUnsettled.setState(({ pending }) => ({
      pending: new Set([...pending].filter((one) => one !== settle.current)),
    }));
    calls.current.onSet(last.value);
  });
  useEffect(() => settle.current, []);
  return {
    /** where the keys have led so far; undefined where they rest */
    at: () => stepped.current?.value,
    step(value: T) {
      if (stepped.current) clearTimeout(stepped.current.timer);
      else {
        useUnsettled.setState(({ pending }) => ({
          pending: new Set([...pending, settle.current]),
        }));
      }
      const timer = setTimeout(settle.current, REST_MS);
      stepped.current = { value, timer };
      calls.current.onSketch(value);
    },
    settle: settle.current,
  };
}
