import { create } from 'zustand';

export const SECTIONS = [
  'original',
  'size',
  'clean',
  'enlarge',
  'finish',
  'compare',
  'output',
] as const;
export type SectionName = (typeof SECTIONS)[number];

/** Device pixels to one pixel of the result, or of the original, or whatever shows all. */
export type Zoom =
  { of: 'fit' } | { of: 'result'; scale: number } | { of: 'original'; scale: number };

export type Compare = 'wipe' | 'side by side' | 'result alone';

/** Findings that can be seen part by part. */
export type MapName = 'sharpness' | 'blocks';

interface View {
  section: SectionName | null;
  zoom: Zoom;
  /** what lies in the middle of the stage, as shares of the paper's width and height */
  centre: { x: number; y: number };
  compare: Compare;
  /** where the wipe's divider stands, as a share of the stage's width */
  wipe: number;
  /** the original is shown for as long as a key is held */
  holding: boolean;
  /** whether the sheet of shortcuts is open */
  sheet: boolean;
  /** in Size: the paper is arranged on the whole picture, rather than the result looked at */
  arranging: boolean;
  /** in Original: a part of the picture is being taken */
  cropping: boolean;
  /** how a dragged crop is shaped */
  cropShape: 'free' | 'paper';
  /** findings shown over the picture, part by part */
  map: MapName | null;
  set(change: Partial<Omit<View, 'set' | 'reset'>>): void;
  reset(): void;
}

const beginning = {
  section: 'original',
  zoom: { of: 'fit' },
  centre: { x: 0.5, y: 0.5 },
  compare: 'wipe',
  wipe: 0.46,
  holding: false,
  sheet: false,
  arranging: true,
  cropping: false,
  cropShape: 'free',
  map: null,
} as const satisfies Partial<View>;

/** How the bench is looked at; nothing of it belongs to the job. */
export const useView = create<View>((set) => ({
  ...beginning,
  set,
  reset: () => set(beginning),
}));
