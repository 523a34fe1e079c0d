import { useMemo } from 'react';
import { create } from 'zustand';
import { placedBench } from './placed-bench';
import { useOverlay } from './stage/overlays/overlay';
import { useOpen, type SectionName } from './ticket/open';
import type { WorkBench } from './use-work';

/** Which picture on a page lies on the bench by itself, if any. */
export const useInside = create<{ piece: number | null; picture: number | null }>(() => ({
  piece: null,
  picture: null,
}));

/** Puts a picture on a page on the bench. */
export function goInside(piece: number, picture: number, section: SectionName): void {
  useOverlay.setState({ placed: null });
  useInside.setState({ piece, picture });
  useOpen.setState({ section, step: null });
}

/** Puts the page back on the bench. */
export function backToPage(): void {
  useInside.setState({ piece: null, picture: null });
  useOpen.setState({ section: 'original', step: null });
}

/** The bench of a picture on the page, where one lies on it; that of the page otherwise. */
export function usePlacedBench(page: WorkBench, inside: number | null): WorkBench {
  const { job, original, work, trial, resolved, kept, models } = page;
  const placed = useMemo(
    () => (inside === null ? null : placedBench(page, inside)),
    // Of the page's bench all else follows from these.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [inside, job, original, work, trial, resolved, kept, models],
  );
  if (!placed) return page;
  // What it does is always the page's own, as it is now.
  const { undo, redo, moveTo, run, running, saving } = page;
  return { ...placed, undo, redo, moveTo, run, running, saving };
}
