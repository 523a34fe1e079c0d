import type { Treatment } from '@/core/recipe/work';
import { benchStore } from '../../picture-store';

/** Findings that can be seen part by part. */
export type MapName = 'sharpness' | 'blocks';
/** … or where they lie. */
export type Shown = MapName | 'faces';

/** How strongly what cleaning took is shown in place of the picture. */
export type Removed = 'off' | '1' | '4' | '12';

/** What of Finish is looked at, where it is open: all of it, or a part by itself. */
export type FinishLook =
  | { way: 'all' }
  | { way: 'without' }
  /** one step alone, or what it lays over the picture; by its place among steps that stand so */
  | { way: 'solo' | 'layer'; step: number; among: string }
  /** as ink spread and the eye leave it from the ordered distance */
  | { way: 'from afar' };

/** How steps stand, for a place among them to be told from the same place among others. */
export const standing = (treatment: Treatment): string =>
  treatment.map(({ kind }) => kind).join(' ');

/** What of a treatment's Finish is looked at: once steps were moved or taken out, all of it again. */
export function useFinish({ treatment }: { treatment: Treatment }): FinishLook {
  const finish = useOverlay((overlay) => overlay.finish);
  return 'among' in finish && finish.among !== standing(treatment) ? { way: 'all' } : finish;
}

interface Overlays {
  /** findings shown over the picture */
  map: Shown | null;
  removed: Removed;
  finish: FinishLook;
  /** rims that would be seen are marked on the picture */
  rims: boolean;
  /** what a network invented is shown over the picture */
  inventions: boolean;
  /** which picture on a page is outlined, by its number */
  placed: number | null;
  /** which of the worst places is looked at, counted on and on; none yet */
  stop: number | null;
}

/** What is shown over the picture, or in place of it. */
export const useOverlay = benchStore<Overlays>(
  {
    ...{ map: null, removed: 'off', finish: { way: 'all' } },
    ...{ rims: false, inventions: false, placed: null, stop: null },
  },
  ['map', 'removed', 'finish', 'rims', 'inventions', 'placed', 'stop'],
);
