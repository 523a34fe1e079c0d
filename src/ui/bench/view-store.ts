import { create } from 'zustand';
import type { Method } from '@/core/steps/enlarge/methods';
import { USUAL_METHODS, type Varied } from '@/core/recipe/variants';
import type { Spot } from '@/core/steps/retouch/retouch';
import { look, useViewport, WHOLE_PAPER, type Viewport } from './stage/viewport';

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

export type Compare = 'wipe' | 'side by side' | 'result alone';

/** Findings that can be seen part by part. */
export type MapName = 'sharpness' | 'blocks';

/** How strongly what cleaning took is shown in place of the picture. */
export type Removed = 'off' | '1' | '4' | '12';

/** How the zone under work is shown. */
export type ZoneLook = 'over' | 'alone' | 'hidden';

/** What a click on the picture does while spots are mended. */
export type Spotting = 'off' | 'heal' | 'clone';

export interface BrushSettings {
  /** radius in pixels of the original */
  size: number;
  softness: number;
  flow: number;
  takingAway: boolean;
}

export interface View {
  section: SectionName | null;
  /** the trial on the bench; the first where none was chosen */
  trial: string | null;
  /** the trial that it is compared with; the original where there is none */
  against: string | null;
  /** several variants are tried beside each other on one spot */
  trying: boolean;
  varied: Varied;
  /** methods that are tried */
  tried: readonly Method[];
  /** what a network invented is shown over the picture */
  inventions: boolean;
  /** which of the worst places is looked at, counted on and on; none yet */
  stop: number | null;
  /** methods are tested on this very picture */
  testing: boolean;
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
  /** in Clean and Finish: which step of the treatment is open */
  openStep: number | null;
  removed: Removed;
  /** the zone that is painted on */
  zone: string | null;
  zoneLook: ZoneLook;
  /** which part of the zone takes its colour from the next click on the picture */
  picking: number | null;
  brush: BrushSettings;
  spotting: Spotting;
  spotRadius: number;
  /** where cloning takes from, in pixels of the original */
  cloneFrom: { x: number; y: number } | null;
  /** spots that the application found, until they are healed or refused */
  suggested: Spot[];
  /** the picture is moved rather than painted on, for as long as a key is held */
  panning: boolean;
  /** findings shown over the picture, part by part */
  map: MapName | null;
  /** the picture that all this is of; none before one lies on the bench */
  piece: number | null;
  /** … and its job */
  job: number | null;
  set(change: Partial<ViewState>): void;
  /** Puts a picture on the bench, as it was looked at when it last lay there. */
  enter(job: number, piece: number): void;
}

type ViewState = Omit<View, 'set' | 'enter'>;

const beginning: ViewState = {
  piece: null,
  job: null,
  section: 'original',
  trial: null,
  against: null,
  trying: false,
  varied: 'method',
  tried: USUAL_METHODS,
  testing: false,
  inventions: false,
  stop: null,
  compare: 'wipe',
  wipe: 0.46,
  holding: false,
  sheet: false,
  arranging: true,
  cropping: false,
  cropShape: 'free',
  map: null,
  openStep: null,
  removed: 'off',
  zone: null,
  zoneLook: 'over',
  picking: null,
  brush: { size: 60, softness: 0.6, flow: 1, takingAway: false },
  spotting: 'off',
  spotRadius: 6,
  cloneFrom: null,
  suggested: [],
  panning: false,
};

/** What belongs to one picture: nothing of it means anything on another. */
const OF_PICTURE = [
  'trial',
  'against',
  'trying',
  'inventions',
  'stop',
  'testing',
  'cropping',
  'map',
  'openStep',
  'removed',
  'zone',
  'picking',
  'spotting',
  'cloneFrom',
  'suggested',
] as const satisfies readonly (keyof ViewState)[];

type OfPicture = Pick<ViewState, (typeof OF_PICTURE)[number]>;

const ofPicture = (view: ViewState): OfPicture =>
  Object.fromEntries(OF_PICTURE.map((key) => [key, view[key]])) as OfPicture;

/** How pictures were looked at that lay on the bench before. */
const left = new Map<number, OfPicture & { viewport: Viewport }>();

/** How the bench is looked at; nothing of it belongs to the job. */
export const useView = create<View>((set, get) => ({
  ...beginning,
  set,
  enter: (job, piece) => {
    const now = get();
    if (now.piece === piece) return;
    if (now.job !== job) {
      // Another job begins at its beginning.
      left.clear();
      look(WHOLE_PAPER);
      set({ ...beginning, job, piece });
      return;
    }
    if (now.piece !== null) {
      left.set(now.piece, { ...ofPicture(now), viewport: useViewport.getState() });
    }
    const before = left.get(piece) ?? { ...ofPicture(beginning), viewport: WHOLE_PAPER };
    look(before.viewport);
    set({ ...ofPicture({ ...now, ...before }), piece });
  },
}));
