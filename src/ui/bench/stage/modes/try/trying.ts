import type { Method } from '@/core/steps/enlarge/methods';
import { USUAL_METHODS, type Varied } from '@/core/recipe/variants';
import { benchStore } from '../../../picture-store';

interface Trying {
  /** what the variants differ in */
  varied: Varied;
  /** methods that are tried */
  tried: readonly Method[];
}

/** What is tried on one spot. */
export const useTrying = benchStore<Trying>({ varied: 'method', tried: USUAL_METHODS }, []);
