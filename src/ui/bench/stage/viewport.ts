import { benchStore } from '../picture-store';

/** Device pixels to one pixel of the result, or of the original, or whatever shows all. */
export type Zoom =
  { of: 'fit' } | { of: 'result'; scale: number } | { of: 'original'; scale: number };

/** What of the paper the stage shows, and how large. */
export interface Viewport {
  zoom: Zoom;
  /** what lies in the middle of the stage, as shares of the paper's width and height */
  centre: { x: number; y: number };
  /** a place of the original that the stage is asked to show */
  lookAt: { x: number; y: number } | null;
}

export const WHOLE_PAPER: Viewport = {
  zoom: { of: 'fit' },
  centre: { x: 0.5, y: 0.5 },
  lookAt: null,
};

/** Where one looks; a store of its own, so that panning renders nothing but the stage. */
export const useViewport = benchStore<Viewport>(WHOLE_PAPER, ['zoom', 'centre', 'lookAt']);

/** Looks elsewhere, closer, or from farther away. */
export const look = (change: Partial<Viewport>): void => useViewport.setState(change);
