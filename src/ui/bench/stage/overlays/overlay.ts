import { benchStore } from '../../picture-store';

/** Findings that can be seen part by part. */
export type MapName = 'sharpness' | 'blocks';

/** How strongly what cleaning took is shown in place of the picture. */
export type Removed = 'off' | '1' | '4' | '12';

/** What of Finish is looked at, where it is open: all of it, or a part by itself. */
export type FinishLook =
  | { way: 'all' }
  | { way: 'without' }
  /** one step alone, or what it lays over the picture; by its place in the treatment */
  | { way: 'solo' | 'layer'; step: number }
  /** as ink spread and the eye leave it from the ordered distance */
  | { way: 'from afar' };

interface Overlays {
  /** findings shown over the picture, part by part */
  map: MapName | null;
  removed: Removed;
  finish: FinishLook;
  /** what a network invented is shown over the picture */
  inventions: boolean;
  /** which of the worst places is looked at, counted on and on; none yet */
  stop: number | null;
}

/** What is shown over the picture, or in place of it. */
export const useOverlay = benchStore<Overlays>(
  { map: null, removed: 'off', finish: { way: 'all' }, inventions: false, stop: null },
  ['map', 'removed', 'finish', 'inventions', 'stop'],
);
