import type { ComponentType, RefObject } from 'react';
import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import type { Resolved } from '@/core/recipe/resolve';
import type { PaneOriginal } from '../../preview-original';
import type { WorkBench } from '../../use-work';
import type { Compared } from './compared/use-compared';
import type { Looking, Mode } from './mode';

/** What every way of looking is given. */
export interface SceneProps {
  mode: Mode;
  bench: WorkBench;
  resolved: Extract<Resolved, { ok: true }>;
  original: PaneOriginal;
  compared: Compared;
  /** the stage's element, and its size in device pixels */
  frame: RefObject<HTMLElement | null>;
  view: Size;
  /** device pixels to one of the result */
  scale: number;
  onTrouble(words: string | null): void;
  /** whether the result showed before, in whichever way */
  shown: boolean;
  onBusy(busy: boolean): void;
}

/** A way of looking: its scene with its captions, and what the bar below the stage says of it. */
export interface ModeView {
  Scene: ComponentType<SceneProps>;
  /** size of one of its panes in device pixels */
  pane(view: Size, looking: { together: 2 | 3; stacked: boolean }): Size;
  /** panes beside the result's; one unless it is said */
  others?(looking: { together: 2 | 3 }): number;
  /** what the bar offers while one looks so */
  Options?: ComponentType;
  /** whether the scene is moved and zoomed with the viewport */
  moves: boolean;
  /** in which part of its pane the result shows, in shares of it; null where it doesn't. All of it unless it is said */
  shows?(
    looking: Pick<Looking, 'divider' | 'level' | 'window' | 'inside' | 'blinked'>,
  ): Rect | null;
  /** whether findings and tools lie over its result */
  overlaid: boolean;
  /** whether the bar offers ways to compare; it does unless it is said */
  compares?: false;
  /** what the bar says in place of zooms and what is compared */
  hint?: string;
}

/** A pane as large as the stage. */
export const wholeView = (view: Size): Size => view;
