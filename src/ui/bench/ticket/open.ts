import { useEffect } from 'react';
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
export const useOpen = benchStore<Open>({ section: 'original', step: null }, ['step'], ['section']);

const isSection = (name: string): name is SectionName =>
  SECTION_NAMES.some((section) => section === name);

/** Opens the section that the address names, and keeps it named there: for going back, a reload, a bookmark. */
export function useSectionInAddress(): void {
  useEffect(() => {
    const named = location.hash.slice(1);
    if (isSection(named)) useOpen.setState({ section: named });
    const name = ({ section }: Open) => {
      const address = `${location.pathname}${location.search}${section ? `#${section}` : ''}`;
      // Not a step of its own: going back leads to where one was before the bench.
      history.replaceState(history.state, '', address);
    };
    name(useOpen.getState());
    return useOpen.subscribe(name);
  }, []);
}
