import { useQueries } from '@tanstack/react-query';
import { inkBeside, RESULT_INK, type Ink } from '../modes/compared/inks';
import type { Measure } from './lower-store';
import type { Compared, Side } from '../modes/compared/use-compared';

/** A pane that something is measured of, and how its curve is drawn. */
export interface Inked {
  side: Side;
  ink: Ink;
}

/** All panes, the result first; each once. */
export function inkedSides({ after, beside, subjects }: Compared): Inked[] {
  const sides = [
    { side: after, ink: RESULT_INK },
    ...beside.map((side, i) => ({ side, ink: inkBeside(subjects[i]!, i) })),
  ];
  return sides.filter(({ side }, i) => sides.findIndex((one) => one.side.name === side.name) === i);
}

/** What is asked of every pane, each answer kept by its key; null where it isn't here yet. */
export function useOfSides<T>(
  measure: Measure,
  sides: readonly Inked[],
  enabled: boolean,
  asked: (side: Side) => { key: unknown; ask(signal: AbortSignal): Promise<T> },
): { answers: (T | null)[]; failed: boolean } {
  const found = useQueries({
    queries: sides.map(({ side }) => {
      const { key, ask } = asked(side);
      return {
        queryKey: [measure, key],
        queryFn: ({ signal }: { signal: AbortSignal }) => ask(signal),
        ...{ enabled, staleTime: Infinity, gcTime: 30_000, retry: false },
      };
    }),
  });
  return {
    answers: found.map(({ data }) => (data as T | undefined) ?? null),
    failed: found.some(({ isError }) => isError),
  };
}
