import { benchStore } from '../picture-store';

/** How large the stage shows the print. */
export type Zoom =
  /** all of it */
  | { of: 'fit' }
  /** so many device pixels to one pixel of the result, or of the original */
  | { of: 'result'; scale: number }
  | { of: 'original'; scale: number }
  /** as large as it hangs, or as large as it looks from the ordered distance; once the screen is measured */
  | { of: 'size' }
  | { of: 'distance' };

/** What of the paper the stage shows, and how large. */
export interface Viewport {
  zoom: Zoom;
  /** what lies in the middle of the stage, as shares of the paper's width and height */
  centre: { x: number; y: number };
  /** a place of the original that the stage is asked to show, how close, and whether in its very middle */
  lookAt: { x: number; y: number; zoom: Zoom; inMiddle?: true } | null;
}

export const WHOLE_PAPER: Viewport = {
  zoom: { of: 'fit' },
  centre: { x: 0.5, y: 0.5 },
  lookAt: null,
};

/** Where one looks; a store of its own, so that panning renders nothing but the stage. */
export const useViewport = benchStore<Viewport>(WHOLE_PAPER, ['zoom', 'centre', 'lookAt']);

/** Brings a place of the original to the middle, on its own grid. */
export const lookAtOriginal = (x: number, y: number): void =>
  look({ lookAt: { x, y, zoom: { of: 'original', scale: 4 }, inMiddle: true } });

/** Looks elsewhere, closer, or from farther away. */
export const look = (change: Partial<Viewport>): void => useViewport.setState(change);
