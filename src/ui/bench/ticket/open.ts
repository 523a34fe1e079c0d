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

/** Those of a picture on a page: its size is the page's, and so is the file. */
export const INSIDE_SECTIONS = ['original', 'clean', 'enlarge', 'finish', 'compare'] as const;

interface Open {
  section: SectionName | null;
  /** in Clean and Finish: which step of the treatment is open */
  step: number | null;
}

/** What of the ticket is open. */
export const useOpen = benchStore<Open>({ section: 'original', step: null }, ['step']);
