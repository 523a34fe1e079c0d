import { useCallback, useRef } from 'react';

/**
 * Whether any of several panes doesn't show its final pixels yet.
 * @param onBusy is told of all of them together
 * @returns what the pane of a place tells its own state to; the same as long as `onBusy` is
 */
export function useBusy(
  onBusy: (busy: boolean) => void,
): (pane: number) => (busy: boolean) => void {
  const computing = useRef(new Set<number>());
  const hears = useRef(new Map<number, (busy: boolean) => void>());
  const told = useRef(onBusy);
  told.current = onBusy;
  return useCallback((pane: number) => {
    let hear = hears.current.get(pane);
    if (!hear) {
      hear = (busy: boolean) => {
        if (busy) computing.current.add(pane);
        else computing.current.delete(pane);
        told.current(computing.current.size > 0);
      };
      hears.current.set(pane, hear);
    }
    return hear;
  }, []);
}
