import type { Method } from '@/core/steps/enlarge/methods';
import { usualMethods, type Varied } from '@/core/recipe/variants';
import { useMemo } from 'react';
import { benchStore } from '../../../picture-store';
import type { WorkBench } from '../../../use-work';

interface Trying {
  /** what the variants differ in */
  varied: Varied;
  /** methods that are tried; null for those that are usual for the picture */
  tried: readonly Method[] | null;
}

/** What is tried on one spot. */
export const useTrying = benchStore<Trying>({ varied: 'method', tried: null }, ['tried']);

/** The methods that are tried on the bench's picture. */
export function useTried({ found }: Pick<WorkBench, 'found'>): readonly Method[] {
  const tried = useTrying((state) => state.tried);
  return useMemo(() => tried ?? usualMethods(found.kind), [tried, found.kind]);
}
