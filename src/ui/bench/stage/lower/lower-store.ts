import { benchStore } from '../../picture-store';

/** What is measured of what shows. */
export const MEASURES = ['probe', 'spectrum', 'histogram'] as const;
export type Measure = (typeof MEASURES)[number];

interface Lower {
  folded: boolean;
  measure: Measure;
}

/** What lies under the stage while Compare is open. */
export const useLower = benchStore<Lower>({ folded: false, measure: 'probe' }, []);
