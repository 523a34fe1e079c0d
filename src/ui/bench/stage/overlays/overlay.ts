import { benchStore } from '../../picture-store';

/** Findings that can be seen part by part. */
export type MapName = 'sharpness' | 'blocks';

/** How strongly what cleaning took is shown in place of the picture. */
export type Removed = 'off' | '1' | '4' | '12';

interface Overlays {
  /** findings shown over the picture, part by part */
  map: MapName | null;
  removed: Removed;
  /** what a network invented is shown over the picture */
  inventions: boolean;
  /** which of the worst places is looked at, counted on and on; none yet */
  stop: number | null;
}

/** What is shown over the picture, or in place of it. */
export const useOverlay = benchStore<Overlays>(
  { map: null, removed: 'off', inventions: false, stop: null },
  ['map', 'removed', 'inventions', 'stop'],
);
