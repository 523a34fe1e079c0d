import { benchStore } from '../picture-store';

export const SECTION_NAMES = [
  'original',
  'size',
  'clean',
  'enlarge',
  'finish',
  'compare',
  'output',
] as const;
export type SectionName = (typeof SECTION_NAMES)[number];

interface Open {
  section: SectionName | null;
  /** in Clean and Finish: which step of the treatment is open */
  step: number | null;
}

/** What of the ticket is open. */
export const useOpen = benchStore<Open>({ section: 'original', step: null }, ['step']);
